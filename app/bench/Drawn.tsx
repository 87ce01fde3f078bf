import styles from './bench.module.css';
import type { Look } from './look';
import { TimeLine } from './TimeLine';
import type { ShownReading } from './useLampReading';

/** A look as a time line, with the pattern that was recognised laid over it, and what is what. */
export function Drawn({ look, reading }: { look: Look; reading: ShownReading | null }) {
  const { pattern, fit } = reading ?? {};
  return (
    <>
      <TimeLine look={look} pattern={pattern} fit={fit} leastS={pattern?.decisiveS ?? 6} />
      <p className={styles.legend}>
        {look.origin === 'tapped' ? 'Filled: your taps.' : `Filled: ${look.file}.`}
        {pattern && fit && ` Outlined: the pattern, as it fits best, ${fit.lateS.toFixed(1)} s late.`}
      </p>
    </>
  );
}

/** What a look says: in few words, then in a sentence. */
export function Said({ reading, looking }: { reading: ShownReading; looking: boolean }) {
  return (
    <>
      <h2>{headline(reading, looking)}</h2>
      <p className={styles.said}>{reading.verdict}</p>
    </>
  );
}

function headline(reading: ShownReading, looking: boolean): string {
  switch (reading.state) {
    case 'decided':
      return `${reading.pattern?.title ?? 'None of these'}${looking ? '. You can stop watching.' : ''}`;
    case 'pair':
      return 'One of these two';
    case 'more':
      return looking ? 'Keep watching' : 'Not watched long enough';
    case 'unclear':
      return 'Not clear';
  }
}
