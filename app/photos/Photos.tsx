import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { PhotoLine } from '../../server/record/cases';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import styles from './photos.module.css';

/** Photos of a case or of one of its keys, and the way to add one. */
export function Photos({ caseId, photos, keyTag, closed }: { caseId: number; photos: PhotoLine[]; keyTag?: string; closed: boolean }) {
  const act = useAct(`photos-${keyTag ?? 'case'}`);
  const [chosen, choose] = useState<string>('');
  const { hm } = useTimes();
  const path = `/cases/${caseId}/photos`;
  const send = act.send('attach', path);
  return (
    <div className={styles.photos}>
      {photos.length > 0 && (
        <ul className={styles.rows}>
          {photos.map((p) => (
            <li key={p.id}>
              <a href={`${path}/${p.id}`} target="_blank" rel="noreferrer">
                <img
                  src={`${path}/${p.id}`}
                  width={p.width}
                  height={p.height}
                  alt={p.caption || `Photo${p.keyTag ? ` of tag ${p.keyTag}` : ''}`}
                  loading="lazy"
                />
              </a>
              <span className="quiet">
                {p.caption || (p.keyTag ? `tag ${p.keyTag}` : '')} {hm(p.at)}
              </span>
            </li>
          ))}
        </ul>
      )}
      {!closed && (
        <form
          key={photos.length}
          className={styles.add}
          onSubmit={(event) => {
            send(event);
            choose('');
          }}
        >
          {keyTag && <input type="hidden" name="key" value={keyTag} />}
          <Button component="label" role={undefined} tabIndex={-1} variant="outlined" size="small">
            {chosen === '' ? 'Choose or take a photo' : chosen}
            <input
              type="file"
              name="file"
              accept="image/jpeg,image/png"
              className="hidden"
              onChange={(event) => choose(event.target.files?.[0]?.name ?? '')}
            />
          </Button>
          {chosen !== '' && (
            <>
              <TextField name="caption" label="What it shows" size="small" sx={{ maxWidth: 240 }} slotProps={{ htmlInput: { maxLength: 120 } }} />
              <Button type="submit" variant="contained" size="small">
                Attach
              </Button>
            </>
          )}
          {act.busy && <span role="status">Sending …</span>}
        </form>
      )}
      <ProblemSummary errors={act.errors} />
    </div>
  );
}
