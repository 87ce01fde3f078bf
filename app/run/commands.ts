import { data } from 'react-router';
import { parseRecordId } from '../../server/base/fields';
import { parseRunCommand } from '../../server/runs/forms';
import { commandRun } from '../../server/runs/runs';
import { acting, actOf, notThere } from '../respond.server';
import type { Route } from './+types/commands';

/** Commands of a run come here as JSON, by themselves and not as a form, so that the page can keep one and send it again after a lost connection. */
export async function action(args: Route.ActionArgs) {
  const runId = parseRecordId(args.params.runId) ?? notThere('Run not found', 'The address names no run.');
  return acting('/runs/:runId/commands', args, {
    command: async ({ form, services, context }) => {
      const command = parseRunCommand(form);
      return commandRun(services.database.db, services.documents, actOf(context, command.id), runId, command);
    },
  });
}

export const loader = () => data('This address only takes commands.', { status: 405 });
