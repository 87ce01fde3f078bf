import { evaluateExpression, type ParamValues } from '../library';
import { formatOhms, type LadderVerdict } from '../ladder';
import { formatQuantity } from '../units';
import { kindOf, type LeafStep } from './definition';
import { sentences } from './sentences';

/** What an instrument inside a run found. No digit of an entry and no byte of a file is ever part of it. */
export type StepResult =
  /** Two entries, compared where they were typed, and equal; `sealed`: the name of the sealed secret that they are equal to. */
  | { kind: 'entries'; length: number; sealed?: string }
  /** A file that was picked: its bytes stay where they are. */
  | { kind: 'file'; name: string; size: number; sha256: string }
  /** A key battery, volts at rest and with a button pressed. */
  | { kind: 'cell'; volts: number; pressedVolts: number }
  /** Readings of a resistor key on a value chart; null is an overload. */
  | { kind: 'ladder'; ladder: string; readings: (number | null)[]; verdict: LadderVerdict; step: number | null };
export const resultKinds = ['entries', 'file', 'cell', 'ladder'] as const satisfies readonly StepResult['kind'][];

/** A fresh key battery of 3 V gives at least this, volts, and sags no further than that when a button is pressed (shared practice, checked by nobody). */
export const freshCell = { least: 2.9, mostSag: 0.3 } as const;

/** Whether a key battery is to be changed. */
export const cellIsWeak = ({ volts, pressedVolts }: { volts: number; pressedVolts: number }): boolean =>
  volts < freshCell.least || Math.round((volts - pressedVolts) * 1000) / 1000 > freshCell.mostSag;

/** What a step's instrument has to measure, for the screen. */
export type Instrument =
  | { kind: 'entries'; length: number; alphabet: 'decimal' | 'hex'; secret: boolean }
  | { kind: 'file'; sameAs: Extract<StepResult, { kind: 'file' }> | null; compares: boolean; except: string | null }
  | { kind: 'cell' }
  | { kind: 'ladder' };

type Answers = Readonly<Record<string, { result?: StepResult }>>;

/** The instrument of a step; undefined where it has none: it is ticked with a note then. */
export function instrumentOf(step: LeafStep, answers: Answers, params: ParamValues): Instrument | undefined {
  if ('twoEntry' in step) {
    const { length, alphabet, vault } = step.twoEntry;
    return { kind: 'entries', length: evaluateExpression(length, params), alphabet, secret: vault };
  }
  if ('file' in step) {
    const before = step.file.sameAs === undefined ? undefined : answers[step.file.sameAs]?.result;
    return {
      kind: 'file',
      sameAs: before?.kind === 'file' ? before : null,
      compares: step.file.sameAs !== undefined,
      except: step.file.except ?? null,
    };
  }
  if ('reading' in step && step.reading === 'fobCell') return { kind: 'cell' };
  if ('reading' in step && step.reading === 'ladder') return { kind: 'ladder' };
  return undefined;
}

/**
 * What is wrong with a result for an answer to a step, in a sentence; undefined when nothing is. A file that is said to be equal is held against the
 * earlier one by its digest; where something may differ, a person has judged.
 */
export function resultProblem(step: LeafStep, answer: string, result: StepResult, answers: Answers, params: ParamValues): string | undefined {
  const instrument = instrumentOf(step, answers, params);
  if (!instrument || instrument.kind !== result.kind) return sentences.wrongResult(result.kind, kindOf(step));
  if (instrument.kind === 'entries' && result.kind === 'entries' && result.length !== instrument.length)
    return sentences.entriesLength(result.length, instrument.length);
  if (instrument.kind === 'file' && result.kind === 'file' && instrument.sameAs) {
    const equal = instrument.sameAs.sha256 === result.sha256;
    if (answer === 'same' && !equal && instrument.except === null) return sentences.filesDiffer(result.name, instrument.sameAs.name);
    if (answer === 'different' && equal) return sentences.filesEqual(result.name, instrument.sameAs.name);
  }
  return undefined;
}

/** A result in words, for the report. */
export function resultWords(result: StepResult): string {
  switch (result.kind) {
    case 'entries':
      return result.sealed === undefined ? sentences.entriesSaid(result.length) : sentences.entriesSealed(result.length, result.sealed);
    case 'file':
      return sentences.fileSaid(result.name, result.size, result.sha256.slice(0, 16));
    case 'cell':
      return sentences.cellSaid(formatQuantity(result.volts, 'V'), formatQuantity(result.pressedVolts, 'V'));
    case 'ladder': {
      const read = result.readings.map((r) => (r === null ? sentences.overload : formatOhms(r))).join(', ');
      return result.step === null ? sentences.noValueSaid(read) : sentences.valueSaid(result.step, read);
    }
  }
}
