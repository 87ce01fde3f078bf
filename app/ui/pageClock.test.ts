import type { ClockReading } from '../../server/services/clock';
import { type ClockAnswer, type KeptReading, PageClock } from './pageClock';

const nothingKept = { wall: () => 0, kept: () => null, keep: () => {} };

/** A browser and a server side by side: the lid stops the browser's clock and not the server's. */
function laptop() {
  let real = 0;
  let asleep = 0;
  let online = true;
  let delay = 0;
  let signedIn = true;
  const serverNow = () => 1_000_000 + real;
  const reading = (): ClockReading => ({ now: serverNow(), rate: 1, wallSince: null });
  let kept: KeptReading | null = null;
  /** Own time of the browser: its difference to the shop's does not matter. */
  const wall = () => 77_000 + real;
  const surroundings = {
    monotonic: () => real - asleep,
    wall,
    kept: () => kept,
    keep: (last: KeptReading) => void (kept = last),
    async ask() {
      if (!online) throw new TypeError('Failed to fetch');
      real += delay / 2;
      const answer = { ...reading(), session: signedIn ? ('open' as const) : ('none' as const) };
      real += delay / 2;
      return answer;
    },
  };
  const clock = new PageClock(reading(), surroundings);
  return {
    clock,
    /** A page as it was drawn at a moment, opened in the same browser. */
    reopened: (drawnAt: number) => new PageClock({ now: drawnAt, rate: 1, wallSince: null }, surroundings),
    serverNow,
    pass: (ms: number) => (real += ms),
    closeLid(ms: number) {
      real += ms;
      asleep += ms;
    },
    setOnline: (yes: boolean) => (online = yes),
    setSignedIn: (yes: boolean) => (signedIn = yes),
    setDelay: (ms: number) => (delay = ms),
  };
}

test('counts on by itself between readings', async () => {
  const l = laptop();
  await l.clock.measure();
  l.pass(90_000);
  expect(l.clock.now()).toBe(l.serverNow());
});

test('a closed lid stops the browser’s clock; the first reading after waking is right again', async () => {
  const l = laptop();
  await l.clock.measure();
  l.pass(10_000);
  l.closeLid(1_800_000);
  expect(l.clock.now()).toBe(l.serverNow() - 1_800_000);
  expect(await l.clock.measure()).toBe(true);
  expect(l.clock.now()).toBe(l.serverNow());
});

test('without a connection it says so and goes on', async () => {
  const l = laptop();
  await l.clock.measure();
  l.setOnline(false);
  l.pass(60_000);
  expect(await l.clock.measure()).toBe(false);
  expect(l.clock.now()).toBe(l.serverNow());
});

test('sleep without a connection: the browser’s own time tells how long it was', async () => {
  const l = laptop();
  await l.clock.measure();
  l.setOnline(false);
  l.closeLid(1_800_000);
  expect(await l.clock.measure()).toBe(false);
  expect(l.clock.now()).toBe(l.serverNow());
  l.pass(5000);
  expect(l.clock.now()).toBe(l.serverNow());
});

test('a page that is opened again without a connection goes on from the last reading, however old its drawing is', async () => {
  const l = laptop();
  const drawn = l.serverNow();
  l.pass(600_000);
  await l.clock.measure();
  l.setOnline(false);
  l.pass(1_500_000);
  const again = l.reopened(drawn);
  expect(again.now()).toBe(drawn);
  expect(await again.measure()).toBe(false);
  expect(again.now()).toBe(l.serverNow());
  l.pass(1000);
  expect(again.now()).toBe(l.serverNow());
});

test('a slow answer is taken as old as half its way', async () => {
  const l = laptop();
  l.setDelay(400);
  await l.clock.measure();
  expect(l.clock.now()).toBe(l.serverNow());
});

test('a reading that came in meanwhile is newer than the answer that was under way', async () => {
  let answer: (reading: ClockAnswer) => void = () => {};
  const clock = new PageClock(
    { now: 0, rate: 0, wallSince: null },
    { ...nothingKept, monotonic: () => 0, ask: () => new Promise((resolve) => (answer = resolve)) },
  );
  const measuring = clock.measure();
  clock.set({ now: 5000, rate: 0, wallSince: null });
  answer({ now: 1000, rate: 0, wallSince: null, session: 'open' });
  await measuring;
  expect(clock.now()).toBe(5000);
});

test('before the first reading it stands, so that server and page draw the same', () => {
  const clock = new PageClock({ now: 7, rate: 1, wallSince: null }, { ...nothingKept, monotonic: () => 1e6, ask: () => Promise.reject(new Error()) });
  expect(clock.now()).toBe(7);
});

test('those who listen hear of each tick, until they leave', () => {
  const clock = new PageClock({ now: 1, rate: 0, wallSince: null }, { ...nothingKept, monotonic: () => 0, ask: () => Promise.reject(new Error()) });
  const heard: number[] = [];
  const leave = clock.subscribe(() => heard.push(clock.shown()));
  clock.set({ now: 2, rate: 0, wallSince: null });
  clock.tick();
  leave();
  clock.tick();
  expect(heard).toEqual([2, 2]);
});

test('whether somebody is signed in here is what the server said last, also while there is no connection', async () => {
  const l = laptop();
  expect(l.clock.signedOut).toBe(false);
  l.setSignedIn(false);
  expect(await l.clock.measure()).toBe(true);
  expect(l.clock.signedOut).toBe(true);
  l.setOnline(false);
  l.setSignedIn(true);
  expect(await l.clock.measure()).toBe(false);
  expect(l.clock.signedOut).toBe(true);
  l.setOnline(true);
  await l.clock.measure();
  expect(l.clock.signedOut).toBe(false);
});
