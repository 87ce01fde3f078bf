import { momentOf, timeOf } from './dayTime';

const at = (text: string) => Date.parse(text);
test.each([
  ['later today', '16:05', '2026-11-30T14:00:30Z', 'UTC', '2026-11-30T16:05:00Z'],
  ['tomorrow, when it has passed', '08:00', '2026-11-30T14:00:30Z', 'UTC', '2026-12-01T08:00:00Z'],
  ['now is tomorrow', '14:00', '2026-11-30T14:00:30Z', 'UTC', '2026-12-01T14:00:00Z'],
  ['in another zone', '16:05', '2026-11-30T14:00:30Z', 'America/Chicago', '2026-11-30T22:05:00Z'],
  ['over the night in which clocks go back', '08:00', '2026-11-01T03:00:00Z', 'America/Chicago', '2026-11-01T14:00:00Z'],
  ['over the night in which clocks go forward', '08:00', '2026-03-08T03:00:00Z', 'America/Chicago', '2026-03-08T13:00:00Z'],
])('%s', (_, time, now, zone, expected) => {
  const found = momentOf(time, at(now), zone);
  expect(new Date(found).toISOString()).toBe(new Date(at(expected)).toISOString());
  expect(timeOf(found, zone)).toBe(time);
});
