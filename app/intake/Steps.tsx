import Button from '@mui/material/Button';
import styles from './steps.module.css';

/** The sections of a new case. A wide screen shows them one below the other; a phone shows one at a time. */
const steps = {
  complaint: { vehicle: 'Concern', parts: 'Task', fields: ['kind', 'words', 'symptoms', 'complaint', 'changed'] },
  vehicle: {
    vehicle: 'Vehicle',
    parts: 'Sender',
    fields: ['vehicle', 'identification', 'year', 'plate', 'bay', 'system', 'seen', 'customer', 'phone'],
  },
  condition: { vehicle: 'Condition', parts: null, fields: ['condition', 'counters'] },
  keys: { vehicle: 'Keys', parts: 'Parts', fields: ['keys', 'parts'] },
  authority: { vehicle: 'Authority', parts: 'Authority', fields: ['authority'] },
} as const;
export type StepId = keyof typeof steps;

/** The step that holds a field, by the field's name; what belongs to none stands in the first. */
export const stepOf = (name: string): StepId =>
  (Object.keys(steps) as StepId[]).find((id) => (steps[id].fields as readonly string[]).includes(name.split('.')[0]!)) ?? 'complaint';

/** The first step with something wrong in it. */
export const firstWrong = (errors: Record<string, string>): StepId | undefined =>
  (Object.keys(steps) as StepId[]).find((id) => Object.keys(errors).some((name) => stepOf(name) === id));

const ofKind = (parts: boolean): [StepId, string][] =>
  (Object.keys(steps) as StepId[]).flatMap((id): [StepId, string][] => {
    const say = steps[id][parts ? 'parts' : 'vehicle'];
    return say === null ? [] : [[id, say]];
  });

interface Props {
  parts: boolean;
  now: StepId;
  onGo: (id: StepId) => void;
}

/** On a phone: where one is, with a mark at each step that has something wrong in it. */
export function Steps({ parts, now, errors, onGo }: Props & { errors: Record<string, string> }) {
  return (
    <nav className={styles.steps} aria-label="Steps of the intake">
      <ol>
        {ofKind(parts).map(([id, say], i) => {
          const wrong = Object.keys(errors).some((name) => stepOf(name) === id);
          return (
            <li key={id}>
              <button type="button" aria-current={id === now ? 'step' : undefined} data-wrong={wrong || undefined} onClick={() => onGo(id)}>
                <b>{wrong ? '!' : i + 1}</b> {say}
                {wrong && <span className="hidden">, something is not right yet</span>}
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

/** The step after this one; undefined after the last. */
export function nextStep(parts: boolean, now: StepId): StepId | undefined {
  const list = ofKind(parts);
  return list[list.findIndex(([id]) => id === now) + 1]?.[0];
}

/** Where one step is shown at a time; the same width as in the styles. */
export const oneAtATime = '(max-width: 720px)';

/** On a phone: the way to the step before and to the next one. */
export function NextStep({ parts, now, onGo }: Props) {
  const list = ofKind(parts);
  const i = list.findIndex(([id]) => id === now);
  const before = list[i - 1];
  const next = list[i + 1];
  return (
    <div className={styles.go}>
      {before && (
        <Button variant="outlined" size="large" onClick={() => onGo(before[0])}>
          Back
        </Button>
      )}
      {next && (
        <Button variant="contained" size="large" onClick={() => onGo(next[0])}>
          Next: {next[1].toLowerCase()}
        </Button>
      )}
    </div>
  );
}
