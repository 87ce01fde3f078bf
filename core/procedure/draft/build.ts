import { type Effect, gates, missingCautions } from '../../library';
import { leafTitle } from '../decide';
import type { LeafStep, Step, ValueStep } from '../definition';
import { sentences } from '../sentences';
import type { DraftStep, Written, WrittenStep } from './draft';

/** What is said of the whole. */
export interface WrittenHead {
  id: string;
  version: number;
  title: string;
  family: string;
  source: string;
  checked: { by: string; on: string } | null;
  effect: Effect;
  cautions: string[];
}

/** Longer than this, seconds with one key, and the battery is measured first: surely before five minutes with several. */
const longS = 240;
/** Volts at rest that a long procedure begins with, where its text names none: general practice. */
const restedVolts = 12.4;
/** What a person takes for one step, seconds: an estimate for planning only. */
const actS = 10;

/** Words of a text are no names in braces. */
const plain = (text: string): string => text.replaceAll('{', '(').replaceAll('}', ')');

/** The figures that a kind can't do without; a step without them is a plain one. */
const needs: Partial<Record<DraftStep['kind'], (s: DraftStep) => boolean>> = {
  wait: (s) => (s.minS ?? s.maxS) !== undefined,
  hold: (s) => s.minS !== undefined,
  count: (s) => s.n !== undefined,
  limit: (s) => (s.withinS ?? s.maxS) !== undefined,
  repeat: (s) => s.n !== undefined,
};
/** Whether a step lacks the figures of its kind. */
export const lacksFigures = (step: DraftStep): boolean => !(needs[step.kind]?.(step) ?? true);

/** "Repeat steps 2 to 4": the mark of the first step that is meant, where a sentence names it. */
const meant = /\bsteps?\s+(\d+|[a-z])\b/i;

/**
 * The line of a text at which a repetition begins, where its sentence names a step by the mark that the line has; undefined where it names none, or one
 * that is not there.
 */
export function repeatedFromLine(text: string, sentence: string): number | undefined {
  const mark = meant.exec(sentence)?.[1]?.toLowerCase();
  if (mark === undefined) return undefined;
  const at = text.split(/\r?\n/).findIndex((l) =>
    /^\s*(?:step\s+)?(\d+|[a-z])(?:[.):]\s|\s*\|)|^\s*step\s+(\d+)\b/i
      .exec(l)
      ?.slice(1)
      .some((m) => m?.toLowerCase() === mark),
  );
  return at < 0 ? undefined : at + 1;
}

/** What every leaf has, with the cautions that its words ask for. */
function leaf<T extends object>(id: string, own: T, takes = actS): T & { id: string; cautions: string[]; takes: number } {
  const step = { id, cautions: [] as string[], takes, ...own };
  const cautions = missingCautions(leafTitle(step as unknown as LeafStep), []).map(({ oneOf }) => oneOf[0]!);
  return { ...step, cautions: [...new Set(cautions)] };
}

/** One step as the run's; the acts that a clock may count from are told by `before`. */
function nodesOf(step: WrittenStep, before: string | undefined): Step[] {
  const { id, kind } = step;
  const text = plain(step.text);
  const from = before === undefined ? [] : [before];
  const { minS, maxS, withinS } = step;
  switch (lacksFigures(step) && kind !== 'repeat' ? 'do' : kind) {
    case 'wait': {
      const min = minS ?? maxS!;
      const bounded = maxS !== undefined && maxS > min;
      return [
        leaf(
          id,
          {
            label: sentences.labelWait,
            do: text,
            wait: { from, min, ...(bounded ? { max: maxS } : {}) },
            ...(bounded ? { late: 'restart' as const, lateSay: sentences.writtenLate } : {}),
          },
          0,
        ),
      ];
    }
    case 'hold':
      return [
        leaf(id, {
          label: sentences.labelHold,
          do: text,
          hold: { min: minS!, counted: true, ...(maxS !== undefined && maxS > minS! ? { max: maxS } : {}) },
        }),
      ];
    case 'count':
      return [
        leaf(id, {
          label: sentences.labelCount,
          do: text,
          count: { n: step.n!, ...(withinS === undefined ? {} : { within: withinS }) },
          done: sentences.writtenCounted,
          otherSay: sentences.writtenLost,
        }),
      ];
    case 'limit':
      return [
        leaf(`${id}By`, { do: text, wait: { from, min: 0, max: withinS ?? maxS! }, late: 'restart' as const, lateSay: sentences.writtenLate }, 0),
        leaf(id, { label: sentences.labelLimit, do: text, done: sentences.writtenDone }),
      ];
    case 'observe':
      return [
        leaf(id, {
          label: sentences.labelCheck,
          observe: text,
          answers: {
            asWritten: { say: sentences.writtenAs, to: 'next' as const },
            otherwise: { say: sentences.writtenOtherwise, to: 'stop.otherwise' as const },
          },
        }),
      ];
    case 'each':
      return [
        {
          each: { id: `${id}Keys`, keys: 'further' },
          steps: [leaf(id, { label: sentences.labelKey, do: sentences.writtenKey(text), done: sentences.writtenDone })],
        },
      ];
    case 'caution':
    case 'repeat':
      return [leaf(id, { confirm: text, done: kind === 'caution' ? sentences.writtenSeen : sentences.writtenGoOn, waivable: false })];
    default:
      return [leaf(id, { do: text, done: sentences.writtenDone })];
  }
}

/** Kinds that a clock may count from, when they are done or over. */
const acts: readonly DraftStep['kind'][] = ['do', 'wait', 'hold', 'count', 'limit'];

/**
 * A procedure from the steps of a text, as data that the schema still has to read: what the text says and nothing else, besides what every procedure has
 * to have (cautions that its words ask for, the point of no return, the battery before a long one).
 */
export function procedureOf(head: WrittenHead, written: Written): unknown {
  const out: { step: Step; of: string }[] = [];
  let before: string | undefined;
  for (const step of written.steps) {
    if (written.noReturn === step.id && gates[head.effect].authority)
      out.push({
        of: 'noReturn',
        step: leaf('noReturn', {
          label: sentences.labelNoReturn,
          commitment: sentences.writtenNoReturn,
          hint: plain(step.text),
          done: sentences.writtenGoOn,
          recheck: ['authority' as const, 'keys' as const],
        }),
      });
    const nodes = nodesOf(step, before);
    if (step.kind === 'repeat' && step.n !== undefined) {
      const from =
        step.from === undefined
          ? 1 + out.findLastIndex((o) => 'repeat' in o.step)
          : Math.max(
              0,
              out.findIndex((o) => o.of === step.from),
            );
      const inside = out.splice(from);
      // The point of no return is passed once, before the first cycle.
      out.push(...inside.filter((o) => o.of === 'noReturn'));
      const steps = [...inside.filter((o) => o.of !== 'noReturn').map((o) => o.step), ...nodes];
      // Its first step is where a later repeat may begin.
      out.push({ of: inside[0]?.of ?? step.id, step: { repeat: { id: `${step.id}Cycles`, min: step.n, max: step.n }, steps } });
    } else out.push(...nodes.map((node) => ({ of: step.id, step: node })));
    if (acts.includes(step.kind)) before = step.id;
  }
  const seconds = written.steps.reduce(
    (sum, s) => sum + (actS + (s.kind === 'wait' ? (s.minS ?? s.maxS ?? 0) : 0)) * cyclesAround(written.steps, s),
    0,
  );
  const long = seconds > longS;
  const steps = out.map((o) => o.step);
  // A wait is over by itself; somebody has to say that the whole is.
  if (endsInWait(steps)) steps.push(leaf('over', { confirm: sentences.writtenOver, done: sentences.writtenFinish, waivable: false }));
  const observed = written.steps.some((s) => s.kind === 'observe');
  return {
    kind: 'procedure',
    ...head,
    cautions: [...new Set(['serviceFirst', ...head.cautions, ...(long ? ['window', 'flat'] : [])])],
    text: sentences.writtenText(written.steps.length),
    params: [],
    interrupted: { default: 'restart', locked: 'goOn', left: 'goOn' },
    steps: long ? [battery(), ...steps] : steps,
    stops: observed ? { otherwise: { text: sentences.writtenStop } } : {},
    written,
  };
}

function endsInWait(steps: readonly Step[]): boolean {
  const last = steps.at(-1);
  return last !== undefined && ('steps' in last ? endsInWait(last.steps) : 'wait' in last);
}

/** How often a step is gone through: the cycles of the repeats that hold it. */
function cyclesAround(steps: readonly WrittenStep[], step: WrittenStep): number {
  const at = steps.indexOf(step);
  return steps.reduce((times, s, i) => {
    if (s.kind !== 'repeat' || s.n === undefined || i <= at) return times;
    const from = s.from === undefined ? 1 + steps.slice(0, i).findLastIndex((x) => x.kind === 'repeat') : steps.findIndex((x) => x.id === s.from);
    return from <= at ? times * s.n : times;
  }, 1);
}

const battery = (): ValueStep => ({
  id: 'restedBattery',
  label: sentences.labelBattery,
  ask: sentences.writtenBattery,
  hint: sentences.writtenBatteryHint,
  value: { unit: 'V', min: 6, max: 16, atLeast: restedVolts, battery: 'rested' },
  unmet: sentences.writtenBatteryLow,
  waivable: true,
  cautions: ['battery'],
  takes: 40,
});
