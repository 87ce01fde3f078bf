import type { Ref } from 'react';
import type { Problem } from '../../core/units';
import styles from './problems.module.css';

/** Messages by the name of their field: `keys[0].tag` of a problem is the field `keys.0.tag` of a form. */
export function errorsByPath(problems: readonly Problem[]): Record<string, string> {
  const errors: Record<string, string> = {};
  for (const { path, message } of problems) errors[path.replace(/\[(\d+)\]/g, '.$1')] ??= message;
  return errors;
}

/** Says above a form that came back what is wrong with it, and is read out first. */
export function ProblemSummary({
  errors,
  ref,
  names = {},
}: {
  errors: Record<string, string>;
  ref?: Ref<HTMLDivElement>;
  /** Words for fields that the page labels by its data. */
  names?: Readonly<Record<string, string>>;
}) {
  const count = Object.keys(errors).length;
  if (count === 0) return null;
  return (
    <div className={styles.summary} role="alert" tabIndex={-1} ref={ref}>
      <b>{count === 1 ? 'One thing is' : `${count} things are`} not right yet. Nothing you typed is lost.</b>
      <ul>
        {Object.entries(errors).map(([name, message]) => (
          <li key={name}>
            {name !== '' && <b>{names[name] ?? fieldWords(name)}: </b>}
            {message}
          </li>
        ))}
      </ul>
    </div>
  );
}

const words: Record<string, string> = {
  words: 'Complaint',
  changedNote: 'More about what changed',
  identification: 'Identification number',
  customer: 'Customer',
  phone: 'Telephone',
  bay: 'Where it stands',
};

/** A field's name in the words of its label; key rows by their number. */
function fieldWords(name: string): string {
  const key = /^keys\.(\d+)\.(\w+)$/.exec(name);
  if (key) return `Key ${Number(key[1]) + 1}, ${key[2]}`;
  const last = name.split('.').at(-1)!;
  return words[last] ?? last.charAt(0).toUpperCase() + last.slice(1);
}
