/** What is told of a try that confirms a fix, as a list of what happened holds it. */
interface Told {
  kind?: string;
  fault?: string;
  result?: string | null;
  replaces?: string | null;
  id?: string;
}

/**
 * Lines of a list, where tries of the same fix that follow each other without a miss stand as one: the last of them, with how many there are.
 * @param lines in order of time; only tries that worked and were not withdrawn are drawn together
 */
export function triesInARow<Line extends object>(lines: readonly Line[]): { line: Line; times: number }[] {
  const told = lines as readonly (Line & Told)[];
  const withdrawn = new Set(told.flatMap((l) => (l.replaces ? [l.replaces] : [])));
  const counts = (l: Line & Told) => l.kind === 'triedAgain' && l.result === 'works' && !withdrawn.has(l.id ?? '');
  const folded: { line: Line & Told; times: number }[] = [];
  for (const line of told) {
    const before = folded.at(-1);
    if (before && counts(line) && counts(before.line) && before.line.fault === line.fault)
      folded[folded.length - 1] = { line, times: before.times + 1 };
    else folded.push({ line, times: 1 });
  }
  return folded;
}
