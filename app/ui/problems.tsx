import { type Ref, useEffect, useState } from 'react';
import type { Problem } from '../../core/units';
import styles from './problems.module.css';

const none: Record<string, string> = Object.freeze(Object.create(null) as Record<string, string>);
/** The same answer has the same errors, so that a field knows whether it was changed since. */
const byAnswer = new WeakMap<readonly Problem[], Record<string, string>>();

/** Messages by the name of their field: `keys[0].tag` of a problem is the field `keys.0.tag` of a form. */
export function errorsByPath(problems: readonly Problem[]): Record<string, string> {
  if (problems.length === 0) return none;
  const before = byAnswer.get(problems);
  if (before) return before;
  const errors = Object.create(null) as Record<string, string>;
  for (const { path, message } of problems) errors[path.replace(/\[(\d+)\]/g, '.$1')] ??= message;
  byAnswer.set(problems, errors);
  return errors;
}

/** Says above a form that came back what is wrong with it, and is read out first. */
export function ProblemSummary({
  errors,
  ref,
  names = {},
  reveal,
}: {
  errors: Record<string, string>;
  ref?: Ref<HTMLDivElement>;
  /** Words for fields that the page labels by its data. */
  names?: Readonly<Record<string, string>>;
  /** Shows the part of the page that holds a field, where it is not shown. */
  reveal?: (name: string) => void;
}) {
  const labels = useLabels(errors);
  const count = Object.keys(errors).length;
  if (count === 0) return null;
  return (
    <div className={styles.summary} role="alert" tabIndex={-1} ref={ref}>
      <b>{count === 1 ? 'One thing is' : `${count} things are`} not right yet. Nothing you typed is lost.</b>
      <ul>
        {Object.entries(errors).map(([name, message]) => (
          <li key={name}>
            {name !== '' && (
              <b>
                {own(labels, name) === undefined ? (
                  (own(names, name) ?? fieldWords(name))
                ) : (
                  <button
                    type="button"
                    className={styles.field}
                    onClick={() => {
                      reveal?.(name);
                      fieldOf(name)?.focus();
                    }}
                  >
                    {own(names, name) ?? own(labels, name)}
                  </button>
                )}
                :{' '}
              </b>
            )}
            {message}
          </li>
        ))}
      </ul>
    </div>
  );
}

const fieldOf = (name: string): HTMLElement | null => {
  const found = document.querySelector<HTMLElement>(`[name="${CSS.escape(name)}"]`);
  // A list to choose from keeps its value in a hidden field behind the one that is shown.
  return found?.getAttribute('aria-hidden') === 'true' ? (found.parentElement?.querySelector<HTMLElement>('[role=combobox]') ?? null) : found;
};

/** The fields' own labels, as they stand on the page: known once it is drawn. */
function useLabels(errors: Record<string, string>): Readonly<Record<string, string>> {
  const [labels, setLabels] = useState<Readonly<Record<string, string>>>({});
  useEffect(() => {
    const found = Object.keys(errors).flatMap((name): [string, string][] => {
      const field = name === '' ? null : fieldOf(name);
      const said =
        (field as HTMLInputElement | null)?.labels?.[0]?.textContent ??
        document.getElementById(field?.getAttribute('aria-labelledby')?.split(' ')[0] ?? '')?.textContent;
      const label = said?.replace(/[\s*]+$/u, '');
      return label ? [[name, label]] : [];
    });
    queueMicrotask(() => setLabels(Object.fromEntries(found)));
  }, [errors]);
  return labels;
}

/** A name of a field comes from outside; what every object inherits is no word for it. */
const own = (words: Readonly<Record<string, string>>, name: string): string | undefined => (Object.hasOwn(words, name) ? words[name] : undefined);

const words: Record<string, string> = {
  words: 'Customer concern',
  changedNote: 'More about what changed',
  identification: 'VIN',
  customer: 'Customer',
  phone: 'Phone',
  bay: 'Bay',
};

/** A field's name in the words of its label; key rows by their number. */
function fieldWords(name: string): string {
  const key = /^keys\.(\d+)\.(\w+)$/.exec(name);
  if (key) return `Key ${Number(key[1]) + 1}, ${key[2]}`;
  const last = name.split('.').at(-1)!;
  return own(words, last) ?? last.charAt(0).toUpperCase() + last.slice(1);
}
