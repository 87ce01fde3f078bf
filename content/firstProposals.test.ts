import { assess, Diagnostician, type Finding, guide, oneVerdict, refusedKeys, type Step, usualBudget } from '../core/diagnosis';
import { resolveParams, valuesOf } from '../core/library';
import { often } from './often.testing';
import { shipped } from './session.testing';
import { afterReplacement, inFurtherTypes, inOtherTypes, type Situation } from './situations.testing';

/** What the app uses; every time a part of it, which proposes the same in all of these. */
const budget = { ...usualBudget, weighings: often(usualBudget.weighings, 20_000) };

const procedures = new Set([...shipped.procedures.values()].map((p) => p.id));

/** What the page of such a case says: faults by weight, the steps in their order, and the one verdict. */
function pageOf(id: string, seen: readonly string[], told: readonly string[], keys: readonly string[]) {
  const family = shipped.families.get(id)!;
  const params = valuesOf(resolveParams(family));
  const findings = seen.map((line, i): Finding => {
    const [test, outcome, key] = line.split(' ') as [string, string, string?];
    return { id: String(i), test, outcome, ...(key === undefined ? {} : { key }) };
  });
  const diagnosis = new Diagnostician({ family, params, told, keys, ratePerMinute: 1, findings }).diagnose(budget);
  const facts = { changed: [...told], symptoms: [...told], keys: [...keys], runs: {}, verified: false };
  const assessment = assess(
    family,
    params,
    facts,
    findings.flatMap((f) => ('test' in f ? [f] : [])),
  );
  const ids = new Set([...procedures].filter((p) => shipped.procedures.get(p)!.family === id));
  return {
    rank: diagnosis.beliefs.map((b) => `${b.fault}${b.key === undefined ? '' : ` ${b.key}`}`),
    steps: guide(family, assessment, diagnosis, findings, null, ids, false).map(nameOf),
    verdict: oneVerdict(assessment.verdict ?? null, diagnosis, refusedKeys(assessment.links)),
  };
}
function nameOf(step: Step): string {
  if (step.kind === 'test') return `${step.test.id}${step.key === undefined ? '' : ` ${step.key}`}`;
  if (step.kind === 'procedure') return `do ${step.procedure}`;
  return 'fault' in step ? `fix ${step.fault}${step.key === undefined ? '' : ` ${step.key}`}` : step.kind;
}

/** What a practitioner would do first, with the reason. The order was written from shared practice, not from what the engine says. */
const situations: Situation[] = [
  {
    name: 'a dead chip is not blamed on the coil',
    family: 'ring',
    seen: ['lamp refused A', 'lamp accepted B'],
    told: ['oneKeyWorks'],
    keys: ['A', 'B'],
    rank: 'chipDead A',
    notBefore: ['coilOpen', 'coilWeak', 'coilPower'],
    first: ['coverAway A', 'keyPut A', 'keyRead A'],
    within3: [],
    not3: /coil|field|^fix/,
    why: 'The other key works on the same coil. Cheap looks, then this key in a reader.',
  },
  {
    name: 'a key that is accepted alone, with the others laid away',
    family: 'transponder-dwell',
    seen: ['lamp refused A', 'coverAway none A', 'keysApart accepted A'],
    told: ['cranks'],
    keys: ['A', 'B'],
    rank: 'secondChip',
    notBefore: ['coilOpen', 'immobilizerForgot'],
    first: ['fix secondChip'],
    within3: [],
    not3: /coverAway|keysApart|keyPut/,
    why: 'The cause is found and away. To look at covers and at how the key sits says nothing any more, and counted against the find.',
  },
  {
    name: 'it runs with the other key, and the pellet of this one lies between two values',
    family: 'pellet',
    seen: ['lamp refused A', 'lamp accepted B', 'pelletOhms between A', 'engine runs B'],
    told: ['oneKeyWorks'],
    keys: ['A', 'B'],
    rank: 'pelletWorn A',
    notBefore: ['contactsDirty', 'columnWire'],
    first: ['fix pelletWorn A'],
    within3: ['verify'],
    not3: /columnOhms|cleanContacts/,
    why: 'The fault is found and not mended. To verify every key first only finds the same key refused once more.',
  },
  {
    name: 'it runs with the other key, and this one sends no infrared',
    family: 'infrared',
    seen: ['dash dark A', 'battery healthy', 'windowClean refused A', 'dash alive B', 'engine runs B'],
    told: ['noCrank'],
    keys: ['A', 'B'],
    rank: 'irEmitter A',
    notBefore: ['ignitionFeed'],
    first: ['fix irEmitter A', 'infraredSeen A'],
    within3: ['verify'],
    not3: /battery|feed/,
    why: 'A dark dash says nothing of this key, but the other one woke it: the key is left, and it is seen to before all are verified.',
  },
  {
    name: 'an ornament nobody told of, two keys refused and a third accepted',
    family: 'ring',
    seen: ['lamp refused A', 'lamp refused B', 'lamp accepted C'],
    told: [],
    keys: ['A', 'B', 'C'],
    rank: 'coverNear',
    notBefore: ['coilWeak', 'coilPower', 'coilOpen', 'immobilizerInternal'],
    first: ['coverAway A', 'coverAway B'],
    within3: [],
    not3: /^fix|^do /,
    why: 'One key that passes does not clear a weak field. What lies round the lock is looked at first: it takes a minute.',
  },
  {
    name: 'a weak fob battery with a live dash',
    family: 'rearm-fob',
    seen: ['lamp awake A', 'engine silent A'],
    told: ['noCrank'],
    keys: ['A', 'B'],
    rank: 'fobCell A',
    notBefore: ['brakeSwitch', 'starterRelay', 'starterMotor', 'leverSwitch'],
    first: ['fobCell A', 'fix fobCell A'],
    within3: [],
    not3: /starterCircuit|starterVolts|immobilizerFeed/,
    why: 'A weak battery passes locks and cluster and fails the second check: it comes before clutch switch and starter.',
  },
  {
    name: 'steering lock, dash alive',
    family: 'infrared',
    seen: ['dash alive A', 'engine silent A'],
    told: ['noCrank'],
    keys: ['A', 'B'],
    rank: 'steeringDead',
    notBefore: ['starterMotor', 'switchBlind', 'irEmitter A'],
    first: ['steeringSound'],
    within3: [],
    not3: /starterVolts|dash B|^fix/,
    why: 'One listens to the lock in seconds.',
  },
  {
    name: 'a key with the wrong resistor',
    family: 'pellet',
    seen: ['lamp refused A', 'lamp accepted B'],
    told: ['newKey', 'oneKeyWorks'],
    keys: ['A', 'B'],
    rank: 'pelletForeign A',
    notBefore: ['pelletWorn A', 'columnWire', 'contactsDirty'],
    first: ['pelletOhms A', 'stepMatches A'],
    within3: ['stepMatches A'],
    not3: /column|tilt|fixedResistor/,
    why: 'Ohms of the key against the car’s value, before a column is opened.',
  },
  {
    name: 'only a valet key',
    family: 'engine-immobilizer',
    seen: ['lamp valetKey A'],
    told: ['newKey'],
    keys: ['A'],
    rank: 'batteryFlat',
    notBefore: ['keyUnlearned A', 'chipWrong A', 'coilOpen'],
    first: ['engine A'],
    within3: [],
    not3: /coilField|keyRead|^fix|^do /,
    why: 'The key is known; the verdict says that it is a valet key and teaches no other.',
  },
  {
    name: 'an engine control module of another car',
    family: 'transponder-dwell',
    seen: ['lamp accepted A', 'engine dies A'],
    told: ['ecm', 'startsAndDies'],
    keys: ['A', 'B'],
    rank: 'engineDonor',
    notBefore: ['networkBreak', 'fuelPump', 'starterMotor'],
    first: ['moduleOrigin', 'numbersCompared'],
    within3: [],
    not3: /starter|coil/,
    why: 'Where it came from is asked in a minute and its VIN read in a few, before an hour’s relearn.',
  },
  {
    name: 'from another car by its label: its VIN is read next',
    family: 'transponder-dwell',
    seen: ['lamp accepted A', 'engine dies A', 'moduleOrigin used'],
    told: ['ecm', 'startsAndDies'],
    keys: ['A', 'B'],
    rank: 'engineDonor',
    notBefore: ['engineUnpaired'],
    first: ['numbersCompared'],
    within3: [],
    not3: /starter|coil/,
    why: 'A relearn can’t teach a module that still holds another car’s data.',
  },
  {
    name: 'the voltage sags in a relearn',
    family: 'transponder-dwell',
    seen: ['lamp steady A', 'batteryLoad falls', 'workTold short'],
    told: ['ecm'],
    keys: ['A', 'B'],
    rank: 'cutShort',
    notBefore: ['immobilizerInternal', 'keyUnlearned A', 'coilOpen'],
    first: ['battery', 'fix batteryFlat'],
    within3: [],
    not3: /tenTries|^lamp|keyPut/,
    why: 'Stable power first, not one more try.',
  },
  {
    name: 'a list of unrelated trouble codes with a dead key',
    family: 'ring',
    seen: ['lamp refused A', 'whoAnswers all', 'lamp accepted B'],
    told: ['oneKeyWorks'],
    keys: ['A', 'B'],
    rank: 'chipDead A',
    notBefore: ['networkBreak', 'immobilizerInternal', 'engineUnfed'],
    first: ['coverAway A', 'keyPut A', 'keyRead A'],
    within3: [],
    not3: /bus|numbers|release|^fix/,
    why: 'Codes of lamps and motors say nothing of the key.',
  },
  {
    name: 'a cracked joint in a key',
    family: 'ring',
    seen: ['lamp refused A', 'lamp accepted B', 'tenTries taken A'],
    told: ['intermittent', 'keyDropped'],
    keys: ['A', 'B'],
    rank: 'chipCracked A',
    notBefore: ['coilWeak', 'chipDead A', 'keyUnlearned A'],
    first: ['coverAway A', 'keyPut A', 'tenTries A'],
    within3: ['keyPut A'],
    not3: /coilField|immobilizerFeed|^do /,
    why: 'It goes and fails with this key alone: it is turned over and pressed before anything is measured on the car.',
  },
  {
    name: 'one key not learned',
    family: 'ring',
    seen: ['lamp refused A', 'lamp accepted B', 'keyRead reads A'],
    told: ['newKey', 'oneKeyWorks'],
    keys: ['A', 'B'],
    rank: 'keyUnlearned A',
    notBefore: ['chipWrong A', 'chipDead A', 'coverNear', 'immobilizerForgot'],
    first: ['do add-key-ring', 'keysStored'],
    within3: [],
    not3: /coil|field|tilt/,
    why: 'It reads, it is of the right kind, and the other key works: it is learned.',
  },
  {
    name: 'one key runs the car, the new one is refused',
    family: 'ring',
    seen: ['lamp accepted A', 'engine runs A', 'lamp refused B', 'keyRead reads B'],
    told: ['newKey', 'oneKeyWorks'],
    keys: ['A', 'B'],
    rank: 'keyUnlearned B',
    notBefore: ['chipWrong B', 'chipDead B'],
    first: ['do add-key-ring'],
    within3: [],
    not3: /coil|field|tilt/,
    why: 'The trouble of the other key is found, and a procedure fixes it: that comes before all keys are verified, as a repair would.',
  },
  {
    name: 'the remote is dead and the car starts',
    family: 'slot-store',
    seen: ['engine runs A'],
    told: ['remoteDead'],
    keys: ['A', 'B'],
    rank: 'remoteOut',
    notBefore: ['chipDead A', 'chipDead B', 'keyUnlearned B', 'batteryFlat'],
    first: ['remotePressed A', 'remoteCell A', 'fix remoteOut'],
    within3: [],
    not3: /dash|coil|otherKey|boxLive/,
    why: 'The chip is proven by the start. The remote is another thing in the same head.',
  },
];

describe('what is proposed first', () => {
  test.each([...situations, ...inOtherTypes, ...inFurtherTypes, ...afterReplacement])(
    '$family: $name ($why)',
    ({ family, seen, told, keys, rank, notBefore, first, within3, not3 }) => {
      const page = pageOf(family, seen, told, keys);
      const place = (fault: string) => page.rank.indexOf(fault);
      expect(place(rank)).toBeGreaterThanOrEqual(0);
      for (const other of notBefore) {
        expect([other, place(other)]).toEqual([other, expect.any(Number)]);
        expect([other, place(other) > place(rank)]).toEqual([other, true]);
      }
      const three = page.steps.slice(0, 3);
      expect(first).toContain(three[0]);
      for (const step of within3) expect(three).toContain(step);
      expect(three.filter((s) => not3.test(s))).toEqual([]);
    },
  );

  test('a valet key that is known says so', () => {
    expect(pageOf('engine-immobilizer', ['lamp valetKey A'], ['newKey'], ['A']).verdict!.say).toMatch(
      /valet key: it starts the car and can.t teach others/,
    );
    expect(pageOf('engine-immobilizer', ['lamp valetKey A', 'lamp mainKey B'], ['newKey'], ['A', 'B']).verdict!.say).not.toMatch(/valet/);
  });
});

// "No code means little": the weight of two faults against each other moves by less than two and a half times, whatever the type.
test.each([...shipped.families.keys()])('%s: a scan without a code that matters, or with stored ones only, moves no two faults far apart', (id) => {
  const family = shipped.families.get(id)!;
  const faultsHere = new Set(family.faults!.map((f) => f.id));
  const { p } = family.tests.find((t) => t.id === 'codesRead')!;
  const rows = Object.entries(p!).flatMap(([name, row]) =>
    name === 'default' || faultsHere.has(name) ? [[name, row as Record<string, number>] as const] : [],
  );
  const told = rows.filter(([name]) => !/networkBreak|immobilizerFuse|engineUnfed|battery|ground|ignitionFeed/.test(name));
  for (const outcome of ['none', 'onlyStored']) {
    const chances = told.map(([, row]) => row[outcome]!);
    expect(Math.max(...chances) / Math.min(...chances)).toBeLessThan(2.5);
  }
  // A code that is present says more for what sets it than one that is only stored.
  const ratio = (fault: string, outcome: string) =>
    (p![fault] as Record<string, number>)[outcome]! / (p!.default as Record<string, number>)[outcome]!;
  if (faultsHere.has('engineUnpaired')) expect(ratio('engineUnpaired', 'immobilizer')).toBeGreaterThan(4 * ratio('engineUnpaired', 'onlyStored'));
});

// "Mend, never teach around it": both keys refused and each inside a value, so the relearn is what the chances name.
test('pellet: no relearn is proposed before a key was seen to reach the module', () => {
  const each = ['A', 'B'].flatMap((key) => [`lamp refused ${key}`, `cleanContacts same ${key}`, `engine silent ${key}`]);
  const seen = [...each, 'numbersCompared agree', 'moduleOrigin none', 'workTold none'];
  const relearn = 'fix immobilizerForgot';
  const before = pageOf('pellet', seen, [], ['A', 'B']);
  expect(before.steps).toContain(relearn);
  expect(['columnOhms', 'tilt', 'fixedResistor']).toContain(before.steps[0]);
  expect(pageOf('pellet', [...seen, 'columnOhms equal'], [], ['A', 'B']).steps[0]).toBe('do teach-key-value');
});

// "Light dark and no crank: power is looked at before the coil's field, in every family"
describe('the light stays dark and nothing cranks', () => {
  const darkOf = (id: string) => {
    const family = shipped.families.get(id)!;
    const immobilizer = family.tests.find((t) => t.triage?.includes('immobilizer'))!;
    const dark = Object.entries(immobilizer.outcomes).filter(([, o]) => o.says.some((s) => s.link === 'power' && s.state === 'doubtful'));
    return { family, immobilizer, dark };
  };

  const told = [['noCrank'], ['noCrank', 'dashDark']];
  test.each([...shipped.families.keys()].flatMap((id) => told.map((t) => [id, t] as const)))(
    '%s, told %j: the test of the immobilizer has an answer for it, and power comes first',
    (id, told) => {
      const { family, immobilizer, dark } = darkOf(id);
      expect(dark.map(([outcome]) => outcome)).toHaveLength(1);
      const seen = `${immobilizer.id} ${dark[0]![0]}${immobilizer.perKey ? ' A' : ''}`;
      const page = pageOf(id, [seen], told, ['A', 'B']);
      const power = new Set(['power', 'ignitionFeed']);
      const supplyFaults = new Set(family.faults!.filter((f) => power.has(f.link)).map((f) => f.id));
      const [first] = page.steps;
      const test = family.tests.find((t) => t.id === first!.split(' ')[0]);
      const says = test ? Object.values(test.outcomes).flatMap((o) => o.says) : [];
      // A question to a module that also falls silent without power is not a look at the power.
      const shows = says.some((s) => power.has(s.link)) && !says.some((s) => s.link === 'keyAccepted');
      expect([first, shows || supplyFaults.has(first!.replace(/^fix /, ''))]).toEqual([first, true]);
      expect(page.steps.slice(0, 3).filter((s) => /coilField|detectorProven|fieldCompared|keyRead|sensorLine/.test(s))).toEqual([]);
      expect(page.verdict!.kind).toBe('look');
      expect(page.verdict!.say).toMatch(/power|supply|Supply|battery|Battery|fuses/);
      expect(page.verdict!.say).not.toMatch(/eave the immobilizer|coil/);
    },
  );

  test.each([...shipped.families.keys()])('%s: a module without a voice makes the light dark nine times of ten, and never reads as known', (id) => {
    const { immobilizer, dark } = darkOf(id);
    const mute = immobilizer.p!['immobilizer.mute'] as Record<string, number>;
    // Where most cars have no light at all, silence of the dash tells nothing of the module.
    if (id !== 'slot-store') expect(mute[dark[0]![0]]).toBeGreaterThanOrEqual(0.9);
    for (const [outcome, o] of Object.entries(immobilizer.outcomes))
      if (o.says.some((s) => s.link === 'keyAccepted' && s.state === 'holds' && s.weight === 'direct'))
        expect(mute[outcome] ?? 0).toBeLessThanOrEqual(0.02);
  });
});
