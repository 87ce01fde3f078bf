import { parentPort } from 'node:worker_threads';
import { Diagnostician, type Situation, usualBudget } from '../../core/diagnosis';
import { type Instance, planOf, usualSpread } from '../../core/schedule';

/** Tests of the interface, which wait for every answer, look less far ahead (e2e/server.ts); nobody else sets it. */
const weighings = Number(process.env.BLOODSTONE_WEIGHINGS || usualBudget.weighings);

/** Situations of a plan: about a second with twelve cases. */
const planSituations = 4000;

type Question = { situation: Situation; ways?: true } | { instance: Instance };

/** What takes long: a diagnosis that looks far ahead, what acting and testing further may cost, the best plan for all cases. */
function answered(question: Question): unknown {
  if ('instance' in question) return planOf(question.instance, { spread: usualSpread, most: planSituations });
  const doctor = new Diagnostician(question.situation);
  return question.ways ? doctor.ways() : doctor.diagnose({ ...usualBudget, weighings });
}

/** Away from the thread that answers pages: one question in, one answer out. */
parentPort?.on('message', ({ id, ...question }: { id: number } & Question) => {
  try {
    parentPort!.postMessage({ id, answer: answered(question) });
  } catch (error) {
    parentPort!.postMessage({ id, error: error instanceof Error ? error.message : String(error) });
  }
});
