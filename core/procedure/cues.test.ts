import { inDwell, session, shipped } from '../../content/session.testing';
import { cuesOf, type Heard, heardNow } from '.';

/** Everything that is heard while a page listens four times a second, as `seconds tone: words`. */
function listener(run: ReturnType<typeof session>) {
  let heard: Heard | null = null;
  const from = run.now();
  const said: string[] = [];
  const listen = () => {
    for (const cue of cuesOf(heard, run.shown(), run.now())) said.push(`${(run.now() - from) / 1000} ${cue.tone}: ${cue.say}`);
    heard = heardNow(run.shown(), run.now());
  };
  listen();
  return {
    said: () => said.splice(0),
    pass(seconds: number, every = 0.25) {
      for (let t = 0; t < seconds; t += every) {
        run.pass(every);
        listen();
      }
    },
    answer(id: string) {
      run.answer(id);
      listen();
    },
  };
}

test('a wait for the light: ten seconds before, at its end, and at both limits', () => {
  // Tarn Gantry: 560 s, limits 60 s and 150 s after it; the wait began with the key being on, in the same moment.
  const page = listener(inDwell());
  page.pass(549.75);
  expect(page.said()).toEqual([]);
  page.pass(0.25);
  expect(page.said()).toEqual(['550 soon: Ten seconds left.']);
  page.pass(10);
  expect(page.said()).toEqual(['560 due: Time’s up.']);
  page.pass(59.75);
  expect(page.said()).toEqual([]);
  page.pass(0.25);
  expect(page.said()).toEqual(["620 limit: Time's up and the light is still on. A little longer is not unusual. Keep watching."]);
  page.pass(90);
  expect(page.said()).toEqual([
    '710 limit: Still on past the stop time. That points to the immobilizer, the cluster, their power or the wiring, not to the new ECM.',
  ]);
});

test('another instruction is said once, and a short wait is not announced before its end', () => {
  const run = session();
  run.prepare();
  const page = listener(run);
  page.pass(3);
  expect(page.said()).toEqual(['3 next: Turn tag A on. Do not start.']);
  page.answer('done');
  expect(page.said()).toEqual(['3 next: Is the security light lit?']);
});

const fob = () => {
  const run = session({ procedure: shipped.procedures.get('rearm-by-radio')!, keys: ['A'] });
  run.answer('done');
  return run;
};

test('a hold is counted second by second, and says when to let go', () => {
  const run = session({ procedure: shipped.procedures.get('teach-with-master')!, keys: ['M', 'A'] });
  run.answer('measured', 12.6);
  for (const answer of ['done', 'done', 'done', 'done', 'done', 'done', 'out', 'done', 'out', 'done']) run.answer(answer);
  expect(run.shown().step).toBe('closed');
  const least = Number(run.values.closeAfter);
  const page = listener(run);
  page.answer('begin');
  page.pass(least + 3);
  expect(page.said()).toEqual([...Array.from({ length: least - 1 }, (_, i) => `${i + 1} tick: ${i + 1}`), `${least} due: Let go.`]);
});

test('a hold with a longest time says at the least that it is enough, and at the longest that it was too long', () => {
  const run = fob();
  const least = Number(run.values.unlockHold);
  const page = listener(run);
  page.answer('begin');
  page.pass(least + 4.25);
  expect(page.said().slice(-2)).toEqual([`${least} due: Let go.`, expect.stringMatching(new RegExp(`^${least + 4} limit: `))]);
});

test('the last five seconds of a limit are counted down, and its end is said', () => {
  const run = session({ procedure: shipped.procedures.get('add-key-ring')!, keys: ['A', 'B'] });
  for (const answer of ['allowed', 'room', 'right', 'done', 'out', 'done', 'done']) run.answer(answer);
  run.pass(Number(run.values.restAdd));
  run.answer('done');
  run.pass(1);
  const page = listener(run);
  const left = Number(run.values.keyOnMax) - 1;
  page.pass(left + 0.25);
  expect(page.said()).toEqual([...[5, 4, 3, 2, 1].map((n) => `${left - n} tick: ${n}`), expect.stringMatching(new RegExp(`^${left} limit: `))]);
});

test('a page that slept hears what is so now, not every second that it missed', () => {
  const run = fob();
  const page = listener(run);
  page.answer('begin');
  page.pass(20, 20);
  expect(page.said()).toHaveLength(1);
  const dwell = listener(inDwell());
  dwell.pass(1200, 1200);
  expect(dwell.said()).toEqual([expect.stringMatching(/^1200 limit: Still on past the stop time/)]);
});

test('the end of a run is said', () => {
  const run = session();
  const page = listener(run);
  run.send({ type: 'stop', reason: 'rain' });
  page.pass(0.25);
  expect(page.said()).toEqual([expect.stringMatching(/^0.25 limit: /)]);
});

describe('the battery', () => {
  const alarm = { at: 60_000, say: 'Battery is getting low.' };
  const run = session();
  test('is heard once, when it is about to be no longer enough, besides what the step says', () => {
    const shown = run.shown();
    const early = heardNow(shown, 59_000, alarm);
    expect(cuesOf(early, shown, 59_900, alarm)).toEqual([]);
    expect(cuesOf(early, shown, 60_000, alarm)).toEqual([{ tone: 'limit', say: alarm.say }]);
    expect(cuesOf(heardNow(shown, 60_000, alarm), shown, 61_000, alarm)).toEqual([]);
    expect(cuesOf({ ...early, at: 'another step' }, shown, 60_000, alarm)).toEqual([
      { tone: 'limit', say: alarm.say },
      { tone: 'next', say: shown.instruction },
    ]);
  });
  test('that is found too weak by an answer is heard at once', () => {
    const shown = run.shown();
    expect(cuesOf(heardNow(shown, 70_000), shown, 70_500, alarm)).toEqual([{ tone: 'limit', say: alarm.say }]);
    expect(cuesOf(heardNow(shown, 70_000), { ...shown, status: 'finished' }, 70_500, alarm)).toEqual([expect.objectContaining({ tone: 'due' })]);
  });
});
