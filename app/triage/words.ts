import type { Triage, TriageKind, TriageStage } from '../../core/triage';
import { formatChance } from '../../core/units';
import { midSentence } from '../../core/words';
import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import { faultOf } from '../cases/about';

/** Each verdict of the triage, as a title, as it stands in a link, and as what to do. */
export const triageWords: Record<TriageKind, { title: string; mark: string; say: string }> = {
  refused: { title: 'Refused', mark: 'immobilizer refuses', say: 'The immobilizer refuses the key. Work on the immobilizer only.' },
  accepted: { title: 'Accepted', mark: 'key accepted', say: 'Key accepted. Leave the immobilizer alone and check further down the chain.' },
  silent: {
    title: 'Silent',
    mark: 'immobilizer silent',
    say: 'The immobilizer shows nothing. Check power and ignition feed first, then key reader and key.',
  },
  notClear: { title: 'Not clear', mark: 'not clear yet', say: 'Not enough known to tell yet. Check this next.' },
};

/** From this chance on an unclear triage names what is likely. Our own choice. */
const namedFrom = 0.35;

/** The verdict's title. Where the signs are not clear and the diagnosis leans to one fault, that fault: "Likely: replaced ECM not learned to this car (52 %)". */
export function triageTitle(kind: TriageKind, weighed: DiagnosisView['weighed']): string {
  const first = weighed?.beliefs[0];
  if (kind !== 'notClear' || !weighed || !first || first.p < namedFrom) return triageWords[kind].title;
  const { known, title } = faultOf(weighed, first.id);
  return known ? `Likely: ${midSentence(title)} (${formatChance(first.p)})` : triageWords[kind].title;
}

/**
 * What to do, where it is more than the verdict's own sentence. An accepting immobilizer does not clear the engine's release, and keys that differ don't clear
 * the reader.
 */
export function triageCaveat({ kind, look, differ }: Triage): string | null {
  if (kind === 'accepted' && look[0] === 'startEnabled')
    return 'The key is accepted, but a module was replaced or it starts and dies: check the start enable next.';
  if (differ)
    return `Tag ${differ.refused.join(' and ')} refused, tag ${differ.accepted.join(' and ')} accepted. The key, or a weak antenna coil: one key that works doesn’t clear the antenna coil.`;
  return null;
}

export const stageWords: Record<TriageStage['id'], string> = {
  immobilizer: 'What the immobilizer says',
  signs: 'Other signs',
  live: 'Live data',
  cheap: 'Quick checks',
  changed: 'What changed',
  engine: 'The engine',
};
