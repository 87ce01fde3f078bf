import { parentPort } from 'node:worker_threads';
import { Diagnostician, type Situation, usualBudget } from '../../core/diagnosis';

/** Tests of the interface, which wait for every answer, look less far ahead (e2e/server.ts); nobody else sets it. */
const weighings = Number(process.env.BLOODSTONE_WEIGHINGS || usualBudget.weighings);

/** Looks far ahead, away from the thread that answers pages: one situation in, one diagnosis out, or what acting and testing further may cost. */
parentPort?.on('message', ({ id, situation, ways }: { id: number; situation: Situation; ways?: true }) => {
  try {
    const doctor = new Diagnostician(situation);
    parentPort!.postMessage({ id, answer: ways ? doctor.ways() : doctor.diagnose({ ...usualBudget, weighings }) });
  } catch (error) {
    parentPort!.postMessage({ id, error: error instanceof Error ? error.message : String(error) });
  }
});
