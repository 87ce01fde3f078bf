import { type FactLookup, holds } from '../library';
import type { TriageKind } from '../triage';
import { type ByCause, callCauses, type CallCause, type CallSheet, type VisitKind, questionsFor } from './callSheet';

const { log10, round } = Math;

/** Below this the sheet does not say what it sounds like. */
export const soundsFrom = 0.6;

/** What was said on the telephone. */
export interface CallFacts {
  /** Answers by question; what nobody could say is left out. */
  answers: Readonly<Record<string, string>>;
  /** Where the system is known and its lamp or text was described or watched in a film: what the immobilizer says, in words and as a verdict. */
  immobilizer?: { kind: TriageKind; say: string };
  family?: string;
}

export interface CallAdvice {
  beliefs: { cause: CallCause; p: number }[];
  sounds: CallCause | 'notClear';
  /** What speaks for (above 0) and against the likeliest cause, in decibans (tens of log10 of the odds), the strongest first. */
  speaks: { ask: string; say: string; decibans: number }[];
  visit: { kind: VisitKind; say: string };
  tries: string[];
  bring: { caller: string[]; us: string[] };
  jobs: { title: string; minutes: [number, number] }[];
  /** Labour from and to, minutes. */
  minutes: [number, number];
}

/**
 * What a call comes to: Bayes over three causes, each answer counted as independent of the others when the cause is given, then the lines of the sheet
 * that hold. The immobilizer's word takes the place of the answer about the lamp, which means less when the system is not known.
 */
export function adviseCall(sheet: CallSheet, facts: CallFacts): CallAdvice {
  const said: { ask: string; say: string; p: ByCause }[] = questionsFor(sheet, facts.family).flatMap((q) => {
    const value = Object.hasOwn(q.values, facts.answers[q.id] ?? '') ? q.values[facts.answers[q.id]!] : undefined;
    return value?.p && !(q.id === 'lamp' && facts.immobilizer) ? [{ ask: q.ask, say: value.say, p: value.p }] : [];
  });
  const lampAsked = sheet.questions.find((q) => q.id === 'lamp')?.ask ?? '';
  if (facts.immobilizer) said.push({ ask: lampAsked, say: facts.immobilizer.say, p: sheet.immobilizer[facts.immobilizer.kind] });
  const weights = callCauses.map((c) => said.reduce((w, { p }) => w * p[c], sheet.before[c]));
  const total = weights.reduce((a, b) => a + b, 0);
  const beliefs = callCauses.map((cause, i) => ({ cause, p: weights[i]! / total })).sort((a, b) => b.p - a.p);
  const first = beliefs[0]!;
  const sounds = first.p >= soundsFrom ? first.cause : 'notClear';

  const others = callCauses.filter((c) => c !== first.cause);
  const without = others.reduce((sum, c) => sum + sheet.before[c], 0);
  const speaks = said
    .map(({ ask, say, p }) => {
      const rest = others.reduce((sum, c) => sum + sheet.before[c] * p[c], 0) / without;
      return { ask, say, decibans: 10 * log10(p[first.cause] / rest) };
    })
    .sort((a, b) => Math.abs(b.decibans) - Math.abs(a.decibans));

  const derived: Record<string, string> = { sounds, ...(facts.family ? { family: facts.family } : {}) };
  const lookup: FactLookup = (subject, name) => (subject === 'answer' ? (derived[name] ?? facts.answers[name]) : undefined);
  const holding = <T extends { when?: CallSheet['visit'][0]['when'] }>(lines: readonly T[]) =>
    lines.filter((l) => !l.when || holds(l.when, lookup, {}));
  const { kind, say } = holding(sheet.visit)[0]!;
  derived.visit = kind;
  const jobs = holding(sheet.jobs).map(({ title, minutes }) => ({ title, minutes }));
  const bring = holding(sheet.bring);
  return {
    beliefs,
    sounds,
    speaks,
    visit: { kind, say },
    tries: holding(sheet.tries).map((t) => t.say),
    bring: { caller: bring.filter((b) => b.who === 'caller').map((b) => b.say), us: bring.filter((b) => b.who === 'us').map((b) => b.say) },
    jobs,
    minutes: [0, 1].map((i) => jobs.reduce((sum, j) => sum + j.minutes[i]!, 0)) as [number, number],
  };
}

/** Labour as a price, rounded to whole units of the currency; null where the shop has no rate. */
export function priceOf(minutes: readonly [number, number], ratePerHour: number): [number, number] | null {
  return ratePerHour > 0 ? [round((minutes[0] / 60) * ratePerHour), round((minutes[1] / 60) * ratePerHour)] : null;
}
