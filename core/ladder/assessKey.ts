import { type Classification, classify, type LadderVerdict } from './classify';
import type { Ladder } from './ladder';
import type { Conditions } from './uncertainty';
import { ladderVerdict } from './verdict';
import { sentences } from './sentences';

/** Readings of one pellet in one orientation; a key with one pellet has it on side 1. */
export interface ReadingGroup {
  side: 1 | 2;
  /** The key turned over, tips the other way round. */
  turned: boolean;
  /** Ohms in the order taken, `Infinity` for an overload. */
  readings: number[];
}

export interface PelletAssessed {
  side: 1 | 2;
  orientations: { turned: boolean; found: Classification }[];
  /** All readings of the pellet together. */
  joint: Classification;
  /** Both orientations say the same, as far as both were read. */
  agree: boolean;
}

export interface KeyAssessed {
  pellets: PelletAssessed[];
  /** The worst of the pellets; orientations that don't agree count as unstable. */
  verdict: LadderVerdict;
  /** How sure, 0 to 1: all pellets at once. */
  p: number;
  /** Step of each pellet, by side; null where it is none. */
  steps: (number | null)[];
  head: string;
  text: string;
  /** What was not read yet, as something to do; empty when nothing is missing. */
  missing: string;
}

const worst: readonly LadderVerdict[] = ['open', 'short', 'unstable', 'between', 'step'];

/**
 * A whole key: each pellet in each orientation. A pellet that reads in one orientation only has a worn or dirty contact, whatever its value is.
 * @param groups at least one reading in all; groups without one are passed over
 */
export function assessKey(groups: readonly ReadingGroup[], ladder: Ladder, conditions: Conditions, prior?: readonly number[]): KeyAssessed {
  const read = groups.filter((g) => g.readings.length > 0);
  if (read.length === 0) throw new RangeError('A key can’t be identified without a reading.');
  const sides = [...new Set(read.map((g) => g.side))].sort();
  const pellets = sides.map((side): PelletAssessed => {
    const own = read.filter((g) => g.side === side).sort((a, b) => Number(a.turned) - Number(b.turned));
    const orientations = own.map((g) => ({ turned: g.turned, found: classify(g.readings, ladder, conditions, prior) }));
    const [one, other] = orientations;
    const agree = !other || (one!.found.verdict === other.found.verdict && one!.found.step?.step === other.found.step?.step);
    return {
      side,
      orientations,
      joint: classify(
        own.flatMap((g) => g.readings),
        ladder,
        conditions,
        prior,
      ),
      agree,
    };
  });
  const verdictOf = (p: PelletAssessed): LadderVerdict => (p.agree ? p.joint.verdict : 'unstable');
  const verdict = worst.find((v) => pellets.some((p) => verdictOf(p) === v))!;
  const leading = pellets.find((p) => verdictOf(p) === verdict)!;
  const p = pellets.reduce((product, x) => product * (x.agree ? x.joint.p : Math.min(...x.orientations.map((o) => o.found.p))), 1);
  const steps = Array.from({ length: ladder.pellets }, (_none, i) => {
    const pellet = pellets.find((x) => x.side === i + 1);
    return pellet?.agree ? (pellet.joint.step?.step ?? null) : null;
  });
  return { pellets, verdict, p, steps, ...words(pellets, leading, ladder, steps), missing: missingOf(read, ladder) };
}

function words(
  pellets: readonly PelletAssessed[],
  leading: PelletAssessed,
  ladder: Ladder,
  steps: readonly (number | null)[],
): { head: string; text: string } {
  if (!leading.agree) {
    const [one, other] = leading.orientations;
    const said = (o: PelletAssessed['orientations'][0] | undefined) => ladderVerdict(o!.found, ladder).head.replace(/[.]$/, '').toLowerCase();
    return {
      head: sentences.directionMatters,
      text: sentences.directionsDiffer(said(one), said(other)),
    };
  }
  const said = ladderVerdict(leading.joint, ladder);
  if (pellets.length < 2) return said;
  if (steps.every((s) => s !== null))
    return {
      head: sentences.values(steps.join(' and ')),
      text: pellets.map((p) => sentences.sideText(p.side, ladderVerdict(p.joint, ladder).text)).join(' '),
    };
  return { head: sentences.sideHead(leading.side, said.head), text: said.text };
}

function missingOf(read: readonly ReadingGroup[], ladder: Ladder): string {
  const has = (side: number, turned: boolean) => read.some((g) => g.side === side && g.turned === turned);
  const sides = Array.from({ length: ladder.pellets }, (_none, i) => i + 1);
  const side = sides.find((s) => !has(s, false) && !has(s, true));
  if (side !== undefined) return sentences.sideNotMeasured(side);
  const half = sides.find((s) => !has(s, false) || !has(s, true));
  if (half === undefined) return '';
  return sentences.otherDirection(ladder.pellets === 2 ? sentences.measureSide(half) : sentences.measure);
}
