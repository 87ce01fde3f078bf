import { parentPort } from 'node:worker_threads';
import { Diagnostician, type Situation } from '../../core/diagnosis';

/** Looks far ahead, away from the thread that answers pages: one situation in, one diagnosis out. */
parentPort?.on('message', ({ id, situation }: { id: number; situation: Situation }) => {
  try {
    parentPort!.postMessage({ id, diagnosis: new Diagnostician(situation).diagnose() });
  } catch (error) {
    parentPort!.postMessage({ id, error: error instanceof Error ? error.message : String(error) });
  }
});
