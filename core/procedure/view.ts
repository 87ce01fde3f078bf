import { midSentence } from '../words';
import {
  type Effect,
  evaluateExpression,
  type Expression,
  fillText,
  type OnRecord,
  type ParamValues,
  type ResolvedParam,
  warnedBecause,
  withKeys,
} from '../library';
import { formatLeft, formatQuantity } from '../units';
import { answersOf, noteNeeded } from './answers';
import { leafTitle } from './decide';
import { type Interruption, type InterruptionPolicy, interruptions, kindOf, type StepKind } from './definition';
import { happyPath, type PathEntry, placeOnPath } from './happyPath';
import { paceHere, type Paces } from './paces';
import { numbersOf, paramsAt, valuesAt } from './numbers';
import { extraCycle } from './odds';
import { type Instrument, instrumentOf } from './results';
import { saidBy, wordsAt } from './words';
import { leafAt, type Program } from './program';
import { present, type RunState } from './state';
import { actTimes, type ActTimes, endOfWait, isShortened, type WaitTimes, waitTimes } from './times';
import { sentences } from './sentences';

/** How urgently a person is wanted: amber and red as in look.md. */
export type Attention = 'none' | 'due' | 'amber' | 'red';

export interface ShownAnswer {
  id: string;
  say: string;
  hint?: string;
}

/** A running clock on the screen, as moments; the screen counts by itself. */
export interface ShownWait {
  startedAt: number;
  /** Counted down to. */
  until: number;
  trustedFrom?: number;
  amberAt?: number;
  redAt?: number;
  /** `least`: wait that long. `most`: act before it. */
  kind: 'least' | 'most';
  lampNoted: boolean;
}

export interface SequenceMark {
  label: string;
  place: 'past' | 'now' | 'ahead';
  /** Share of the whole line, from the expected time. */
  weight: number;
  wait: boolean;
  commitment: boolean;
}

/** What the screen shows of a run at one moment. */
export interface RunView {
  status: RunState['status'];
  stop?: { name: string | null; text: string };
  step: string;
  kind: StepKind;
  /** Small line above: which round. */
  round?: string;
  /** The one instruction. */
  instruction: string;
  hint?: string;
  notice?: { kind: NonNullable<RunState['notice']>['kind']; text: string };
  answers: ShownAnswer[];
  value?: { unit: string; min: number; max: number; whole?: true; required?: string; last?: number };
  /** The cycle that begins here is one more than usual. */
  extra?: { n: number; odds: number | null };
  /** What this step is measured with. */
  instrument?: Instrument;
  /** Answers that need a note of what was done and where it is kept. */
  noted: string[];
  waivable: boolean;
  /** Ids of cautions to be seen before the act. */
  cautions: string[];
  lamp?: string;
  wait?: ShownWait;
  attention: Attention;
  /** What a passed limit means. */
  warning?: string;
  /** What the case is asked for beside this step. */
  reads?: 'communicationCodes';
  /** Warnings from what is on record, before a commitment. */
  warnings: string[];
  /** The vehicle's numbers on which this step rests. */
  numbers: ResolvedParam[];
  sequence: SequenceMark[];
  takeBack?: { event: string; say: string };
  interruptions: { what: Interruption; policy: InterruptionPolicy }[];
  effect: Effect;
  key: string;
  seq: number;
}

const noticeText: Record<NonNullable<RunState['notice']>['kind'], string> = {
  questioned: sentences.questioned,
  early: sentences.early,
  late: sentences.late,
  unmet: sentences.unmet,
  short: sentences.short,
  over: sentences.over,
  restarted: sentences.restarted,
  waived: sentences.waived,
  goOn: sentences.goOn,
  measure: sentences.measure,
};

export type Glance = Omit<RunView, 'sequence'>;

export interface ViewInput {
  program: Program;
  params: Record<string, ResolvedParam>;
  values: ParamValues;
  record: OnRecord;
}

/** What is shown and due at `now` (milliseconds of the case's clock). */
export function view(input: ViewInput, stored: RunState, now: number): RunView {
  const { program } = input;
  const values = valuesAt(input.values, stored);
  return { ...glance(input, stored, now), sequence: sequenceOf(program, values, present(program, values, stored, now).state) };
}

/** The same without the whole of the run drawn out, which costs as much as all the rest: for many runs at once. */
export function glance({ program, params: began, values: beganValues, record }: ViewInput, stored: RunState, now: number): Glance {
  const params = paramsAt(began, stored.given);
  const values = valuesAt(beganValues, stored);
  const { state, behind } = present(program, values, stored, now);
  const { procedure } = program;
  const { step } = leafAt(program, state.step);
  const { words, key } = wordsAt(program, state, params);
  const say = (text: string) => fillText(text, words);
  const shortened = isShortened(step, state, values, now);
  const answers = answersOf(step, state.seen.begunAt !== undefined, shortened);
  const shown: Glance = {
    status: state.status,
    step: step.id,
    kind: kindOf(step),
    instruction: say(leafTitle(step)),
    answers: Object.entries(answers).map(([id, a]) => ({ id, say: say(a.say), ...(a.hint ? { hint: say(a.hint) } : {}) })),
    noted: Object.keys(answers).filter(noteNeeded),
    waivable: 'waivable' in step && step.waivable,
    cautions: step.cautions,
    attention: 'none',
    warnings:
      'recheck' in step && step.recheck.includes('keys')
        ? warnedBecause(procedure.effect, record.keysHere ? withKeys(record, state.keys) : record)
        : [],
    numbers: numbersOf(program, step.id, state.counters).flatMap((name) => params[name] ?? []),
    interruptions: interruptions.map((what) => ({ what, policy: procedure.interrupted[what] ?? procedure.interrupted.default })),
    effect: procedure.effect,
    key,
    seq: stored.seq,
  };
  const extra = extraCycle(program, values, state);
  if (extra) shown.extra = extra;
  const instrument = instrumentOf(step, state.answers, values);
  if (instrument) shown.instrument = instrument;
  if (state.stop) shown.stop = { name: state.stop.name, text: say(state.stop.text) };
  if ('hint' in step && step.hint) shown.hint = say(step.hint);
  if ('reads' in step && step.reads) shown.reads = step.reads;
  const lamp = 'message' in step ? step.message : step.lamp;
  if (lamp) shown.lamp = lamp;
  if (state.notice) shown.notice = { kind: state.notice.kind, text: state.notice.text ? say(state.notice.text) : noticeText[state.notice.kind] };
  const last = state.history.at(-1);
  if (last && last.type !== 'started' && state.history.length > state.committed)
    shown.takeBack = { event: last.id, say: saidBy(program, last, values) };
  if (state.status !== 'running') return { ...shown, answers: [], attention: 'none' };

  const repeat = program.nodes.find((n) => n.op === 'enter' && 'repeat' in n.loop && leafAt(program, stepOnWay(state)).loops.includes(n.id));
  if (repeat?.op === 'enter') shown.round = sentences.cycle(state.counters[repeat.id] ?? 1);
  if ('value' in step) {
    const { unit, min, max, atLeast, atMost } = step.value;
    shown.value = { unit, min, max, ...(step.value.whole ? { whole: true } : {}) };
    const needed = [
      atLeast === undefined ? '' : sentences.atLeast(quantity(atLeast, unit, values)),
      atMost === undefined ? '' : sentences.atMost(quantity(atMost, unit, values)),
    ].filter(Boolean);
    if (needed.length > 0) shown.value.required = needed.join(', ');
    const measured = state.answers[step.id]?.value;
    if (measured !== undefined) shown.value.last = measured;
  }
  if ('wait' in step) {
    const t = waitTimes(step, state, values);
    const lampNoted = state.seen.outAt !== undefined;
    shown.wait = { startedAt: t.startedAt, until: t.minAt, kind: 'least', lampNoted };
    const over = shown.answers.find((a) => a.id === 'timeOver');
    if (over) over.hint = sentences.otherwiseContinues(formatLeft(endOfWait(step, state, values) - now));
    if (shortened) shown.attention = 'due';
    if (step.wait.and) {
      shown.wait.trustedFrom = t.trustedFrom;
      if (t.amberAt !== undefined) shown.wait.amberAt = t.amberAt;
      if (t.redAt !== undefined) shown.wait.redAt = t.redAt;
      const early = shown.answers.find((a) => a.id === 'lampOut');
      if (early && now < t.minAt)
        early.hint =
          state.seen.questionedAt !== undefined ? sentences.checkedAgain : now < t.trustedFrom ? sentences.earlyAskedTwice : sentences.earlyNoted;
      const on = shown.answers.find((a) => a.id === 'stillOn');
      if (on)
        on.hint = now < t.minAt ? sentences.asExpected : t.redAt !== undefined && now >= t.redAt ? sentences.stopAndDiagnose : sentences.keepWaiting;
      if (now >= t.minAt) shown.attention = 'due';
      if (t.amberAt !== undefined && now >= t.amberAt) {
        shown.attention = 'amber';
        if (step.amberSay) shown.warning = say(step.amberSay);
      }
      if (t.redAt !== undefined && now >= t.redAt) {
        shown.attention = 'red';
        if (step.redSay) shown.warning = say(step.redSay);
      }
    }
  } else if (behind?.times.maxAt !== undefined) {
    const { startedAt, maxAt } = behind.times;
    shown.wait = { startedAt, until: maxAt, kind: 'most', lampNoted: false };
    shown.attention = now > maxAt ? 'red' : 'due';
    if (now > maxAt) shown.warning = sentences.limitPassed(formatLeft(maxAt - startedAt));
  } else if (state.left) {
    shown.attention = 'due';
    const { step: wait } = leafAt(program, state.left.step);
    if ('wait' in wait) {
      const { startedAt, minAt } = waitTimes(wait, { ...state, ...state.left }, values);
      shown.wait = { startedAt, until: minAt, kind: 'least', lampNoted: state.left.seen.outAt !== undefined };
    }
  } else {
    shown.attention = 'due';
    showAct(shown, actTimes(step, state, values), now);
  }
  return shown;
}

/** Where the run is on its way, while something is measured beside it too. */
const stepOnWay = (state: Pick<RunState, 'step' | 'left'>): string => state.left?.step ?? state.step;

/** A hold counts up to its shortest time, then down to its longest; a timed count and an awaited text count down. */
function showAct(shown: Glance, times: ActTimes | undefined, now: number): void {
  if (!times) return;
  const { startedAt, minAt, maxAt } = times;
  if (minAt !== undefined && (now < minAt || maxAt === undefined)) shown.wait = { startedAt, until: minAt, kind: 'least', lampNoted: false };
  else if (maxAt !== undefined) shown.wait = { startedAt, until: maxAt, kind: 'most', lampNoted: false };
  if (maxAt !== undefined && now > maxAt) shown.attention = 'red';
}

const quantity = (expression: Expression, unit: string, values: ParamValues): string => formatQuantity(evaluateExpression(expression, values), unit);

/** The whole of a procedure that nobody has begun, for these keys: the marks of a run, all of them ahead. */
export const outline = (program: Program, values: ParamValues, keys: readonly string[]): SequenceMark[] =>
  sequenceOf(program, values, { status: 'running', keys: [...keys], answers: {}, counters: {}, step: '' });

function sequenceOf(
  program: Program,
  values: ParamValues,
  state: Pick<RunState, 'status' | 'keys' | 'answers' | 'counters' | 'step' | 'left'>,
): SequenceMark[] {
  const path = happyPath(program, values, state.keys, state.answers, state.counters);
  const here = state.status === 'finished' ? path.length : placeOnPath(program, path, stepOnWay(state), state.counters);
  const marks: (SequenceMark & { until: number })[] = [];
  let pending = 0;
  // The point of no return is drawn where the act begins that follows it.
  let noReturn = false;
  path.forEach((entry, i) => {
    const seconds = entry.attendedS + entry.waitS;
    const previous = marks.at(-1);
    if (!entry.step.label) {
      if (previous) {
        previous.weight += seconds;
        previous.until = i;
      } else pending += seconds;
      noReturn ||= 'commitment' in entry.step;
      return;
    }
    const round = Math.max(...Object.values(entry.counters), 0);
    const label = fillText(entry.step.label, { round: String(round), key: entry.key, main: state.keys[0] ?? '' });
    marks.push({
      label,
      place: 'ahead',
      weight: seconds + pending,
      wait: 'wait' in entry.step,
      commitment: noReturn || 'commitment' in entry.step,
      until: i,
    });
    pending = 0;
    noReturn = false;
  });
  let from = 0;
  for (const mark of marks) {
    mark.place = here > mark.until ? 'past' : here >= from ? 'now' : 'ahead';
    from = mark.until + 1;
  }
  return marks.map(({ until: _until, ...mark }) => mark);
}

/** What a person has to do, and what passes by itself, in the order of a run. */
export interface StepAhead {
  kind: 'attended' | 'wait';
  minutes: number;
  /** How long after a wait the next act may begin at the latest. */
  maxLateMinutes?: number;
  label: string;
}

/**
 * What is ahead in a run, for a plan over several cars: waits as they are set, with their limits; acts as the content estimates them, joined up to the next wait. A wait
 * of less than a minute counts as an act: nobody can go elsewhere meanwhile.
 * @param paces what acts took in this shop
 */
export function stepsAhead(
  { program, values: began }: Pick<ViewInput, 'program' | 'values'>,
  stored: RunState,
  now: number,
  paces: Paces = {},
): StepAhead[] {
  const values = valuesAt(began, stored);
  const { state, behind } = present(program, values, stored, now);
  if (state.status !== 'running') return [];
  const steps: StepAhead[] = [];
  const late = (limit: number | undefined, from: number) => (limit === undefined ? {} : { maxLateMinutes: Math.max(0, limit - from) / 60_000 });
  // The upper limit of a wait that is over by itself still counts for the act that follows it.
  if (behind?.times.maxAt !== undefined) steps.push({ kind: 'wait', minutes: 0, ...late(behind.times.maxAt, now), label: '' });
  let at = now;
  const hands = (ms: number, label: string) => {
    const previous = steps.at(-1);
    if (ms <= 0) return;
    if (previous?.kind === 'attended') {
      previous.minutes += ms / 60_000;
      if (label && !previous.label.includes(label)) previous.label = previous.label ? `${previous.label}, ${label}` : label;
    } else steps.push({ kind: 'attended', minutes: ms / 60_000, label });
    at += ms;
  };
  for (const { entry, label, times } of entriesAhead(program, values, state, () => at)) {
    if (!times) {
      hands(paceHere(entry.attendedS, paces[entry.step.id]) * 1000, label);
      continue;
    }
    const left = Math.max(0, times.minAt - at);
    const limit = times.redAt ?? times.maxAt;
    if (times.minAt - times.startedAt < 60_000 || (left < 60_000 && limit === undefined)) hands(left, label);
    else {
      steps.push({ kind: 'wait', minutes: left / 60_000, ...late(limit, at + left), label });
      at += left;
    }
  }
  return steps;
}

/** The good way from where a run is, with the moments of its waits: `at` tells how far the caller has come. */
function* entriesAhead(
  program: Program,
  values: ParamValues,
  state: RunState,
  at: () => number,
): Generator<{ entry: PathEntry; label: string; times?: WaitTimes }> {
  const path = happyPath(program, values, state.keys, state.answers, state.counters);
  const here = placeOnPath(program, path, stepOnWay(state), state.counters);
  const lastDone: Record<string, number> = { ...state.anchors };
  for (const entry of here < 0 ? [] : path.slice(here)) {
    const label = entry.step.label
      ? midSentence(fillText(entry.step.label, { round: String(Math.max(...Object.values(entry.counters), 0)), key: entry.key }))
      : '';
    const times =
      'wait' in entry.step
        ? waitTimes(entry.step, { anchors: lastDone, enteredAt: entry === path[here] ? state.enteredAt : at() }, values)
        : undefined;
    yield { entry, label, ...(times ? { times } : {}) };
    lastDone[entry.step.id] = at();
  }
}
