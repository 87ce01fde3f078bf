import { type CodeStatus, type Relevance, relevances, relevanceWords, type ScannedModule, scannedWords, statusWords } from '../../core/codes';
import styles from './codes.module.css';

export interface ShownCode {
  code: string;
  failureType?: string;
  failureText?: string;
  text: string;
  relevance: Relevance;
  why: string;
  tests: readonly string[];
  /** Which module stored it, and whether it is there now. */
  where: string;
  freezeFrame?: readonly string[];
}

/** A module and a status in a few words; empty where neither is known. */
export const whereWords = (module: ScannedModule | null | undefined, status: CodeStatus | null | undefined): string =>
  [module && scannedWords[module], status && statusWords[status]].filter(Boolean).join(', ');

/** Codes in their groups, each with those of one reason together, so that a reason stands once. */
export function CodeGroups({ codes, level: Heading, name = '' }: { codes: readonly ShownCode[]; level: 'h2' | 'h3'; name?: string }) {
  const groups = relevances
    .map((relevance) => [relevance, codes.filter((e) => e.relevance === relevance)] as const)
    .filter(([, list]) => list.length > 0);
  return groups.map(([relevance, list]) => {
    const id = `codes-${name}${relevance}`;
    return (
      <section key={relevance} aria-labelledby={id} className={styles.group}>
        <Heading id={id}>
          {relevanceWords[relevance]} <span className="quiet">{list.length}</span>
        </Heading>
        {[...new Set(list.map((e) => e.why))].map((why) => (
          <Topic key={why} why={why} codes={list.filter((e) => e.why === why)} />
        ))}
      </section>
    );
  });
}

function Topic({ why, codes }: { why: string; codes: readonly ShownCode[] }) {
  const tests = [...new Set(codes.flatMap((e) => e.tests))];
  return (
    <div className={styles.topic}>
      <ul>
        {codes.map((e, i) => (
          <li key={i}>
            <b>
              {e.code}
              {e.failureType && `-${e.failureType}`}
            </b>
            <span>
              {e.text}
              {e.failureText && `: ${e.failureText}`}
              {e.where !== '' && <span className="quiet"> ({e.where})</span>}
              {e.freezeFrame && e.freezeFrame.length > 0 && <small className={styles.frame}>{e.freezeFrame.join(' · ')}</small>}
            </span>
          </li>
        ))}
      </ul>
      <p className="quiet">
        {why}
        {tests.length > 0 && ` Tests: ${tests.join(', ')}.`}
      </p>
    </div>
  );
}
