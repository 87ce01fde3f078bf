import type { ReactNode } from 'react';
import { Drawing } from './Drawing';
import { Blade, Buttons, Fob, PlainHead, ThickHead } from './parts';

const Lock = () => (
  <>
    <circle cx="48" cy="28" r="22" />
    <path d="M48 19v18" strokeWidth="4" />
  </>
);

/** A light along the time from left to right: a block for each stretch that it is lit, over a base line. @param lit Starts and ends, in parts of the whole width, 88 */
const Light = ({ lit }: { lit: readonly (readonly [number, number])[] }) => (
  <>
    <path d="M4 40h88" />
    {lit.map(([from, to]) => (
      <rect key={from} x={4 + from} y="18" width={to - from} height="22" fill="currentColor" stroke="none" />
    ))}
  </>
);
/** Flashes of one length, evenly spaced, from a point on. */
const flashes = (count: number, each: number, apart: number, from = 0) =>
  Array.from({ length: count }, (_, i) => [from + i * apart, from + i * apart + each] as const);

/** Answers that are quicker seen than read: by the question's id and the value's id. */
const drawn: Readonly<Record<string, Readonly<Record<string, ReactNode>>>> = {
  keyKind: {
    plain: (
      <>
        <PlainHead />
        <Blade />
      </>
    ),
    pellet: (
      <>
        <PlainHead />
        <Blade />
        <rect x="46" y="24" width="13" height="8" rx="1" fill="currentColor" />
      </>
    ),
    chipHead: (
      <>
        <ThickHead />
        <Blade />
      </>
    ),
    buttonHead: (
      <>
        <ThickHead />
        <Buttons />
        <Blade />
      </>
    ),
    slotFob: (
      <>
        <rect x="6" y="14" width="50" height="28" rx="9" />
        <circle cx="18" cy="28" r="3" />
        <path d="M62 28h16M72 21l7 7-7 7M86 10v36" />
      </>
    ),
    pushFob: (
      <>
        <Fob />
        <circle cx="76" cy="28" r="14" />
        <path d="M76 20v8" />
      </>
    ),
  },
  entry: {
    turn: (
      <>
        <Lock />
        <path d="M78 16a26 26 0 0 1 0 24M84 36l-6 5-4-6" />
      </>
    ),
    slot: (
      <>
        <rect x="8" y="20" width="40" height="16" rx="6" />
        <path d="M54 28h14M62 21l7 7-7 7M76 10h12v36H76" />
      </>
    ),
    button: (
      <>
        <circle cx="48" cy="28" r="20" />
        <circle cx="48" cy="28" r="13" />
        <path d="M48 20v8" />
      </>
    ),
  },
  around: {
    contacts: (
      <>
        <Lock />
        <path d="M38 24h4v8h-4zM54 24h4v8h-4z" fill="currentColor" />
      </>
    ),
    collar: (
      <>
        <Lock />
        <circle cx="48" cy="28" r="25" strokeWidth="5" />
      </>
    ),
    window: (
      <>
        <path d="M26 8h44v40H26z" />
        <path d="M34 18h28v20H34z" fill="currentColor" />
      </>
    ),
    plainLock: <Lock />,
    noLock: <path d="M26 8l44 40M70 8L26 48" />,
  },
  lampOut: {
    slow: <Light lit={flashes(3, 8, 32)} />,
    fast: <Light lit={flashes(8, 5, 11)} />,
    dark: <Light lit={[]} />,
  },
  lampOn: {
    seconds: <Light lit={[[0, 36]]} />,
    atOnce: <Light lit={[[0, 5]]} />,
    stays: <Light lit={[[0, 88]]} />,
    litThenFlash: <Light lit={[[0, 34], ...flashes(4, 6, 13, 42)]} />,
    slow: <Light lit={flashes(4, 11, 22)} />,
    rapid: <Light lit={flashes(11, 4, 8)} />,
    double: <Light lit={[...flashes(2, 7, 12), ...flashes(2, 7, 12, 34), ...flashes(2, 7, 12, 68)]} />,
    counted: <Light lit={[...flashes(4, 6, 11), ...flashes(2, 6, 11, 68)]} />,
    nothing: <Light lit={[]} />,
  },
};

/** The drawing of an answer to a question of the identification, where there is one. */
export function AnswerDrawing({ question, value }: { question: string; value: string }) {
  const lines = drawn[question]?.[value];
  return lines ? <Drawing width={80}>{lines}</Drawing> : null;
}
/** Answers that have a drawing; a test holds their names to the list of questions. */
export const drawnAnswers = Object.entries(drawn).flatMap(([question, values]) => Object.keys(values).map((value) => [question, value] as const));
