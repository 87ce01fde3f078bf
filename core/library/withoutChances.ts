import type { Family } from './documents';

/** A family as a page needs it: without the faults and chances that only the diagnosis reckons with, which are most of its bytes. */
export function withoutChances({ faults: _faults, often: _often, fixed: _fixed, ...family }: Family): Family {
  return { ...family, tests: family.tests.map(({ p: _p, ...test }) => test) };
}
