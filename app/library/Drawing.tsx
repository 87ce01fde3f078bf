import type { ReactNode } from 'react';
import styles from './library.module.css';

/** A blade with its cuts, from the head at x to the tip. */
const Blade = ({ x = 76 }: { x?: number }) => (
  <path d={`M${x} 40 H188 L196 48 L188 56 H176 L171 51 L164 56 H150 L144 50 L137 56 H120 L115 52 L109 56 H${x} Z M${x + 8} 46 H182`} />
);
const Head = ({ children }: { children?: ReactNode }) => (
  <>
    <path d="M76 34 V62 L64 72 Q40 78 26 64 Q16 48 26 32 Q40 18 64 24 Z" />
    <circle cx="32" cy="48" r="5" />
    {children}
  </>
);

/** What a key is like in the hand: the values of the question `keyKind`. */
const keys: Record<string, ReactNode> = {
  plain: (
    <>
      <circle cx="48" cy="48" r="27" />
      <circle cx="36" cy="48" r="8" />
      <Blade x={74} />
    </>
  ),
  pellet: (
    <>
      <Head />
      <Blade />
      <rect x="94" y="38" width="34" height="20" rx="2" className={styles.telling!} fill="var(--surface)" />
      <path d="M102 48 H104 M118 48 H120" className={styles.mark!} />
    </>
  ),
  chipHead: (
    <>
      <Head>
        <rect x="46" y="40" width="18" height="16" rx="3" className={styles.telling!} strokeDasharray="4 3" />
      </Head>
      <Blade />
    </>
  ),
  buttonHead: (
    <>
      <path d="M88 26 V70 Q60 80 22 72 Q10 48 22 24 Q60 16 88 26 Z" />
      <rect x="30" y="36" width="20" height="10" rx="5" className={styles.telling!} />
      <rect x="30" y="52" width="20" height="10" rx="5" className={styles.telling!} />
      <circle cx="68" cy="48" r="7" className={styles.telling!} />
      <Blade x={88} />
    </>
  ),
  slotFob: (
    <>
      <path d="M20 30 Q20 22 30 22 H138 Q150 22 150 32 V64 Q150 74 138 74 H30 Q20 74 20 66 Z" />
      <path d="M150 34 H176 Q184 34 184 42 V54 Q184 62 176 62 H150" className={styles.telling!} />
      <rect x="40" y="38" width="26" height="20" rx="6" />
      <rect x="76" y="38" width="26" height="20" rx="6" />
    </>
  ),
  pushFob: (
    <>
      <rect x="52" y="14" width="86" height="68" rx="22" />
      <path d="M70 34 H120 M70 50 H120 M70 66 H104" />
      <path d="M150 34 Q160 48 150 62 M164 26 Q180 48 164 70" className={styles.telling!} />
    </>
  ),
};

const Lock = ({ children }: { children?: ReactNode }) => (
  <>
    <circle cx="104" cy="48" r="22" />
    <path d="M101 36 H107 V60 H101 Z" />
    {children}
  </>
);
/** Where key and lock meet: the values of the question `around`. */
const locks: Record<string, ReactNode> = {
  plainLock: <Lock />,
  contacts: (
    <Lock>
      <path d="M92 42 H98 M92 54 H98" className={styles.telling!} />
      <path d="M92 42 L70 30 M92 54 L70 66" className={styles.telling!} strokeDasharray="3 3" />
    </Lock>
  ),
  collar: (
    <Lock>
      <circle cx="104" cy="48" r="32" className={styles.telling!} />
      <circle cx="104" cy="48" r="38" className={styles.telling!} strokeDasharray="5 4" />
    </Lock>
  ),
  window: (
    <>
      <rect x="56" y="20" width="96" height="56" rx="8" />
      <rect x="70" y="32" width="68" height="32" rx="4" />
      <path d="M78 38 H130 V44 H78 Z" className={styles.telling!} />
    </>
  ),
  noLock: (
    <>
      <circle cx="104" cy="48" r="30" strokeDasharray="2 5" />
      <path d="M62 30 Q52 48 62 66 M146 30 Q156 48 146 66 M50 22 Q34 48 50 74 M158 22 Q174 48 158 74" className={styles.telling!} />
    </>
  ),
};

export const isDrawn = (kind: string): boolean => kind in keys || kind in locks;

/** A key or a place where it meets the lock; what tells it from others is drawn in the colour of the app. */
export function Drawing({ kind, caption, note }: { kind: string; caption: string; note?: string }) {
  return (
    <figure className={styles.drawing}>
      <svg viewBox={kind in keys ? '0 0 208 96' : '44 4 120 88'} role="img" aria-label={caption}>
        {keys[kind] ?? locks[kind]}
      </svg>
      <figcaption>
        {caption}
        {note && <span className="quiet"> {note}</span>}
      </figcaption>
    </figure>
  );
}
