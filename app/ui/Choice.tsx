import type { InputHTMLAttributes, ReactNode } from 'react';
import styles from './Choice.module.css';

/** One of several, or one that may be true: a large touch target that looks pressed when chosen. */
export function Choice({ children, ...input }: InputHTMLAttributes<HTMLInputElement> & { type: 'radio' | 'checkbox'; children: ReactNode }) {
  return (
    <label className={styles.choice}>
      <input {...input} />
      <span>{children}</span>
    </label>
  );
}

/** Several of a list may be true. */
export function Choices({ legend, name, options }: { legend: string; name: string; options: Readonly<Record<string, string>> }) {
  return (
    <fieldset className={styles.group}>
      <legend>{legend}</legend>
      {Object.entries(options).map(([id, say]) => (
        <Choice key={id} type="checkbox" name={name} value={id}>
          {say}
        </Choice>
      ))}
    </fieldset>
  );
}
