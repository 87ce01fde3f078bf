import AddOutlined from '@mui/icons-material/AddOutlined';
import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { randomUUID } from 'node:crypto';
import { useEffect, useRef, useState } from 'react';
import { Form, redirect, useNavigation } from 'react-router';
import { authorityKinds, changes, keyRoles, symptoms } from '../../core/library';
import { createCase, listBays } from '../../server/cases';
import { fieldsOf, parseNewCase } from '../../server/forms';
import { actOf, answering } from '../respond.server';
import { Choices } from '../ui/Choice';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { Route } from './+types/new';
import styles from './new.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'New case · Bloodstone' }];
export const handle = { place: () => ({ title: 'New case', detail: 'what came in, and who may say so' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { library, database } = context.services;
  return {
    commandId: randomUUID(),
    bays: await listBays(database.db),
    systems: [
      ...[...library.profiles.values()].map((p) => ({ value: `profile:${p.id}`, title: p.title, note: 'numbers looked up' })),
      ...[...library.families.values()].map((f) => ({ value: `family:${f.id}`, title: f.title, note: 'typical numbers' })),
    ],
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const fields = fieldsOf(await request.formData());
  const { commandId, ...form } = fields;
  const answer = await answering(async () => {
    const { services } = context;
    return createCase(services.database.db, services.library, await actOf(context, commandId), parseNewCase(form));
  });
  if ('id' in answer.data) throw redirect(`/cases/${answer.data.id}`);
  return answer;
}

interface KeyRow {
  row: number;
  tag: string;
}

export default function NewCase({ loaderData: { commandId, bays, systems }, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const field = (name: string, help?: string) => ({ name, error: name in errors, helperText: errors[name] ?? help });
  const [keys, setKeys] = useState<KeyRow[]>([{ row: 0, tag: 'A' }]);
  const busy = useNavigation().state !== 'idle';
  const summary = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (actionData) summary.current?.focus();
  }, [actionData]);
  const addKey = () => setKeys((k) => [...k, { row: (k.at(-1)?.row ?? -1) + 1, tag: String.fromCharCode(65 + Math.min(25, k.length)) }]);

  return (
    <Form method="post" className={styles.form} noValidate>
      <input type="hidden" name="commandId" value={commandId} />
      <h1 className="hidden">New case</h1>
      <ProblemSummary ref={summary} errors={errors} />

      <section className={styles.section} aria-labelledby="complaint">
        <h2 id="complaint">What the customer says</h2>
        <TextField
          {...field('words', 'In the customer’s own words.')}
          label="Complaint"
          multiline
          minRows={2}
          required
          slotProps={{ htmlInput: { maxLength: 2000 } }}
          autoFocus
        />
        <Choices legend="What it does" name="symptoms" options={symptoms} />
        <Choices legend="What changed before it began" name="changed" options={changes} />
        <TextField
          {...field('changedNote', 'When, by whom, which part.')}
          label="More about what changed"
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      </section>

      <section className={styles.section} aria-labelledby="vehicle">
        <h2 id="vehicle">Vehicle</h2>
        <TextField
          {...field('vehicle', 'One free line, as you would say it: maker, model, colour.')}
          label="Vehicle"
          required
          slotProps={{ htmlInput: { maxLength: 120 } }}
        />
        <div className={styles.three}>
          <TextField {...field('year')} label="Year" slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 4 } }} />
          <TextField
            {...field('identification')}
            label="Identification number"
            slotProps={{ htmlInput: { maxLength: 17, autoCapitalize: 'characters', className: 'mono' } }}
          />
          <TextField {...field('plate')} label="Plate" slotProps={{ htmlInput: { maxLength: 16 } }} />
        </div>
        <div className={styles.two}>
          <TextField
            {...field('system', 'A vehicle that is not listed is worked from its family, with typical numbers.')}
            label="System"
            select
            defaultValue={systems.find((s) => s.value.startsWith('family:'))?.value ?? ''}
          >
            {systems.map((s) => (
              <MenuItem key={s.value} value={s.value}>
                {s.title}, {s.note}
              </MenuItem>
            ))}
          </TextField>
          <TextField {...field('bay')} label="Where it stands" select defaultValue="">
            <MenuItem value="">No bay yet</MenuItem>
            {bays.map((b) => (
              <MenuItem key={b.id} value={b.id}>
                {b.name}
              </MenuItem>
            ))}
          </TextField>
        </div>
        <div className={styles.two}>
          <TextField {...field('customer')} label="Customer" slotProps={{ htmlInput: { maxLength: 80 } }} />
          <TextField {...field('phone')} label="Telephone" type="tel" slotProps={{ htmlInput: { maxLength: 40 } }} />
        </div>
      </section>

      <section className={styles.section} aria-labelledby="keys">
        <h2 id="keys">Keys</h2>
        <p className="quiet">Every key gets a tag. Ask for all of them now, and list those that exist but did not come.</p>
        <ul className={styles.keys}>
          {keys.map(({ row, tag }, i) => (
            <li key={row} className={styles.key}>
              <TextField {...field(`keys.${i}.tag`)} label="Tag" defaultValue={tag} slotProps={{ htmlInput: { maxLength: 3, className: 'mono' } }} />
              <TextField {...field(`keys.${i}.role`)} label="Role, as told" select defaultValue={i === 0 ? 'main' : 'unknown'}>
                {Object.entries(keyRoles).map(([id, say]) => (
                  <MenuItem key={id} value={id}>
                    {say}
                  </MenuItem>
                ))}
              </TextField>
              <TextField {...field(`keys.${i}.note`)} label="Marks, condition" slotProps={{ htmlInput: { maxLength: 120 } }} />
              <label className={styles.here}>
                <input type="checkbox" name={`keys.${i}.here`} defaultChecked /> is here
              </label>
              <IconButton aria-label={`Remove key ${tag}`} onClick={() => setKeys((k) => k.filter((r) => r.row !== row))}>
                <DeleteOutlined />
              </IconButton>
            </li>
          ))}
        </ul>
        {keys.length === 0 && <p>No key came with it. Say so only when it is true: without a key nothing can be learned by hand.</p>}
        <Button startIcon={<AddOutlined />} variant="outlined" onClick={addKey} disabled={keys.length >= 12} sx={{ justifySelf: 'start' }}>
          Another key
        </Button>
      </section>

      <section className={styles.section} aria-labelledby="authority">
        <h2 id="authority">Authority</h2>
        <p className="quiet">
          What you saw that shows the right to have keys and immobilizer worked on. Until it is on record, learning and writing stay shut. It can be
          added later.
        </p>
        <div className={styles.two}>
          <TextField {...field('authority.kind')} label="Seen" select defaultValue="">
            <MenuItem value="">Not seen yet</MenuItem>
            {Object.entries(authorityKinds).map(([id, say]) => (
              <MenuItem key={id} value={id}>
                {say}
              </MenuItem>
            ))}
          </TextField>
          <TextField {...field('authority.note')} label="Note" slotProps={{ htmlInput: { maxLength: 300 } }} />
        </div>
      </section>
      <div className={styles.act}>
        <Button type="submit" variant="contained" size="large" loading={busy}>
          Open the case
        </Button>
      </div>
    </Form>
  );
}
