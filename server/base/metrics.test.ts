import { Harness, owner, refusal, technician } from '../services/harness.testing';
import { actOnce } from '../acts/commands';
import { acts, kindOf } from './metrics';

test('kinds of addresses: the first part where it is one of ours, nothing of what follows', () => {
  expect(
    ['/', '/?x=1', '/cases/12', '/cases.csv', '/bench/lamp?case=5', '/sign-in', '/../etc', '/nobody', '', '/Cases', '/constructor'].map(kindOf),
  ).toEqual(['floor', 'floor', 'cases', 'cases', 'bench', 'sign-in', 'other', 'other', 'other', 'other', 'other']);
});

test('acts are counted by how they end: done, repeated, refused, failed', async () => {
  const harness = await Harness.open();
  const counted = async (): Promise<Record<string, number>> => Object.fromEntries((await acts.get()).values.map((v) => [v.labels.outcome, v.value]));
  const before = await counted();
  const act = harness.act(owner);
  const note = (work: () => Promise<null>, own = act) => actOnce(harness.db, own, { right: 'editShop', action: 'noted', payload: 1 }, work);
  await note(() => Promise.resolve(null));
  await note(() => Promise.resolve(null));
  await refusal(note(() => Promise.resolve(null), harness.act(technician)));
  await expect(note(() => Promise.reject(new Error('the disk is gone')), harness.act(owner))).rejects.toThrow('the disk is gone');
  const after: Record<string, number> = await counted();
  expect(Object.fromEntries(Object.entries(after).map(([k, v]) => [k, v - (before[k] ?? 0)]))).toEqual({
    done: 1,
    repeated: 1,
    refused: 1,
    failed: 1,
  });
  await harness.close();
});
