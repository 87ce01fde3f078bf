import { useMemo } from 'react';
import type { ParamValues } from '../../../core/library';
import { compile, lint, outline, type Procedure } from '../../../core/procedure';
import { Sequence } from '../../run/Sequence';
import styles from './procedure.module.css';

/** The run as it would be, and what is wrong with it. */
export function TimeLine({
  procedure,
  values,
  cautions,
}: {
  /** Null while a step points at one that is gone, which is said beside it. */
  procedure: Procedure | null;
  values: ParamValues;
  cautions: readonly { id: string }[];
}) {
  const found = useMemo(() => {
    if (!procedure) return null;
    try {
      const report = lint(procedure, values, { cautions: new Set(cautions.map((c) => c.id)) });
      return { report, marks: outline(compile(procedure), values, ['A', 'B']) };
    } catch {
      return null;
    }
  }, [procedure, values, cautions]);
  if (!found) return null;
  const errors = found.report.problems.filter((p) => p.severity === 'error');
  return (
    <section className={styles.line} aria-label="Time line">
      <Sequence marks={found.marks} wait={undefined} now={0} />
      {errors.length === 0 ? (
        <p role="status">
          About {Math.round(found.report.expectedMinutes)} min with two keys, {Math.round(found.report.minMinutes)} min of it waiting.
        </p>
      ) : (
        <div className={styles.problems} role="status">
          <ul>
            {errors.slice(0, 5).map((p) => (
              <li key={p.path + p.code}>{p.code === 'noCommitment' ? 'Choose the point of no return above.' : p.message}</li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
