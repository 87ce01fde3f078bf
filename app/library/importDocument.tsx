import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Form, Link } from 'react-router';
import { parseYamlSent } from '../../server/library/forms';
import { importDocument } from '../../server/library/importDocument';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/importDocument';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Import · Bloodstone' }];
export const handle = { place: () => ({ title: 'Import', detail: 'a profile, a value chart or a procedure, from a YAML file' }) };

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  return acting('/library/import', args, {
    importDocument: async ({ form, act }) =>
      importDocument({ db: services.database.db, library: services.library, files: services.files }, act(), parseYamlSent(form)),
  });
}

/** Larger files are refused before they are sent; the server refuses them too. */
const maxBytes = 1_000_000;

export default function ImportDocument() {
  const act = useAct<typeof action>();
  const [tooLarge, setTooLarge] = useState(false);
  const taken = act.data && 'id' in act.data ? act.data : undefined;
  const errors = tooLarge
    ? { file: 'The file is larger than 1 MB. A profile or value chart has a few kilobytes; choose the right file.' }
    : act.errors;
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link>
      </p>
      <h1>Import a profile, a value chart, a procedure or a layout</h1>
      <p className="quiet">
        A YAML file exported by a shop. It is checked first: either all of it is imported or nothing, and you see where and why. If it is here
        already, it becomes the next version.
      </p>
      <Form method="post" encType="multipart/form-data" className={styles.form} noValidate onSubmit={act.send('importDocument')} aria-label="Import">
        <ProblemSummary errors={errors} />
        {taken && !act.busy && (
          <p role="status" className={styles.said}>
            {taken.known ? `Already here as version ${taken.version}. Nothing was changed.` : `Imported as version ${taken.version}.`}{' '}
            <Link to={`/library/${taken.kind}s/${taken.id}`}>Open the {taken.kind === 'ladder' ? 'value chart' : taken.kind}</Link>
          </p>
        )}
        <label>
          <span className="label">YAML file, up to 1 MB</span>
          <br />
          <input
            type="file"
            name="file"
            accept=".yaml,.yml,application/yaml,text/plain"
            style={{ minHeight: 48, paddingTop: 10 }}
            onChange={(event) => setTooLarge((event.target.files?.[0]?.size ?? 0) > maxBytes)}
          />
        </label>
        <TextField
          name="text"
          label="Or paste it here"
          multiline
          minRows={6}
          maxRows={16}
          slotProps={{ htmlInput: { className: 'mono', spellCheck: false } }}
        />
        <Button type="submit" variant="contained" size="large" loading={act.busy} disabled={tooLarge} sx={{ justifySelf: 'start' }}>
          {act.busy ? 'Checking …' : 'Import'}
        </Button>
      </Form>
    </div>
  );
}
