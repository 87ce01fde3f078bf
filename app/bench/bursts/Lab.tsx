import { useState } from 'react';
import { type BurstFeatures, burstVerdict, featuresOf, knownAmong, sameSetup } from '../../../core/burst';
import { useKept } from '../../ui/useKept';
import type { BurstsPage } from './page.server';
import { CasePick } from '../CasePick';
import styles from './bursts.module.css';
import { Coil } from './Coil';
import { Conditions } from './Conditions';
import { Pictures } from './Pictures';
import { Result } from './Result';
import { SetupFields } from './Taking';
import { Theory } from './Theory';
import { type Taken, useCapture } from './useCapture';

interface Kept {
  probe: string;
  place: string;
  storedKeys: string;
}
const noSetup: Kept = { probe: '', place: '', storedKeys: '' };
const readKept = (kept: unknown): Kept | undefined => {
  const k = kept as Kept;
  return typeof k === 'object' && [k.probe, k.place, k.storedKeys].every((v) => typeof v === 'string' && v.length <= 60) ? k : undefined;
};

/** The whole worksheet: what is captured on the left, the pictures in the middle, what it comes to on the right. */
export default function Lab({ d, onCase }: { d: BurstsPage; onCase: (id: string) => void }) {
  const [typed, setTyped] = useKept<Kept>(`bursts.${d.chosen?.id ?? 'bench'}`, noSetup, readKept);
  const [taken, setTaken] = useState<Taken>(() => firstOf(d));
  const [repeats, setRepeats] = useState<BurstFeatures[]>([]);
  const [a, b] = [useCapture(), useCapture()];
  const setup = { probe: typed.probe.trim(), place: typed.place.trim(), storedKeys: typed.storedKeys === '' ? null : Number(typed.storedKeys) };
  const simulated = a.source !== null && 'simulated' in a.source;
  const like = d.captures.filter((c) => sameSetup(c, setup) && c.simulated === simulated);
  const known = knownAmong([...d.captures, ...d.ofModel], setup, simulated);
  const features = a.held ? featuresOf(a.held) : null;
  const verdict = features && taken.condition === 'asked' ? burstVerdict([...repeats, features], known) : null;
  const choose = (to: Taken) => {
    // Another condition or key: what was read belongs to the one before.
    if (to.condition !== taken.condition || to.key !== taken.key) {
      a.clear();
      setRepeats([]);
    }
    setTaken(to);
  };
  return (
    <div className={styles.lab}>
      <section className={styles.setup} aria-label="What is captured">
        <CasePick cases={d.cases} chosen={d.chosen?.id ?? null} onPick={onCase} />
        <Conditions d={d} taken={taken} onTake={choose} like={like} />
        <SetupFields setup={typed} put={setTyped} />
      </section>
      <section aria-label="Captures">
        {features && (
          <a className={styles.toResult} href="#result">
            {verdict?.head ?? `${features.count} ${features.count === 1 ? 'burst' : 'bursts'}`}
          </a>
        )}
        <Pictures
          alignedAt="burst"
          captures={[
            { name: 'A', one: a },
            { name: 'B', one: b },
          ]}
        />
      </section>
      <section id="result" className={styles.result} aria-label="Result">
        <Result
          d={d}
          one={a}
          taken={taken}
          setup={setup}
          simulated={simulated}
          features={features}
          repeats={repeats}
          verdict={verdict}
          onMore={() => {
            if (features) setRepeats([...repeats, features]);
            a.clear();
          }}
        />
        <Coil d={d} />
        <Theory theory={d.theory} />
      </section>
    </div>
  );
}

/** A new case begins with the key in foil; where that was captured, with what is asked. */
const firstOf = (d: BurstsPage): Taken =>
  d.captures.some((c) => c.condition === 'foil') ? { condition: 'asked', key: d.key ?? d.keys[0] ?? null } : { condition: 'foil', key: null };
