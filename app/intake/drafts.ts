import { redirect } from 'react-router';
import { discardDraft, keepDraft } from '../../server/cases/drafts';
import { parseDraft, parseDraftId } from '../../server/cases/forms';
import { acting, personOf } from '../respond.server';
import type { Route } from './+types/drafts';

/** Drafts of intakes are kept while they are typed. */
export async function action(args: Route.ActionArgs) {
  const answer = await acting('/cases/drafts', args, {
    keepDraft: async ({ form, services, context }): Promise<{ kept: boolean }> => {
      const { draft, fields } = parseDraft(form);
      await keepDraft(services.database.db, personOf(context), draft, fields, services.clock.now());
      return { kept: true };
    },
    discardDraft: async ({ form, services, context }) => {
      await discardDraft(services.database.db, personOf(context), parseDraftId(form.draft));
      return { kept: false };
    },
  });
  if ('kept' in answer.data && !answer.data.kept) throw redirect('/cases');
  return answer;
}

export const loader = () => redirect('/cases');
