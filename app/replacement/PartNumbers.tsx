import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { variantWords } from '../../core/replacement';
import type { JobShown } from '../../server/replacement/jobView';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import styles from './work.module.css';

type Part = JobShown['parts'][number];
type Photos = JobShown['photos'];
/** Numbers that tell the variant; each is typed twice. */
const twice = ['part', 'hardware', 'digits'] as const;
const once = ['software', 'supplier', 'serial', 'warranty'] as const;

/** The numbers of the old and the new part side by side, and what differs. */
export function PartNumbers({ part, caseId, photos }: { part: Part; caseId: number; photos: Photos }) {
  return (
    <>
      <Mismatches part={part} />
      <div className={styles.sides}>
        <OneSide side="old" part={part} caseId={caseId} photos={photos} />
        <OneSide side="new" part={part} caseId={caseId} photos={photos} />
      </div>
    </>
  );
}

function OneSide({ side, part, caseId, photos }: { side: 'old' | 'new'; part: Part; caseId: number; photos: Photos }) {
  const act = useAct();
  const { hm } = useTimes();
  const told = part[side];
  const shown = photos.find((p) => p.at === told?.photo);
  const field = (name: (typeof twice)[number] | (typeof once)[number]) => (
    <TextField
      label={variantWords[name]}
      name={`numbers.${name}`}
      size="small"
      defaultValue={told?.variant[name] ?? ''}
      error={`numbers.${name}` in act.errors}
      helperText={act.errors[`numbers.${name}`]}
      slotProps={{ htmlInput: { maxLength: 60, spellCheck: false, autoComplete: 'off' } }}
    />
  );
  return (
    <Form className={styles.side} key={told?.at ?? 0} onSubmit={act.send('variant')} noValidate aria-label={side === 'old' ? 'Old part' : 'New part'}>
      <h3>{side === 'old' ? 'Old part' : 'New part'}</h3>
      {told && (
        <p className="quiet">
          Saved,{' '}
          {told.checked === 'twice' ? 'typed twice' : shown ? <a href={`/cases/${caseId}/photos/${shown.id}`}>is on this photo</a> : 'is on a photo'},
          by {told.by}.
        </p>
      )}
      <input type="hidden" name="part" value={part.part} />
      <input type="hidden" name="side" value={side} />
      <ProblemSummary errors={act.errors} />
      {twice.map((name) => (
        <div key={name} className={styles.twice}>
          {field(name)}
          <TextField
            label="Again"
            name={`again.${name}`}
            size="small"
            error={`again.${name}` in act.errors}
            helperText={act.errors[`again.${name}`]}
            slotProps={{ htmlInput: { maxLength: 60, spellCheck: false, autoComplete: 'off', 'aria-label': `${variantWords[name]} again` } }}
          />
        </div>
      ))}
      {once.map((name) => (
        <div key={name}>{field(name)}</div>
      ))}
      {photos.length > 0 ? (
        <TextField
          select
          label="Checked by"
          name="photo"
          size="small"
          defaultValue={told?.photo ?? ''}
          error={'photo' in act.errors}
          helperText={act.errors.photo}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value="">typing it twice</option>
          {photos.map((p) => (
            <option key={p.id} value={p.at}>
              photo {p.caption === '' ? '' : `“${p.caption}”, `}
              {hm(p.at)}
            </option>
          ))}
        </TextField>
      ) : (
        <p className="quiet">
          Instead of typing it twice: <Link to={`/cases/${caseId}#photos`}>take a photo of the label</Link> first.
        </p>
      )}
      <Button type="submit" variant="contained" loading={act.busy} sx={{ minHeight: 48, justifySelf: 'start' }}>
        Save the {side} part’s numbers
      </Button>
      {act.said && <p role="status">{act.said}</p>}
    </Form>
  );
}

/** What differs, and the way on where it doesn't matter after all. */
function Mismatches({ part }: { part: Part }) {
  const act = useAct();
  if (!part.old || !part.new) return null;
  const stops = part.mismatches.some((m) => m.stops);
  if (part.mismatches.length === 0) return <p role="status">None of the numbers saved for both parts differ.</p>;
  return (
    <div className={stops && !part.fits ? styles.stopped : styles.notice} role="status">
      <h3>{stops ? 'Another variant' : 'Check these too'}</h3>
      <table>
        <thead>
          <tr>
            <th scope="col">Number</th>
            <th scope="col">Old</th>
            <th scope="col">New</th>
          </tr>
        </thead>
        <tbody>
          {part.mismatches.map((m) => (
            <tr key={m.field}>
              <th scope="row">{variantWords[m.field]}</th>
              <td className="mono">{m.old}</td>
              <td className="mono">{m.new}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {part.fits ? (
        <p>
          Accepted by {part.fits.by}: {part.fits.reason}
        </p>
      ) : (
        stops && (
          <Form onSubmit={act.send('fits')} noValidate className={styles.fits}>
            <input type="hidden" name="part" value={part.part} />
            <p>Don’t install it before the service information or the parts list names it as a replacement for the old one.</p>
            <ProblemSummary errors={act.errors} />
            <TextField
              label="Where it is listed as a replacement"
              name="reason"
              size="small"
              error={'reason' in act.errors}
              helperText={act.errors.reason}
              slotProps={{ htmlInput: { maxLength: 300 } }}
            />
            <Button type="submit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
              It is listed: go on
            </Button>
          </Form>
        )
      )}
    </div>
  );
}
