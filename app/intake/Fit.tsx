import { checkFit, type FitRemark } from '../../core/keys';
import type { ChipMemory, KeyKind, NewKeySpec } from '../../core/library';
import styles from './intake.module.css';

/** What the vehicle needs of a new key, by its system type and by its profile. */
export interface Needs {
  family: NewKeySpec | null;
  profile: NewKeySpec | undefined;
}

const words: Record<FitRemark['verdict'], string> = { fits: 'right', doesNotFit: 'wrong', notKnown: 'not known' };

/** The fit check of a new key, live, before anything is written into it. */
export function Fit({ kind, plan, needs }: { kind: string; plan: { chip: string; band: string; memory: string }; needs: Needs }) {
  const remarks = checkFit(
    { kind: kind as KeyKind, chip: plan.chip, band: plan.band, memory: plan.memory as ChipMemory },
    needs.family,
    needs.profile,
  );
  return (
    <ul className={styles.fit} aria-label="Is it the right key?">
      {remarks.map((r) => (
        <li key={r.what} data-verdict={r.verdict}>
          <b>{words[r.verdict]}</b> {r.say}
        </li>
      ))}
    </ul>
  );
}
