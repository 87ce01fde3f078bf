import type { DraftKind, DraftStep, WrittenStep } from '../../../core/procedure';
import { type Quantity, readQuantity } from '../../../core/units';

/** What each kind is called, and what it does in a run. */
export const kindWords: Readonly<Record<DraftKind, string>> = {
  do: 'Do',
  wait: 'Wait, with a clock',
  hold: 'Hold, with a clock',
  count: 'Count',
  limit: 'Do within a time',
  observe: 'Look: as it says, or not',
  repeat: 'Repeat from a step',
  each: 'For each further key',
  caution: 'Caution, to be seen first',
};

export type FigureName = 'minS' | 'maxS' | 'withinS' | 'n' | 'max';
const time: Quantity = { unit: 's', min: 0, max: 86_400 };
const times = (max: number): Quantity => ({ unit: '', min: 1, max, whole: true });

/** The figures that a kind has, with what they are called. */
export const figuresOf: Readonly<Record<DraftKind, readonly { name: FigureName; label: string; quantity: Quantity }[]>> = {
  do: [],
  wait: [
    { name: 'minS', label: 'At least (m:ss)', quantity: time },
    { name: 'maxS', label: 'At most (m:ss)', quantity: time },
  ],
  hold: [
    { name: 'minS', label: 'At least (m:ss)', quantity: time },
    { name: 'maxS', label: 'At most (m:ss)', quantity: time },
  ],
  count: [
    { name: 'n', label: 'How often', quantity: times(200) },
    { name: 'withinS', label: 'Within (m:ss)', quantity: time },
  ],
  limit: [{ name: 'withinS', label: 'Within (m:ss)', quantity: time }],
  observe: [],
  repeat: [{ name: 'n', label: 'Cycles in all', quantity: times(200) }],
  each: [{ name: 'max', label: 'Keys at most', quantity: times(50) }],
  caution: [],
};

/** A step in the editor: as it is typed, whether a person has confirmed it, whether it is left out. */
export interface EditedStep {
  id: string;
  kind: DraftKind;
  text: string;
  line: number;
  from?: string;
  figures: Partial<Record<FigureName, string>>;
  sure: boolean;
  /** Something in its sentence was not understood, or can be understood in two ways. */
  doubt?: boolean;
  out: boolean;
  /** The sentence that it came from; empty for one that was added. */
  said: string;
}

const asText = (name: FigureName, value: number): string => {
  if (name === 'n' || name === 'max' || value < 60) return String(value);
  const m = Math.floor(value / 60);
  const s = Math.round((value % 60) * 100) / 100;
  return `${m}:${String(s).padStart(2, '0')}`;
};

/** A step of a draft, or one that was saved, as it stands in the editor. */
export function edited(step: DraftStep & Partial<Pick<WrittenStep, 'from'>>, id: string, said: string, sure: boolean): EditedStep {
  const kind = step.kind === 'limit' && step.withinS === undefined && step.maxS !== undefined ? { ...step, withinS: step.maxS } : step;
  const figures = Object.fromEntries(
    figuresOf[step.kind].flatMap(({ name }) => (kind[name] === undefined ? [] : [[name, asText(name, kind[name])]])),
  );
  return { id, kind: step.kind, text: step.text, line: step.line, ...(step.from ? { from: step.from } : {}), figures, sure, out: false, said };
}

/** What the fields say, as a step is kept; and what is wrong with them. */
export function written(step: EditedStep): { step: WrittenStep; problems: Partial<Record<FigureName | 'text', string>> } {
  const problems: Partial<Record<FigureName | 'text', string>> = {};
  const found: Partial<Record<FigureName, number>> = {};
  for (const { name, quantity } of figuresOf[step.kind]) {
    const typed = step.figures[name]?.trim() ?? '';
    if (typed === '') continue;
    const read = readQuantity(typed, quantity);
    if (read.ok) found[name] = read.value;
    else problems[name] = read.problems[0]!.message;
  }
  if (step.text.trim() === '') problems.text = 'This is empty. Write the step, or remove it.';
  if (found.minS !== undefined && found.maxS !== undefined && found.maxS <= found.minS) problems.maxS = 'It must be more than the least time.';
  const from = step.kind === 'repeat' && step.from ? { from: step.from } : {};
  return { step: { id: step.id, kind: step.kind, text: step.text.trim() || ' ', line: step.line, ...found, ...from }, problems };
}
