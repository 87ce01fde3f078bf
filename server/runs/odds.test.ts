import { eq } from 'drizzle-orm';
import { session } from '../../content/session.testing';
import { run, runEvent } from '../db/schema';
import { Harness } from '../services/harness.testing';
import { shopOdds } from './odds';
import { startRun } from './runs';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const relearn = 'relearn-ignition-on';

/** A relearn of the Tarn Gantry whose first start fails, and whose cycle more ends with this answer. */
function driven(last: string) {
  const r = session({ profile: 'tarn-gantry' });
  r.prepare();
  const cycle = () => {
    while (r.shown().step !== 'ready') {
      if (r.shown().step === 'rest' || r.shown().step === 'on') r.round();
      else if (r.shown().step === 'restStart') r.pass(8);
      else r.answer(r.shown().answers[0]!.id);
    }
    r.answer('done');
  };
  cycle();
  r.answer('cranks');
  cycle();
  r.answer(last);
  return r.events;
}

test('extra cycles of runs that have ended are counted, over cases; one that goes on is not', async () => {
  const { db, services } = harness;
  expect(await shopOdds(services, relearn)).toEqual({ tried: 0, brought: 0 });
  for (const [last, status] of [
    ['runs', 'finished'],
    ['cranks', 'stopped'],
    ['runs', 'running'],
  ] as const) {
    const caseId = await harness.openCase({ system: 'profile:tarn-gantry', authority: [{ kind: 'registration', note: '' }] });
    const { id } = await startRun(db, services.documents, services.library, harness.act(), caseId, relearn);
    for (const event of driven(last).slice(1))
      await db.insert(runEvent).values({ runId: id, seq: event.seq, id: `${id}-${event.id}`, event: { ...event, id: `${id}-${event.id}` } });
    await db.update(run).set({ status }).where(eq(run.id, id));
  }
  expect(await shopOdds(services, relearn)).toEqual({ tried: 2, brought: 1 });
  expect(await shopOdds(services, 'teach-with-master')).toEqual({ tried: 0, brought: 0 });
});
