import { data } from 'react-router';
import { refused } from '../../server/expected';
import { parseRecordId, parseRunCommand } from '../../server/forms';
import { commandRun } from '../../server/runs';
import { actOf, answering, notThere } from '../respond.server';
import type { Route } from './+types/commands';

/** Commands of a run come here as JSON, by themselves and not as a form, so that the page can keep one and send it again after a lost connection. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const runId = parseRecordId(params.runId) ?? notThere('There is no such run', 'The address names no run.');
  return answering(async () => {
    let body: unknown;
    try {
      body = await request.json();
    } catch {
      throw refused(400, 'notJson', 'The command could not be read. Reload the page and do it again.');
    }
    const command = parseRunCommand(body);
    return commandRun(context.services.database.db, context.services.documents, await actOf(context, command.id), runId, command);
  });
}

export const loader = () => data('Commands are sent here, nothing is read.', { status: 405 });
