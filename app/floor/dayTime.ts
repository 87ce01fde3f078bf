/** Time of day as a time field has it, "16:05", in a time zone. */
export function timeOf(ms: number, zone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(ms);
}

const minute = 60_000;

/** The next moment at which the clock of a time zone shows that time, ms; one day's search, so a time that a change of clocks leaves out is that of the minute after it. */
export function momentOf(time: string, now: number, zone: string): number {
  const from = Math.floor(now / minute) * minute;
  const shown = timeOf(from, zone);
  const minutes = (t: string) => Number(t.slice(0, 2)) * 60 + Number(t.slice(3, 5));
  const ahead = (minutes(time) - minutes(shown) + 1440) % 1440 || 1440;
  const guess = from + ahead * minute;
  // Clocks were changed in between: by as much as the guess is off.
  const off = ((minutes(time) - minutes(timeOf(guess, zone)) + 2160) % 1440) - 720;
  return guess + off * minute;
}
