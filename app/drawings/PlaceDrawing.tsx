import type { ReactNode } from 'react';
import type { TestPlace } from '../../core/library';
import { Drawing } from './Drawing';
import { Blade, Chip, ThickHead } from './parts';

const drawn: Readonly<Record<TestPlace, { title: string; lines: ReactNode }>> = {
  key: {
    title: 'At the key',
    lines: (
      <>
        <ThickHead />
        <Chip />
        <Blade />
      </>
    ),
  },
  lock: {
    title: 'At the lock',
    lines: (
      <>
        <circle cx="48" cy="28" r="22" />
        <circle cx="48" cy="28" r="13" fill="currentColor" />
        <path d="M48 20v16" stroke="var(--raised)" strokeWidth="4" />
      </>
    ),
  },
  column: {
    title: 'At the steering column',
    lines: (
      <>
        <ellipse cx="30" cy="28" rx="12" ry="24" />
        <path d="M30 4v48M18 28h24" />
        <path d="M42 24l44 12v12L42 32z" fill="currentColor" />
      </>
    ),
  },
  cluster: {
    title: 'In the instrument cluster',
    lines: (
      <>
        <path d="M6 46a42 34 0 0 1 84 0z" />
        <circle cx="30" cy="36" r="8" />
        <circle cx="66" cy="36" r="8" />
        <path d="M30 36l4-5M66 36l4-5" />
        <circle cx="48" cy="24" r="5" fill="currentColor" />
      </>
    ),
  },
  scanTool: {
    title: 'With the scan tool',
    lines: (
      <>
        <rect x="30" y="6" width="36" height="36" rx="4" />
        <rect x="36" y="12" width="24" height="16" fill="currentColor" />
        <path d="M38 35h4M46 35h4M54 35h4M48 42v10h30" />
        <path d="M78 46h12v8H78" />
      </>
    ),
  },
  box: {
    title: 'At a module or the fuse box',
    lines: (
      <>
        <path d="M18 12h60v28H18z" />
        <path d="M26 19h10v6H26zM43 19h10v6H43zM60 19h10v6H60z" fill="currentColor" />
        <path d="M26 32h44M28 40v8M38 40v8M58 40v8M68 40v8" />
      </>
    ),
  },
  bay: {
    title: 'Under the hood',
    lines: (
      <>
        <path d="M14 26h68v22H14z" fill="currentColor" />
        <path d="M22 26v-8h12v8M62 26v-8h12v8" />
        <path d="M24 37h8M64 37h8M68 33v8" stroke="var(--raised)" strokeWidth="3" />
      </>
    ),
  },
  pedals: {
    title: 'Pedals and shifter',
    lines: (
      <>
        <path d="M14 22h14v24H14zM36 22h18v24H36z" fill="currentColor" />
        <path d="M21 22V6M45 22V6" />
        <path d="M78 48V22" />
        <circle cx="78" cy="16" r="7" />
        <path d="M66 48h24" />
      </>
    ),
  },
  outside: {
    title: 'Around the car',
    lines: (
      <>
        <path d="M6 40v-9l12-3 10-12h34l12 12 16 3v9z" />
        <circle cx="24" cy="40" r="6" fill="currentColor" />
        <circle cx="72" cy="40" r="6" fill="currentColor" />
        <path d="M46 16v12M28 28h46" />
      </>
    ),
  },
  papers: {
    title: 'Ask, or look at the papers',
    lines: (
      <>
        <path d="M14 8h46v30H38l-10 10V38H14z" />
        <path d="M24 18h26M24 27h18" />
        <path d="M68 22h16v28H68z" fill="currentColor" />
      </>
    ),
  },
};

/** Where on the car or key a test is made. */
export function PlaceDrawing({ place, width }: { place: TestPlace; width?: number }) {
  return (
    <Drawing width={width} title={drawn[place].title}>
      {drawn[place].lines}
    </Drawing>
  );
}
