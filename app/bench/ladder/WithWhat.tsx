import MenuItem from '@mui/material/MenuItem';
import { Link } from 'react-router';
import { accuracyWords, type Ladder, type Meter, rangeOf } from '../../../core/ladder';
import { Field } from '../../intake/parts';
import { Choice } from '../../ui/Choice';
import bench from '../bench.module.css';
import { CasePick } from '../CasePick';
import styles from './ladder.module.css';
import { SimulatedContact } from './SimulatedContact';
import type { ListedMeter, useMeter } from './useMeter';

/** With which meter and ladder, and for which case and key; out of the way once a case is chosen. */
export function WithWhat({
  d,
  ladder,
  meter,
  listed,
  typicalOhms,
  onMeter,
  search,
  device,
}: {
  d: {
    cases: { id: number; number: string; vehicle: string }[];
    chosen: { id: number; number: string } | null;
    keys: string[];
    key: string;
    ladders: { id: string; title: string }[];
    ladder: string;
    known: boolean;
    meters: ListedMeter[];
  };
  ladder: Ladder;
  meter: Meter;
  /** The same, where it is one of the shop's. */
  listed: ListedMeter | undefined;
  /** For which value its accuracy is told. */
  typicalOhms: number;
  onMeter: (id: string) => void;
  search: (to: Record<string, string>) => void;
  device: ReturnType<typeof useMeter>;
}) {
  return (
    <details className={styles.with} open={d.chosen === null || undefined}>
      <summary>
        <span>Meter, chart and case</span>
        <small>{[listed?.name ?? 'no meter chosen', ladder.title, d.chosen ? `case ${d.chosen.number}` : 'no case'].join(', ')}</small>
      </summary>
      <div className={styles.setup}>
        <Field
          name="meter"
          label="Meter"
          value={listed?.id ?? ''}
          put={onMeter}
          errors={{}}
          select
          size="small"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">Not listed</MenuItem>
          {d.meters.map((m) => (
            <MenuItem key={m.id} value={m.id}>
              {m.name}
            </MenuItem>
          ))}
        </Field>
        <small className="quiet">
          {accuracyWords(rangeOf(meter, typicalOhms))}
          {listed ? '' : ', assumed.'} <Link to="/shop/meters">The shop’s meters</Link>
        </small>
        {listed?.simulated && <SimulatedContact device={device} />}
        <CasePick cases={d.cases} chosen={d.chosen?.id ?? null} onPick={(id) => search({ case: id, key: '', ladder: '' })} />
        {d.keys.length > 1 && (
          <fieldset className={bench.row}>
            <legend>Key</legend>
            {d.keys.map((tag) => (
              <Choice key={tag} type="radio" name="key" value={tag} checked={d.key === tag} onChange={() => search({ key: tag })}>
                tag {tag}
              </Choice>
            ))}
          </fieldset>
        )}
        <Field name="ladder" label="Value chart" value={d.ladder} put={(id) => search({ ladder: id })} errors={{}} select size="small">
          {d.ladders.map((l) => (
            <MenuItem key={l.id} value={l.id}>
              {l.title}
            </MenuItem>
          ))}
        </Field>
        <small className="quiet">
          {d.known ? 'The value chart of this vehicle’s profile. ' : ''}
          {ladder.checked ? '' : 'Nobody has checked its numbers. '}
          <Link to={`/library/ladders/${ladder.id}`}>See the chart</Link>
        </small>
      </div>
    </details>
  );
}
