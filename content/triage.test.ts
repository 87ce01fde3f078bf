import { assess, type EvidenceEntry } from '../core/diagnosis';
import { type Family, resolveParams, valuesOf } from '../core/library';
import { triage } from '../core/triage';
import { shippedContent } from './shipped.testing';

const { library } = shippedContent();
const families = [...library.families.values()];

function triageOf(family: Family, seen: [test: string, outcome: string, key?: string][], more: { changed?: string[]; symptoms?: string[] } = {}) {
  const evidence = seen.map(([test, outcome, key], i): EvidenceEntry => {
    const perKey = family.tests.find((t) => t.id === test)!.perKey;
    return { id: String(i), test, outcome, ...(perKey ? { key: key ?? 'A' } : {}) };
  });
  const facts = { changed: more.changed ?? [], symptoms: more.symptoms ?? [], keys: ['A', 'B', 'C'], runs: {}, verified: false };
  const { links } = assess(family, valuesOf(resolveParams(family)), facts, evidence);
  return triage(family, links, { ...facts, askedWhatChanged: false }, evidence);
}

describe('what the first look says, in each family', () => {
  // Read off craft.md, chapter 2, line by line: what the immobilizer's word means in this system type, and where to look then.
  test.each([
    ['alarm-latch', 'lamp', 'quiet', 'accepted', 'interlocks starter fuelSpark'],
    ['alarm-latch', 'lamp', 'latched', 'refused', 'alarmQuiet reader key'],
    ['alarm-latch', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['cylinder', 'lamp', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['cylinder', 'lamp', 'refused', 'refused', 'reader keyAccepted'],
    ['cylinder', 'lamp', 'steady', 'notClear', 'reader keyAccepted startEnabled'],
    ['engine-immobilizer', 'lamp', 'mainKey', 'accepted', 'interlocks starter fuelSpark'],
    ['engine-immobilizer', 'lamp', 'valetKey', 'accepted', 'interlocks starter fuelSpark'],
    ['engine-immobilizer', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['infrared', 'dash', 'alive', 'accepted', 'steering interlocks starter'],
    ['infrared', 'dash', 'takeOut', 'refused', 'key keyAccepted'],
    ['infrared', 'dash', 'dark', 'silent', 'power ignitionFeed reader'],
    ['master-user', 'lamp', 'user', 'accepted', 'interlocks starter fuelSpark'],
    ['master-user', 'lamp', 'master', 'accepted', 'interlocks starter fuelSpark'],
    ['master-user', 'lamp', 'unknown', 'refused', 'key keyAccepted'],
    ['master-user', 'lamp', 'aerial', 'refused', 'reader key keyAccepted'],
    ['pellet', 'lamp', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['pellet', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['pellet', 'lamp', 'steady', 'notClear', 'reader keyAccepted ignitionFeed'],
    ['pellet', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['pocket-fob', 'dash', 'known', 'accepted', 'steering interlocks starter'],
    ['pocket-fob', 'dash', 'noFob', 'refused', 'reader key keyAccepted'],
    ['pocket-fob', 'dash', 'steering', 'accepted', 'steering interlocks starter'],
    ['pocket-fob', 'dash', 'nothing', 'silent', 'power ignitionFeed reader'],
    ['rearm-fob', 'lamp', 'lockedDown', 'refused', 'reader key keyAccepted'],
    ['rearm-fob', 'lamp', 'awake', 'accepted', 'interlocks starter fuelSpark'],
    ['rearm-fob', 'lamp', 'dead', 'silent', 'power ignitionFeed reader'],
    ['ring', 'lamp', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['ring', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['ring', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['sealed-secret', 'dash', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['sealed-secret', 'dash', 'noKey', 'refused', 'reader key keyAccepted'],
    ['sealed-secret', 'dash', 'system', 'notClear', 'startEnabled network ignitionFeed'],
    ['slot-store', 'dash', 'nothing', 'notClear', 'ignitionFeed interlocks reader'],
    ['slot-store', 'dash', 'text', 'refused', 'reader key keyAccepted'],
    ['status-record', 'lamp', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['status-record', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['status-record', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['transponder-attempt', 'lamp', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['transponder-attempt', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['transponder-attempt', 'lamp', 'steady', 'notClear', 'startEnabled network ignitionFeed'],
    ['transponder-dwell', 'lamp', 'accepted', 'accepted', 'interlocks starter fuelSpark'],
    ['transponder-dwell', 'lamp', 'refused', 'refused', 'reader key keyAccepted'],
    ['transponder-dwell', 'lamp', 'steady', 'notClear', 'keyAccepted network startEnabled'],
    ['transponder-dwell', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['alarm-latch', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['cylinder', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['engine-immobilizer', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['master-user', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
    ['sealed-secret', 'dash', 'dark', 'silent', 'power ignitionFeed reader'],
    ['slot-store', 'dash', 'dark', 'silent', 'power ignitionFeed reader'],
    ['transponder-attempt', 'lamp', 'dark', 'silent', 'power ignitionFeed reader'],
  ])('%s: %s %s is %s, look at %s', (id, test, outcome, kind, look) => {
    const found = triageOf(library.families.get(id)!, [[test, outcome]]);
    expect(found.kind).toBe(kind);
    expect(found.look.slice(0, 3).join(' ')).toBe(look);
  });
  test('every outcome of every first look stands in the table', () => {
    const rows = families.flatMap((f) => f.tests.filter((t) => t.triage?.includes('immobilizer')).flatMap((t) => Object.keys(t.outcomes)));
    expect(rows).toHaveLength(52);
  });
});

describe('what every family brings to the triage', () => {
  test.each(families.map((f) => [f.id, f] as const))('%s has one first look, signs, cheap looks and the engine', (_id, f) => {
    const withRole = (role: string) => f.tests.filter((t) => t.triage?.includes(role as 'sign')).map((t) => t.id);
    expect(withRole('immobilizer')).toHaveLength(1);
    expect(withRole('engine')).toEqual(['engine']);
    // Light vehicles have neither a horn that is armed nor doors.
    expect(withRole('sign').length).toBeGreaterThanOrEqual(f.id === 'master-user' ? 2 : 4);
    expect(withRole('cheap')).toEqual(expect.arrayContaining(['battery', 'clusterWakes']));
    expect(withRole('cheap').length).toBeGreaterThanOrEqual(3);
    // Where no lamp speaks, live data is there to be asked.
    expect(withRole('live').length).toBe(f.lamps.some((l) => l.segments) ? 0 : 1);
  });
  test('signs can be told of at any time: asked for when the lamp does not tell, left to the end when it does', () => {
    const refused = triageOf(library.families.get('ring')!, [['lamp', 'refused']]).stages;
    expect(refused.map((s) => s.id)).toEqual(['immobilizer', 'cheap', 'changed', 'engine', 'signs']);
    expect(refused.at(-1)!.answered).toBe(true);
    const dark = triageOf(library.families.get('ring')!, [['lamp', 'dark']]).stages;
    expect(dark.map((s) => [s.id, s.answered])).toEqual([
      ['immobilizer', true],
      ['signs', false],
      ['changed', false],
      ['engine', false],
    ]);
  });
  test('without a lamp, signs come before the words of the cluster', () => {
    expect(triageOf(library.families.get('infrared')!, []).stages.map((s) => s.id)).toEqual(['signs', 'immobilizer', 'changed', 'engine']);
    expect(triageOf(library.families.get('ring')!, []).stages.map((s) => s.id)).toEqual(['immobilizer', 'signs', 'changed', 'engine']);
  });
});

const dwell = library.families.get('transponder-dwell')!;
const ring = library.families.get('ring')!;

test('an accepting lamp does not clear the release after a swapped module, or when it starts and dies', () => {
  expect(triageOf(dwell, [['lamp', 'accepted']]).look[0]).toBe('interlocks');
  expect(triageOf(dwell, [['lamp', 'accepted']], { changed: ['ecm'] }).look[0]).toBe('startEnabled');
  expect(triageOf(dwell, [['lamp', 'accepted']], { changed: ['immobilizerModule'] }).look[0]).toBe('startEnabled');
  expect(triageOf(dwell, [['lamp', 'accepted']], { changed: ['jumpStart'] }).look[0]).toBe('interlocks');
  expect(triageOf(dwell, [['lamp', 'accepted']], { symptoms: ['startsAndDies'] }).look[0]).toBe('startEnabled');
  expect(
    triageOf(dwell, [
      ['lamp', 'accepted'],
      ['engine', 'dies'],
    ]).look[0],
  ).toBe('startEnabled');
});

test('one key accepted and two refused is a refusal that names the keys', () => {
  const found = triageOf(ring, [
    ['lamp', 'refused', 'A'],
    ['otherKey', 'refused', 'B'],
    ['otherKey', 'accepted', 'C'],
  ]);
  expect(found.kind).toBe('refused');
  expect(found.differ).toEqual({ accepted: ['C'], refused: ['A', 'B'] });
});

test('a cheap look that cures turns the verdict', () => {
  expect(
    triageOf(ring, [
      ['lamp', 'refused'],
      ['coverAway', 'refused'],
    ]).kind,
  ).toBe('refused');
  const cured = triageOf(ring, [
    ['lamp', 'refused'],
    ['coverAway', 'accepted'],
  ]);
  expect(cured.kind).toBe('accepted');
  // What was made stays to be seen.
  expect(cured.stages.find((s) => s.id === 'cheap')!.done).toEqual(['coverAway']);
});

test('live data speaks where the dash says nothing of the key', () => {
  const slots = library.families.get('slot-store')!;
  const before = triageOf(slots, [['dash', 'nothing']]);
  expect(before.kind).toBe('notClear');
  expect(before.stages.find((s) => s.id === 'live')!.tests.map((t) => t.id)).toEqual(['boxLive']);
  expect(
    triageOf(slots, [
      ['dash', 'nothing'],
      ['boxLive', 'slot'],
    ]).kind,
  ).toBe('accepted');
  expect(
    triageOf(slots, [
      ['dash', 'nothing'],
      ['boxLive', 'noSlot'],
    ]).kind,
  ).toBe('refused');
});

test('signs lead from a dark dash to the supply', () => {
  const infrared = library.families.get('infrared')!;
  const found = triageOf(infrared, [
    ['clusterWakes', 'dark'],
    ['relayClick', 'none'],
    ['flicker', 'seen'],
    ['horn', 'silent'],
    ['dash', 'dark'],
  ]);
  expect(found.kind).toBe('silent');
  expect(found.look[0]).toBe('power');
  expect(found.stages[0]).toMatchObject({ id: 'signs', answered: true });
  expect(
    triageOf(infrared, [
      ['clusterWakes', 'dark'],
      ['dash', 'dark'],
      ['battery', 'healthy'],
    ]).look[0],
  ).toBe('ignitionFeed');
});
