import styles from './Choices.module.css';

/** Several of a list may be true: large touch targets that look pressed when chosen. */
export function Choices({ legend, name, options }: { legend: string; name: string; options: Readonly<Record<string, string>> }) {
  return (
    <fieldset className={styles.group}>
      <legend>{legend}</legend>
      {Object.entries(options).map(([id, say]) => (
        <label key={id} className={styles.choice}>
          <input type="checkbox" name={name} value={id} />
          <span>{say}</span>
        </label>
      ))}
    </fieldset>
  );
}
