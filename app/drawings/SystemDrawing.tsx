import type { ReactNode } from 'react';
import { Drawing } from './Drawing';
import { Blade, Box, Buttons, Chip, Fob, PlainHead, ShortBlade, ThickHead, Waves } from './parts';

/** The key of each system type with what is peculiar to it, by the type's id. */
export const systemDrawings: Readonly<Record<string, ReactNode>> = {
  'alarm-latch': (
    <>
      <ThickHead />
      <Chip />
      <ShortBlade />
      <path d="M68 24h6l10-8v24l-10-8h-6z" />
      <path d="M89 22q5 6 0 12" />
    </>
  ),
  cylinder: (
    <>
      <PlainHead />
      <ShortBlade />
      <circle cx="78" cy="28" r="14" />
      <path d="M72 28h12" />
      <circle cx="78" cy="17" r="2.5" fill="currentColor" />
      <circle cx="87" cy="34" r="2.5" fill="currentColor" />
    </>
  ),
  'engine-immobilizer': (
    <>
      <ThickHead />
      <Chip />
      <Buttons />
      <ShortBlade />
      <Box x={64} y={18} width={28} height={16} />
      <path d="M70 23h16M70 28h16" />
    </>
  ),
  infrared: (
    <>
      <rect x="6" y="14" width="50" height="28" rx="9" />
      <circle cx="18" cy="28" r="3" />
      <circle cx="29" cy="28" r="3" />
      <path d="M48 19h8v18h-8z" fill="currentColor" />
      <path d="M63 20l10-4M63 28h12M63 36l10 4" />
      <path d="M82 12v32h8V12" />
    </>
  ),
  'master-user': (
    <>
      <circle cx="18" cy="16" r="11" fill="currentColor" />
      <path d="M29 13h44l5 3-5 3h-4l-3-3-3 3-3-3-3 3H29z" />
      <circle cx="18" cy="42" r="10" />
      <circle cx="14" cy="42" r="2.5" />
      <path d="M28 39h44l5 3-5 3h-4l-3-3-3 3-3-3-3 3H28z" />
    </>
  ),
  pellet: (
    <>
      <PlainHead />
      <Blade />
      <rect x="46" y="24" width="13" height="8" rx="1" fill="currentColor" />
    </>
  ),
  'pocket-fob': (
    <>
      <path d="M10 22v20q0 8 8 8h32q8 0 8-8V22" />
      <path d="M10 22h12M46 22h12" />
      <rect x="22" y="8" width="24" height="30" rx="9" />
      <circle cx="34" cy="19" r="3" />
      <circle cx="34" cy="29" r="3" />
      <circle cx="79" cy="28" r="12" />
      <path d="M79 21v7" />
    </>
  ),
  'rearm-fob': (
    <>
      <Fob />
      <Waves x={54} y={28} />
      <path d="M78 27h14v14H78zM81 27v-5a4 4 0 0 1 8 0v5" />
    </>
  ),
  ring: (
    <>
      <ThickHead />
      <Chip />
      <Blade />
      <ellipse cx="66" cy="28" rx="8" ry="22" strokeWidth="4" />
    </>
  ),
  'sealed-secret': (
    <>
      <Fob />
      <path d="M56 16h34v24H56z" />
      {[62, 69, 77, 84].map((x) => (
        <g key={x} fill="currentColor" stroke="none">
          <circle cx={x} cy="24" r="2.5" />
          <circle cx={x} cy="33" r="2.5" />
        </g>
      ))}
    </>
  ),
  'slot-store': (
    <>
      <ThickHead />
      <Buttons />
      <ShortBlade />
      <path d="M66 10h24v36H66zM66 19h24M66 28h24M66 37h24" />
      <rect x="68" y="21" width="20" height="5" fill="currentColor" stroke="none" />
    </>
  ),
  'status-record': (
    <>
      <ThickHead />
      <Chip />
      <ShortBlade />
      <path d="M66 10h24v36H66z" />
      <path d="M71 18h14M71 25h9M71 32h14M71 39h6" />
    </>
  ),
  'transponder-attempt': (
    <>
      <ThickHead />
      <Chip />
      <path d="M13 38h8" strokeWidth="4" />
      <ShortBlade />
      <path d="M88 32a11 11 0 1 1-4-10" />
      <path d="M86 14v9h-9" />
    </>
  ),
  'transponder-dwell': (
    <>
      <ThickHead />
      <Chip />
      <circle cx="17" cy="38" r="3.5" />
      <ShortBlade />
      <circle cx="78" cy="28" r="14" />
      <path d="M78 19v9l6 4" />
    </>
  ),
};

/** The key of a system type, as one knows it by eye; a plain key for a type that has no drawing of its own. */
export function SystemDrawing({ family, width }: { family: string; width?: number }) {
  return (
    <Drawing width={width}>
      {systemDrawings[family] ?? (
        <>
          <PlainHead />
          <Blade />
        </>
      )}
    </Drawing>
  );
}
