/** How long a test has been open, in ms, from the moment at which its count began; none yet (0), or one of a clock that ran ahead, counts nothing. */
export const openFor = (since: number, now: number): number => (since > 0 ? Math.max(0, now - since) : 0);
