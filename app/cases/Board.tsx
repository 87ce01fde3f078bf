import { abilities, type Ability, keyRoles } from '../../core/library';
import type { CasePage } from '../../server/caseView';
import { LinkDot } from '../ui/LinkGlyph';
import styles from './Board.module.css';

/** The keys of the case on their hooks, each with what is known of its abilities. */
export function Board({ page }: { page: CasePage }) {
  const { keys } = page.record;
  if (keys.length === 0) return <p className={styles.none}>No key belongs to this case.</p>;
  return (
    <section className={styles.board} aria-label="Keys">
      <ul className={styles.rail}>
        {keys.map((key) => (
          <li key={key.tag} className={styles.hook}>
            <svg viewBox="0 0 14 24" width="14" height="24" aria-hidden="true" focusable="false">
              <path d="M7 0v11a5 5 0 1 0 5 5" fill="none" stroke="var(--quiet)" strokeWidth="2.4" />
            </svg>
            <div className={styles.tag} data-absent={!key.present || undefined}>
              <p>
                <b>{key.tag}</b> <span className="quiet">{keyRoles[key.role as keyof typeof keyRoles]}</span>
              </p>
              {key.present ? (
                <ul>
                  {(Object.keys(abilities) as Ability[]).map((a) => (
                    <AbilityMark key={a} page={page} tag={key.tag} ability={a} />
                  ))}
                </ul>
              ) : (
                <p className="quiet">exists, is not here</p>
              )}
              {key.note !== '' && <p className={styles.note}>{key.note}</p>}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

const words: Record<string, string> = { yes: 'yes', no: 'no', cannotJudge: 'cannot be judged' };

/** Judged by a person at the verification; "guard accepts" also by what the lamp showed with this key. */
function AbilityMark({ page, tag, ability }: { page: CasePage; tag: string; ability: Ability }) {
  const judged = page.record.judgements.findLast((j) => j.key === tag && j.ability === ability)?.result;
  const link =
    ability === 'accepted' && !judged
      ? page.assessment.links.find((l) => l.id === 'guardAccepts')?.keys.find((k) => k.tag === tag)?.state
      : undefined;
  const state = judged === 'yes' ? 'holds' : judged === 'no' ? 'broken' : (link ?? 'unproven');
  return (
    <li>
      <LinkDot state={state} /> {abilities[ability]}
      <span className="hidden">: {judged ? words[judged] : state === 'holds' ? 'yes' : state === 'broken' ? 'no' : 'not seen yet'}</span>
      {judged === 'cannotJudge' && <span className="quiet"> ?</span>}
    </li>
  );
}
