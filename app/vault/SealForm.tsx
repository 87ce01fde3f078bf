import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Form } from 'react-router';
import { alphabetWords } from '../../core/copycheck';
import { Choice } from '../ui/Choice';
import type { useAct } from '../ui/useAct';
import styles from './vault.module.css';

export const kindWords = { memory: 'Memory file', secret: 'Secret', photo: 'Photo of a label', capture: 'Capture of bursts' } as const;
type Kind = keyof typeof kindWords;

/** Seals a file or what is typed twice. */
export function SealForm({ act }: { act: Pick<ReturnType<typeof useAct>, 'send' | 'errors' | 'busy'> }) {
  const [kind, setKind] = useState<Kind>('memory');
  const [fileName, setFileName] = useState('');
  const error = (path: string, help?: string) => ({ error: path in act.errors, helperText: act.errors[path] ?? help });
  const hidden = { htmlInput: { className: 'mono', spellCheck: false, autoComplete: 'off', maxLength: 2000 } };
  return (
    <section aria-labelledby="seal">
      <h2 id="seal">Seal something</h2>
      <Form method="post" encType="multipart/form-data" className={styles.form} noValidate onSubmit={act.send('seal')}>
        <fieldset className={styles.row}>
          <legend>What it is</legend>
          {(Object.keys(kindWords) as Kind[]).map((k) => (
            <Choice key={k} type="radio" name="kind" value={k} checked={kind === k} onChange={() => setKind(k)}>
              {kindWords[k]}
            </Choice>
          ))}
        </fieldset>
        <TextField
          name="name"
          label="Name"
          {...error('name', 'Such as: box, first read. Never the secret itself.')}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <label>
          <span className="label">{kind === 'secret' ? 'Its file, if there is one' : 'File'}</span>
          <br />
          <input
            type="file"
            name="file"
            style={{ minHeight: 48, paddingTop: 10 }}
            accept={kind === 'photo' ? 'image/*' : undefined}
            onChange={(event) => setFileName(event.target.files?.[0]?.name ?? '')}
          />
        </label>
        {'file' in act.errors && <p role="alert">{act.errors.file}</p>}
        <input type="hidden" name="fileName" value={fileName.slice(0, 160)} />
        {kind === 'secret' && fileName === '' && (
          <>
            <TextField name="alphabet" label="Made of" select defaultValue="hex" {...error('alphabet')}>
              {Object.entries(alphabetWords).map(([id, say]) => (
                <MenuItem key={id} value={id}>
                  {say}
                </MenuItem>
              ))}
            </TextField>
            <TextField name="text" type="password" label="The secret" {...error('text')} slotProps={hidden} />
            <TextField name="again" type="password" label="The secret again, from the original" {...error('again')} slotProps={hidden} />
          </>
        )}
        <TextField name="reason" label="Why" {...error('reason', 'What it is needed for.')} slotProps={{ htmlInput: { maxLength: 300 } }} />
        <Button type="submit" variant="contained" loading={act.busy} sx={{ justifySelf: 'start', minHeight: 48 }}>
          Seal it
        </Button>
      </Form>
    </section>
  );
}
