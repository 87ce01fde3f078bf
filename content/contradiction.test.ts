import { contradiction } from '../core/identify';
import { shipped } from './session.testing';

const families = [...shipped.families.values()];
const check = (family: string, seen: Record<string, string>) => contradiction(shipped.features, families, family, seen);

describe('what was seen against the family that a case is worked as', () => {
  test('nothing seen, or what fits: no doubt', () => {
    for (const { id } of families) expect([id, check(id, {})]).toEqual([id, null]);
    for (const p of shipped.profiles.values()) expect([p.id, check(p.family, p.seen ?? {})]).toEqual([p.id, null]);
  });
  test('a pellet in the blade of a key that should hold a chip', () => {
    const found = check('transponder-dwell', { keyKind: 'pellet' })!;
    expect(found.instead.id).toBe('pellet');
    expect(found.p).toBeLessThan(0.05);
    expect(found.against).toEqual([expect.objectContaining({ feature: 'keyKind', say: 'A small block with contacts in the blade' })]);
    expect(found.against[0]!.times).toBeGreaterThan(100);
  });
  test('a lamp that this family does not have', () => {
    const found = check('cylinder', { lampOn: 'counted', vehicle: 'light' })!;
    expect(found.instead.id).toBe('master-user');
    expect(found.against.map((a) => a.feature)).toEqual(expect.arrayContaining(['lampOn', 'vehicle']));
  });
  test('the service information chose the family and does not speak for it here', () => {
    expect(check('transponder-dwell', { service: 'transponder-dwell', keyKind: 'pellet' })).toEqual(
      check('transponder-dwell', { keyKind: 'pellet' }),
    );
  });
  test('answers that cannot be seen, and those of no question, count for nothing', () =>
    expect(check('ring', { keyKind: 'cantSee', lampOn: 'no such value', smell: 'sweet' })).toBeNull());
  test('an unknown family is a programmer’s error', () => expect(() => check('gone', {})).toThrow('System type "gone" is not among the candidates.'));
});
