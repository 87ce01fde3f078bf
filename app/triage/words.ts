import type { Triage, TriageKind, TriageStage } from '../../core/triage';

/** Each verdict of the triage, as a title and as what to do. */
export const triageWords: Record<TriageKind, { title: string; say: string }> = {
  refused: { title: 'Refused', say: 'The immobilizer refuses. Look at nothing but the immobilizer.' },
  accepted: { title: 'Accepted', say: 'The immobilizer accepts. Leave the immobilizer alone and look further down the chain.' },
  silent: { title: 'Silent', say: 'Nothing of the immobilizer speaks. Supply and feeds first, then reader and key.' },
  notClear: { title: 'Not clear', say: 'What was seen does not tell yet. Look here next.' },
};

/**
 * What to do, where it is more than the verdict's own sentence. An accepting guard does not clear the engine's release, and keys that differ don't clear
 * the reader.
 */
export function triageCaveat({ kind, look, differ }: Triage): string | null {
  if (kind === 'accepted' && look[0] === 'engineReleases')
    return 'The immobilizer accepts, but a module was swapped or it starts and dies: the engine’s release is next.';
  if (differ)
    return `Tag ${differ.refused.join(' and ')} refused, tag ${differ.accepted.join(' and ')} accepted. Key, or something weak at the reader: one key that works does not clear it.`;
  return null;
}

export const stageWords: Record<TriageStage['id'], string> = {
  guard: 'What the immobilizer says',
  signs: 'Small signs',
  live: 'Live data',
  cheap: 'Cheap looks',
  changed: 'What changed',
  engine: 'The engine',
};
