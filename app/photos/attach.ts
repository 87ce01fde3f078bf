import { redirect } from 'react-router';
import { parseFile } from '../../server/base/fields';
import { parsePhoto } from '../../server/cases/forms';
import { attachPhoto } from '../../server/cases/photos';
import { here } from '../../server/http/requestContext';
import { caseId } from '../cases/caseId.server';
import { acting } from '../respond.server';
import type { Route } from './+types/attach';

/** Photos come here from the case's page and from the page of a key. */
export async function action(args: Route.ActionArgs) {
  const { database, files } = args.context.get(here).services;
  const id = caseId(args.params.caseId);
  return acting('/cases/:caseId/photos', args, {
    attach: async ({ form: { file, ...form }, act }) => {
      await attachPhoto({ db: database.db, files }, act(), id, parseFile(file), parsePhoto(form));
      return { said: 'The photo is attached.' };
    },
  });
}

export const loader = ({ params }: Route.LoaderArgs) => redirect(`/cases/${caseId(params.caseId)}`);
