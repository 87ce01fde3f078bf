import type { Db } from '../db/open';
import { type Machine, openClock } from './clock';
import { besideOthers } from './databaseClock';
import { Harness } from './harness.testing';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

/** Milliseconds that have passed in the world. */
let passed = 0;
/** How far the wall clock of the database is off. */
let set = 0;
beforeEach(() => {
  [passed, set] = [0, 0];
});
const database = { execute: async () => ({ rows: [{ ms: 1_780_000_000_000 + passed + set }] }) } as unknown as Db;
/** A host with an uptime, a wall clock that is anything, and a crystal that is off by so many in a million. */
const host = (bootId: string, ms: number, wall: number, ppm = 0): Machine => ({
  wall: () => wall,
  uptime: () => ({ bootId, ms: ms + passed * (1 + ppm / 1e6) }),
});

test('a server on another host, with another wall clock, goes on where the others are', async () => {
  const one = await besideOthers(database, host('one', 5_000, 1_780_000_000_000));
  const first = await openClock(harness.db, 'hosts', false, one);
  passed += 3_600_000;
  const two = await besideOthers(database, host('two', 90_000_000, 1_500_000_000_000));
  const second = await openClock(harness.db, 'hosts', false, two);
  expect(second.now() - first.now()).toBe(0);
  expect(first.now()).toBe(1_780_003_600_000);
  // It is the same clock for all of them, and nothing to tell.
  expect(second.read().wallSince).toBeNull();
  passed += 90_000;
  expect([first.now(), second.now()]).toEqual([1_780_003_690_000, 1_780_003_690_000]);
  for (const machine of [one, two]) machine.close();
});

test('a crystal that is off by seconds a day stays with the database, and never goes backwards', async () => {
  for (const ppm of [100, -100]) {
    const machine = await besideOthers(database, host('drifts', 0, 0, ppm));
    let last = -1;
    for (let minute = 0; minute < 24 * 60; minute += 1) {
      passed += 60_000;
      const ms = machine.uptime()!.ms;
      expect(ms).toBeGreaterThanOrEqual(last);
      last = ms;
      await machine.compare();
    }
    passed += 30_000;
    expect(Math.abs(machine.uptime()!.ms - (24 * 3_600_000 + 30_000))).toBeLessThan(10);
    machine.close();
    passed = 0;
  }
});

test('somebody sets the clock of the database: the shop’s goes on as before, and stays with it from there', async () => {
  for (const jump of [3_600_000, -3_600_000]) {
    const machine = await besideOthers(database, host('set', 0, 0, 50));
    passed += 60_000;
    set = jump;
    await machine.compare();
    expect(machine.uptime()!.ms).toBeCloseTo(60_000, -1);
    for (let minute = 0; minute < 600; minute += 1) {
      passed += 60_000;
      await machine.compare();
    }
    expect(Math.abs(machine.uptime()!.ms - 601 * 60_000)).toBeLessThan(10);
    machine.close();
    [passed, set] = [0, 0];
  }
});
