import Button from '@mui/material/Button';
import { Form, redirect, useNavigation } from 'react-router';
import { parseFile } from '../../server/base/fields';
import { here } from '../../server/http/requestContext';
import { importCase } from '../../server/transfer/importCase';
import { acting } from '../respond.server';
import { newCommandId } from '../ui/commandId';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { Route } from './+types/import';
import styles from '../cases/verify.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Import a case · Bloodstone' }];
export const handle = { place: () => ({ title: 'Import a case', detail: 'from another shop' }) };

export async function action(args: Route.ActionArgs) {
  const { database, files } = args.context.get(here).services;
  const answer = await acting('/cases/import', args, {
    take: async ({ form, act }) => importCase({ db: database.db, files }, act(), parseFile(form.file)),
  });
  if ('id' in answer.data) throw redirect(`/cases/${answer.data.id}`);
  return answer;
}

export default function Import({ actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const busy = useNavigation().state !== 'idle';
  return (
    <Form
      method="post"
      encType="multipart/form-data"
      className={styles.page}
      onSubmit={(event) => {
        // Made once: the second click of a double one sends the same act.
        const id = event.currentTarget.elements.namedItem('commandId') as HTMLInputElement;
        id.value ||= newCommandId();
      }}
    >
      <h1>Import a case from another shop</h1>
      <p className={styles.lead}>
        Choose the ZIP file that the other shop exported. It is checked first: either all of it is imported or nothing, and you see why.
      </p>
      <input type="hidden" name="commandId" />
      <ProblemSummary errors={errors} />
      <label>
        <span className="label">Exported case, ZIP, up to 64 MB</span>
        <br />
        <input type="file" name="file" accept=".zip,application/zip" required style={{ minHeight: 48, paddingTop: 10 }} />
      </label>
      <Button type="submit" variant="contained" size="large" loading={busy} sx={{ justifySelf: 'start' }}>
        {busy ? 'Checking …' : 'Import the case'}
      </Button>
    </Form>
  );
}
