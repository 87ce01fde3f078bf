import type { SVGProps } from 'react';
import type { Ability, KeyKind } from '../../core/library';
import { Drawing } from './Drawing';
import { Blade } from './parts';

export type PartState = 'works' | 'fails' | 'untried';
/** Parts of a key, and the abilities that show that each works. Those under `shows` can't show that it fails: a refused key may have a sound chip. */
export const keyParts = {
  blade: { say: 'Blade', abilities: ['turns', 'doors'], shows: [] },
  chip: { say: 'Chip', abilities: ['chipReads', 'infrared'], shows: ['accepted'] },
  remote: { say: 'Remote', abilities: ['remote'], shows: [] },
} as const satisfies Record<string, { say: string; abilities: readonly Ability[]; shows: readonly Ability[] }>;
export type KeyPart = keyof typeof keyParts;

/** Which parts a key of a kind has. */
export const partsOf: Readonly<Record<KeyKind, readonly KeyPart[]>> = {
  unknown: ['blade', 'chip', 'remote'],
  plain: ['blade'],
  pellet: ['blade', 'chip'],
  chipHead: ['blade', 'chip'],
  buttonHead: ['blade', 'chip', 'remote'],
  slotFob: ['chip', 'remote'],
  pushFob: ['chip', 'remote'],
};

/** Filled: it works. Outlined: nobody tried it. Broken outline with a red stroke through it: it does not work. */
const drawnAs = (state: PartState | undefined): SVGProps<SVGGElement> =>
  state === 'works' ? { fill: 'currentColor' } : state === 'fails' ? { strokeDasharray: '3 4' } : {};
const Strike = ({ x, y }: { x: number; y: number }) => <path d={`M${x - 6} ${y + 6}l12 -12`} stroke="var(--red)" strokeWidth="3" />;

/** What is known of each part of a key: it fails if one of its abilities does, works if any does and none fails. */
export function partStates(kind: KeyKind, results: Partial<Record<Ability, string>>): { part: KeyPart; state: PartState }[] {
  return partsOf[kind].map((part) => {
    const { abilities, shows } = keyParts[part];
    const fails = abilities.some((a) => results[a] === 'no');
    return { part, state: fails ? 'fails' : [...abilities, ...shows].some((a) => results[a] === 'yes') ? 'works' : 'untried' };
  });
}

/** A key with what of it works, part by part. */
export function KeyDrawing({ kind, states, width }: { kind: KeyKind; states: Partial<Record<KeyPart, PartState>>; width?: number }) {
  const fob = kind === 'slotFob' || kind === 'pushFob';
  const has = (part: KeyPart) => partsOf[kind].includes(part);
  // The resistor of a resistor key sits in the blade; every other chip in the head.
  const filled = kind === 'pellet' && states.blade === 'works';
  // On a filled blade it is told by its edge, and by a hole where nobody tried it.
  const onBlade = filled ? { stroke: 'var(--ground)', ...(states.chip === 'works' ? {} : { fill: 'var(--ground)' }) } : {};
  const [chipX, chipY] = kind === 'pellet' ? [52, 28] : fob ? [40, 28] : [27, 28];
  return (
    <Drawing width={width}>
      {fob ? <rect x="8" y="12" width={kind === 'slotFob' ? 60 : 48} height="32" rx="11" /> : <rect x="3" y="10" width="34" height="36" rx="12" />}
      {has('blade') && (
        <g {...drawnAs(states.blade)}>
          <Blade />
        </g>
      )}
      {has('chip') && (
        <g {...drawnAs(states.chip)}>
          <rect x={chipX - 5} y={chipY - 4} width="10" height="8" rx="1" {...onBlade} />
        </g>
      )}
      {has('remote') && (
        <g {...drawnAs(states.remote)}>
          <rect x={fob ? 16 : 8} y="17" width="10" height="7" rx="2" />
          <rect x={fob ? 16 : 8} y="32" width="10" height="7" rx="2" />
        </g>
      )}
      {has('blade') && states.blade === 'fails' && <Strike x={68} y={28} />}
      {has('chip') && states.chip === 'fails' && <Strike x={chipX} y={chipY} />}
      {has('remote') && states.remote === 'fails' && <Strike x={fob ? 21 : 13} y={28} />}
    </Drawing>
  );
}
