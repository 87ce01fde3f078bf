import {
  causeAnswerWords,
  type Made,
  moduleWords,
  originWords,
  type PlanEntry,
  savableWords,
  savedAnswerWords,
  type VariantField,
  variantFields,
  variantWords,
} from '../../core/replacement';
import { inSentence } from '../../core/units';

/** An entry as the report says it. */
export interface EntryLine {
  at: number;
  what: string;
  detail: string;
  by: string;
}

const stepSays = { done: 'done', failed: 'failed', leftOut: 'left out', open: 'opened again' } as const;

/** Numbers of a part in one line. */
const numbersWords = (variant: Readonly<Record<VariantField, string>>) =>
  variantFields.flatMap((field) => (variant[field] === '' ? [] : [`${inSentence(variantWords[field])} ${variant[field]}`])).join(', ');

/** The work after a replacement, line by line; answers that were given together stand in one. */
export function replacementLines(entries: readonly Made[]): EntryLine[] {
  const lines: (EntryLine & { group?: string })[] = [];
  let plan: PlanEntry | undefined;
  const title = (part: string) => plan?.parts.find((p) => p.part === part)?.title ?? moduleWords[part as keyof typeof moduleWords];
  const grouped = (e: Made, what: string, say: string, note: string) => {
    const group = `${e.kind} ${e.at} ${what}`;
    const last = lines.at(-1);
    if (last?.group === group) last.detail = `${last.detail}; ${say}`;
    else lines.push({ at: e.at, by: e.by, what: note === '' ? what : `${what} (${note})`, detail: say, group });
  };
  for (const e of entries) {
    const line = (what: string, detail: string) => lines.push({ at: e.at, by: e.by, what, detail });
    switch (e.kind) {
      case 'plan': {
        plan = e;
        const parts = e.parts.map((p) => `${p.title}: ${inSentence(originWords[e.replaced[p.part] ?? 'new'])}`);
        line('Replacement planned', `${parts.join(', ')}. ${e.byHand ? 'Without a scan tool' : 'With the tools at hand'}, ${e.steps.length} steps`);
        break;
      }
      case 'end':
        line('Replacement plan given up', e.reason);
        break;
      case 'variant':
        line(
          `Numbers of the ${e.side} part: ${title(e.part)}`,
          `${numbersWords(e.variant)}. ${e.checked === 'photo' ? 'On a photo' : 'Typed twice'}`,
        );
        break;
      case 'fits':
        line(`Accepted although its numbers differ: ${title(e.part)}`, e.reason);
        break;
      case 'saved':
        grouped(
          e,
          `Read before it comes out: ${title(e.part)}`,
          `${inSentence(savableWords[e.item])}: ${inSentence(savedAnswerWords[e.answer])}`,
          e.note,
        );
        break;
      case 'cause': {
        const say = plan?.parts.flatMap((p) => p.causes).find((c) => c.id === e.check)?.say ?? e.check;
        grouped(e, `What may have damaged it: ${title(e.part)}`, `${say}: ${inSentence(causeAnswerWords[e.answer])}`, e.note);
        break;
      }
      case 'step': {
        const say = plan?.steps.find((s) => s.id === e.step)?.title ?? e.step;
        line(`${say}: ${stepSays[e.answer]}`, e.note);
        break;
      }
    }
  }
  return lines.map(({ at, what, detail, by }) => ({ at, what, detail, by }));
}
