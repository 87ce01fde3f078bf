import { data } from 'react-router';
import type { AppLoadContext } from 'react-router';
import type { Act } from '../server/commands';
import { Refused } from '../server/expected';
import { parseCommandId } from '../server/forms';
import type { Problem } from '../core/units';

/** The one shape in which an action tells what is wrong. */
export interface Problems {
  problems: Problem[];
}

/** Runs an act; expected refusals become an answer for the person, everything else goes on to the error boundary. */
export async function answering<T>(work: () => Promise<T>) {
  try {
    return data<T | Problems>(await work());
  } catch (error) {
    if (error instanceof Refused) return data<T | Problems>({ problems: error.problems }, { status: error.status });
    throw error;
  }
}

/** Who acts now, under the id that the browser gave. */
export async function actOf(context: AppLoadContext, commandId: unknown): Promise<Act> {
  const { services } = context;
  return { id: parseCommandId(commandId), actor: await services.actor(), now: services.clock.now() };
}

/** A helpful 404 for a record that is not there. */
export function notThere(what: string, say: string): never {
  throw data(say, { status: 404, statusText: what });
}
