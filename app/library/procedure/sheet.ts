import { type Effect, type ParamValues } from '../../../core/library';
import { draftOf, type Procedure, procedureOf, type Written } from '../../../core/procedure';
import { type EditedStep, edited, written } from './figures';

export interface Sheet {
  text: string;
  title: string;
  family: string;
  source: string;
  effect: Effect;
  cautions: string[];
  noReturn: string;
  steps: EditedStep[];
}

export interface Given {
  procedure: Procedure | null;
  head: { title: string; family: string; source: string; effect: Effect; cautions: string[] } | null;
  families: readonly { id: string; title: string }[];
  cautions: readonly { id: string; say: string }[];
  values: ParamValues;
  asked: string;
}

/** The sentences of a text by the name that each has as a step. */
const saidBy = (text: string): Record<string, string> => Object.fromEntries(draftOf(text).steps.map((s, i) => [`s${i + 1}`, s.text]));

/** A procedure as its editor begins with it. */
export function startOf({ procedure, head, families, asked }: Given): Sheet {
  const from = procedure?.written;
  const said = saidBy(from?.text ?? '');
  return {
    text: from?.text ?? '',
    title: head?.title ?? '',
    family: head?.family ?? (families.some((f) => f.id === asked) ? asked : ''),
    source: head?.source ?? '',
    effect: head?.effect ?? 'replacesKeys',
    cautions: head?.cautions ?? [],
    noReturn: from?.noReturn ?? '',
    steps: from?.steps.map((s) => edited(s, s.id, said[s.id] ?? '', true)) ?? [],
  };
}

/** What the browser kept of a sheet, if it still is one. */
export const keptSheet = (kept: unknown): Sheet | undefined => {
  const sheet = kept as Partial<Sheet> | null;
  return typeof sheet?.text === 'string' &&
    Array.isArray(sheet.steps) &&
    sheet.steps.every((s) => typeof s?.id === 'string' && typeof s.figures === 'object')
    ? (sheet as Sheet)
    : undefined;
};

/** The procedure as it would be saved now; the server reads it again by its schema. */
export function builtOf(sheet: Sheet): { procedure: Procedure; written: Written } {
  const steps = sheet.steps.filter((s) => !s.out).map((s) => written(s).step);
  const whole: Written = {
    text: sheet.text,
    steps,
    ...(sheet.noReturn && steps.some((s) => s.id === sheet.noReturn) ? { noReturn: sheet.noReturn } : {}),
  };
  const { title, family, source, effect, cautions } = sheet;
  return {
    procedure: procedureOf({ id: 'shop', version: 1, title, family, source, checked: null, effect, cautions }, whole) as Procedure,
    written: whole,
  };
}
