import { changes, howOften, symptoms } from '../../core/library';
import type { Intake } from './fields';
import styles from './intake.module.css';
import { Field, Pick, type Section, Several } from './parts';

/** The customer's words, what the vehicle does, and what changed before. */
export function ComplaintPart({ value: f, put, errors }: Section<Intake>) {
  const complaint = (name: keyof Intake['complaint']) => (v: string) => put('complaint', { ...f.complaint, [name]: v });
  const changed = (what: string, more: Partial<Intake['changed'][number]>) =>
    put(
      'changed',
      f.changed.map((c) => (c.what === what ? { ...c, ...more } : c)),
    );
  return (
    <>
      <Several legend="What the vehicle does" name="symptoms" options={symptoms} value={f.symptoms} put={(v) => put('symptoms', v)} />
      <div className={styles.details}>
        {f.symptoms.includes('startsAndDies') && (
          <Field
            name="complaint.diesAfterS"
            label="Dies after (seconds, or m:ss)"
            value={f.complaint.diesAfterS}
            put={complaint('diesAfterS')}
            errors={errors}
            quantity={{ unit: 's', min: 0, max: 3600 }}
          />
        )}
        {f.symptoms.includes('intermittent') && (
          <Pick
            name="complaint.howOften"
            label="How often"
            value={f.complaint.howOften}
            put={complaint('howOften')}
            errors={errors}
            options={howOften}
            none="Not known"
          />
        )}
        {f.symptoms.includes('message') && (
          <Field
            name="complaint.message"
            label="The message, word for word"
            value={f.complaint.message}
            put={complaint('message')}
            errors={errors}
            max={120}
          />
        )}
      </div>
      <Several
        legend="What changed before it began"
        name="changed"
        options={changes}
        value={f.changed.map((c) => c.what)}
        put={(v) =>
          put(
            'changed',
            v.map((what) => f.changed.find((c) => c.what === what) ?? { what, on: '', note: '' }),
          )
        }
      />
      {f.changed.length > 0 && (
        <ul className={styles.keys}>
          {f.changed.map((c, i) => (
            <li key={c.what} className={styles.change}>
              <span>{changes[c.what as keyof typeof changes] ?? c.what}</span>
              <Field
                name={`changed.${i}.on`}
                label="When"
                type="date"
                value={c.on}
                put={(on) => changed(c.what, { on })}
                errors={errors}
                slotProps={{ inputLabel: { shrink: true }, htmlInput: { 'aria-label': `When: ${changes[c.what as keyof typeof changes]}` } }}
              />
              <Field
                name={`changed.${i}.note`}
                label="By whom, which part"
                value={c.note}
                put={(note) => changed(c.what, { note })}
                errors={errors}
                max={300}
              />
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
