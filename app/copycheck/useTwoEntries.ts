import { useState } from 'react';
import { compareEntries, type Form, readEntry } from '../../core/copycheck';

/**
 * Two independent entries of one original and where the person is with them. What is typed stays in the page that shows it.
 * @param open whether what is typed is shown from the start
 */
export function useTwoEntries(form: Form, open = false) {
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const [stage, setStage] = useState<'first' | 'second' | 'compared'>('first');
  const [reveal, setReveal] = useState(open);
  const now = stage === 'first' ? first : second;
  const entry = readEntry(now, form);
  return {
    form,
    first,
    now,
    stage,
    entry,
    /** Null until both are there. */
    found: stage === 'compared' ? compareEntries(first, second, form) : null,
    reveal,
    setReveal,
    typed: (text: string) => (stage === 'first' ? setFirst : setSecond)(text),
    /** The first entry as a whole, from elsewhere. */
    takeFirst: (text: string) => {
      setFirst(text);
      setStage('second');
    },
    go: () => {
      if (stage === 'compared' || entry.text === '') return;
      setStage(stage === 'first' ? 'second' : 'compared');
      setReveal(open);
    },
    again: () => {
      setSecond('');
      setStage('second');
    },
    anew: () => {
      setFirst('');
      setSecond('');
      setReveal(open);
      setStage('first');
    },
  };
}
export type TwoEntries = ReturnType<typeof useTwoEntries>;
