import type { Family, FaultDefinition, TestDefinition } from '../library';

export const fault = (id: string, link: string, more: Partial<FaultDefinition> = {}): FaultDefinition => ({
  id,
  title: id,
  link,
  group: 'reader',
  prior: 1,
  looks: 'so',
  cure: { do: 'mend it', minutes: 10 },
  prove: { say: 'start it', how: 'starts' },
  ...more,
});

export const testOf = (id: string, outcomes: string[], p: TestDefinition['p'], more: Partial<TestDefinition> = {}): TestDefinition => ({
  id,
  title: id,
  do: id,
  minutes: 1,
  perKey: false,
  tools: [],
  effect: 'none',
  cautions: [],
  outcomes: Object.fromEntries(outcomes.map((o) => [o, { say: o, says: [] }])),
  ...(p ? { p } : {}),
  humanError: 0,
  ...more,
});

/** A family of three links with the faults and tests that a test needs. */
export const family = (faults: FaultDefinition[], tests: TestDefinition[], more: Partial<Family> = {}): Family => ({
  kind: 'family',
  id: 'small',
  version: 1,
  title: 'Small',
  source: 'for a test',
  checked: null,
  use: [],
  text: { what: '', how: '', advice: [], misses: [] },
  params: {},
  chain: [
    { id: 'reader', title: 'Reader', perKey: false, how: '' },
    { id: 'key', title: 'Key', perKey: true, how: '' },
    { id: 'keyAccepted', title: 'Key accepted', perKey: true, how: '' },
  ],
  lamps: [],
  tests,
  verdicts: [],
  next: [],
  verify: ['runs'],
  newKey: null,
  modules: {},
  features: {},
  faults,
  elsewhere: { prior: 0.2, minutes: 60, money: 40 },
  ...more,
});
