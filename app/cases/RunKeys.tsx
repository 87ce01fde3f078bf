import ArrowUpward from '@mui/icons-material/ArrowUpward';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { KeyHere } from '../../core/procedure';
import { Choice } from '../ui/Choice';
import { caseWith } from './about';
import type { CasePage } from './page';
import next from './Next.module.css';
import styles from './RunKeys.module.css';

/** Which keys a run takes, and in which order. What is chosen stands in the address: its steps, and what it would forget, are drawn for these keys. */
export function RunKeys({ page, procedure: { id, asks, keys: drawn } }: { page: CasePage; procedure: CasePage['procedures'][number] }) {
  const navigate = useNavigate();
  const here = page.keysHere;
  // What was just chosen is seen at once. It counts until the page was drawn with other keys or another run than those it was chosen over.
  const over = `${id} ${drawn.join(' ')}`;
  const [chosen, choose] = useState<{ over: string; keys: readonly string[] }>({ over, keys: drawn });
  if (chosen.over !== over) choose({ over, keys: drawn });
  const keys = chosen.over === over ? chosen.keys : drawn;
  if (here.length < 2) return null;
  const set = (tags: readonly string[]) => {
    choose({ over, keys: tags });
    void navigate(caseWith(page, { run: id, with: tags }), { replace: true, preventScrollReset: true });
  };
  if (asks !== 'one') return <KeysInOrder here={here} keys={keys} set={set} />;
  return (
    <fieldset className={next.keys}>
      <legend>With</legend>
      {here.map((k) => (
        <Choice key={k.tag} type="radio" name="runKey" value={k.tag} checked={keys[0] === k.tag} onChange={() => set([k.tag])}>
          tag {k.tag}
        </Choice>
      ))}
    </fieldset>
  );
}

const roleWords = (k: KeyHere | undefined) => (k?.isNew ? 'new' : k && k.role !== 'unknown' ? k.role : '');

function KeysInOrder({ here, keys, set }: { here: readonly KeyHere[]; keys: readonly string[]; set: (keys: readonly string[]) => void }) {
  const left = here.filter((k) => !keys.includes(k.tag));
  const earlier = (at: number) => set(keys.map((tag, i) => (i === at - 1 ? keys[at]! : i === at ? keys[at - 1]! : tag)));
  return (
    <fieldset className={styles.keys}>
      <legend>Keys, in this order</legend>
      <ol aria-label="Keys, in this order">
        {keys.map((tag, i) => (
          <li key={tag}>
            <b>tag {tag}</b>
            <span className="quiet">{roleWords(here.find((k) => k.tag === tag))}</span>
            {i > 0 && (
              <IconButton aria-label={`Tag ${tag} one place earlier`} onClick={() => earlier(i)}>
                <ArrowUpward />
              </IconButton>
            )}
            {keys.length > 1 && (
              <Button size="small" aria-label={`Leave tag ${tag} out`} onClick={() => set(keys.filter((t) => t !== tag))}>
                Leave out
              </Button>
            )}
          </li>
        ))}
      </ol>
      {left.length > 0 && (
        <p>
          {left.map((k) => (
            <Button key={k.tag} size="small" variant="outlined" onClick={() => set([...keys, k.tag])}>
              Add tag {k.tag}
            </Button>
          ))}
        </p>
      )}
    </fieldset>
  );
}
