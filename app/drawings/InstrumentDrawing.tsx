import type { ReactNode } from 'react';
import { Drawing } from './Drawing';
import { Blade, PlainHead } from './parts';

const drawn = {
  lamp: (
    <>
      <circle cx="24" cy="22" r="14" fill="currentColor" />
      <path d="M24 4v-2M42 22h4M2 22h4M37 9l3-3M11 9L8 6" />
      <path d="M4 50h12v-8h8v8h6v-8h8v8h6v-8h8v8h38" />
    </>
  ),
  ladder: (
    <>
      <PlainHead />
      <Blade />
      <rect x="46" y="24" width="13" height="8" rx="1" fill="currentColor" />
      <path d="M42 52l6-18M66 52l-6-18" strokeWidth="3" />
    </>
  ),
  substitute: (
    <>
      <path d="M4 18h14l4-8 8 16 8-16 8 16 8-16 8 16 4-8h26" />
      <path d="M4 44h30M58 44h34" />
      <rect x="34" y="37" width="24" height="14" fill="currentColor" />
    </>
  ),
  trials: (
    <>
      {[0, 1, 2, 3, 4].map((i) => (
        <rect key={i} x={6 + i * 17} y="10" width="12" height="12" fill={i === 3 ? 'none' : 'currentColor'} />
      ))}
      {[0, 1, 2, 3, 4].map((i) => (
        <rect key={i} x={6 + i * 17} y="34" width="12" height="12" fill={i === 1 ? 'none' : 'currentColor'} />
      ))}
    </>
  ),
  bursts: (
    <>
      <path d="M4 24h88" strokeWidth="3" />
      {[8, 26, 44, 62].map((x) => (
        <rect key={x} x={x} y="4" width="9" height="20" fill="currentColor" />
      ))}
      <path d="M4 42h4v-8h9v16h-9v-8M17 42h9v-8h9v16h-9v-8M35 42h9v-8h9v16h-9v-8M53 42h9v-8h9v16h-9v-8M71 42h21" />
    </>
  ),
  battery: (
    <>
      <path d="M6 16h84v36H6zM18 16v-8h14v8M64 16v-8h14v8" />
      <path d="M20 26h10M25 21v10M66 26h10" strokeWidth="3" />
      <path d="M14 38c18 1 34 3 68 9" strokeWidth="3" />
    </>
  ),
  memory: (
    <>
      <rect x="26" y="6" width="44" height="44" />
      <path d="M26 14h-12M26 28h-12M26 42h-12M70 14h12M70 28h12M70 42h12" strokeWidth="3" />
      <path d="M32 14h32v6H32zM32 36h32v6H32z" fill="currentColor" />
      <path d="M32 25h32v6H32z" />
    </>
  ),
  'copy-check': (
    <>
      <path d="M6 10h84v14H6zM6 34h84v14H6z" />
      <path d="M14 17h6M28 17h6M42 17h6M56 17h6M70 17h6M14 41h6M28 41h6M56 41h6M70 41h6" strokeWidth="4" />
      <circle cx="45" cy="41" r="5" fill="currentColor" />
    </>
  ),
} as const satisfies Record<string, ReactNode>;
export type Instrument = keyof typeof drawn;

/** What an instrument of the bench measures. */
export const InstrumentDrawing = ({ of, width }: { of: Instrument; width?: number }) => <Drawing width={width}>{drawn[of]}</Drawing>;
