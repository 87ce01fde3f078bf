import { Link } from 'react-router';
import type { GridCell } from '../../core/keys';
import { abilities, abilityResults, keyRoles } from '../../core/library';
import { useTimes } from '../ui/clock';
import { LinkDot } from '../ui/LinkGlyph';
import styles from './Board.module.css';
import type { CasePage } from './page';

/** The keys of the case on their hooks, each with what is known of its abilities. */
export function Board({ page }: { page: CasePage }) {
  const { keys, id, state } = page.record;
  const { stored } = page;
  const storedIn = (tag: string) => stored?.keys.find((k) => k.tag === tag)?.slots;
  return (
    <section className={styles.board} aria-label="Keys">
      {keys.length === 0 && <p className={styles.none}>No key belongs to this case.</p>}
      <ul className={styles.rail}>
        {keys.map((key) => (
          <li key={key.tag} className={styles.hook}>
            <svg viewBox="0 0 14 24" width="14" height="24" aria-hidden="true" focusable="false">
              <path d="M7 0v11a5 5 0 1 0 5 5" fill="none" stroke="var(--quiet)" strokeWidth="2.4" />
            </svg>
            <div className={styles.tag} data-absent={!key.present || undefined}>
              <p>
                <Link to={`/cases/${id}/keys/${key.tag}`} aria-label={`Key ${key.tag}`} className={styles.letter}>
                  <b>{key.tag}</b>
                </Link>{' '}
                <span className="quiet">{key.toFit ? 'new' : keyRoles[key.role as keyof typeof keyRoles]}</span>
              </p>
              {key.present || page.grid[key.tag]!.some((c) => c.told) ? (
                <ul>
                  {page.abilities.map((a, i) => (
                    <AbilityMark key={a} say={abilities[a]} cell={page.grid[key.tag]![i]!} />
                  ))}
                </ul>
              ) : null}
              {!key.present && (
                <p className="quiet">
                  {key.toFit ? 'to be made, not here yet' : 'exists but is not here: it stops working when the stored keys are replaced'}
                </p>
              )}
              {storedIn(key.tag) && (
                <p className={styles.note}>{storedIn(key.tag)!.length > 0 ? `stored in slot ${storedIn(key.tag)!.join(' + ')}` : 'not stored'}</p>
              )}
              {(key.marks || key.note) && <p className={styles.note}>{[key.marks, key.note].filter(Boolean).join(', ')}</p>}
            </div>
          </li>
        ))}
      </ul>
      {stored && <StoredKeys stored={stored} />}
      {state === 'open' && (
        <p className={styles.more}>
          <Link to={`/cases/${id}/keys/new`}>Another key</Link>
        </p>
      )}
    </section>
  );
}

const slotWords = { away: 'not at hand', disabled: 'disabled', empty: 'empty', provenEmpty: 'proven empty', unclear: 'not clear' } as const;

/** What the module has stored, slot by slot, as the last reading saved it. */
function StoredKeys({ stored: { slots, layout, proven, at, by, simulated } }: { stored: NonNullable<CasePage['stored']> }) {
  const { day, hm } = useTimes();
  return (
    <>
      <h3 className={styles.stored}>Stored in “{layout}”</h3>
      <ul className={styles.slots} aria-label="Stored keys">
        {slots.map((s) => (
          <li key={s.slot} data-says={s.says}>
            <b>{s.slot}</b> {s.says === 'here' ? `tag ${s.tags.join(', ')}` : slotWords[s.says]}
            {s.alsoIn.length > 0 && <small>also in {s.alsoIn.join(', ')}</small>}
          </li>
        ))}
      </ul>
      <p className="quiet">
        {simulated && 'Simulated. '}
        {proven ? 'Read twice, equal' : 'Read once'}: {day(at)}, {hm(at)}, by {by}.
      </p>
    </>
  );
}

/** What was seen is drawn solid; what the customer only says stands in quotation marks. */
function AbilityMark({ say, cell }: { say: string; cell: GridCell }) {
  const seen = cell.now ?? cell.before;
  const state = seen?.result === 'yes' ? 'holds' : seen?.result === 'no' ? 'broken' : 'unproven';
  const said = seen ? abilityResults[seen.result] : cell.told ? `not tried yet, customer says ${abilityResults[cell.told.result]}` : 'not tried yet';
  return (
    <li>
      <LinkDot state={state} /> {say}
      <span className="hidden">: {said}</span>
      {!seen && cell.told && (
        <span className="quiet" aria-hidden="true">
          “{abilityResults[cell.told.result]}”
        </span>
      )}
      {seen && seen.result !== 'yes' && seen.result !== 'no' && (
        <span className="quiet" aria-hidden="true">
          {seen.result === 'hasNot' ? '–' : '?'}
        </span>
      )}
    </li>
  );
}
