import type { Problem } from '../units';
import { compareReads, type ReadsCompared } from './compareReads';
import { diffMemory, judgeWrite, lostByRestoring, type MemoryDiff, type WriteJudged } from './diffSlots';
import type { MemoryImage } from './image';
import type { Layout } from './layout';
import { sentences } from './sentences';
import { readSlots, type SlotsRead } from './slots';

/** The reads of one memory on the way to a write: twice before it, once after it; and an older file that somebody thinks of writing back. */
export interface MemoryReads {
  first?: MemoryImage;
  second?: MemoryImage;
  after?: MemoryImage;
  older?: MemoryImage;
  /** The file that was to be written. */
  wanted?: MemoryImage;
}

export interface MemoryLook {
  /** The slots of the latest read: after a write those of the read back. */
  slots: SlotsRead | null;
  compared: ReadsCompared | null;
  /** Both reads are equal, so what is empty in them is proven empty. */
  proven: boolean;
  /** The first slot that is proven empty, of the reads before a write. */
  nextSlot: number | null;
  /** What the write changed, and whether that is what it should; the slot is the one that was to be written. */
  diff: MemoryDiff | null;
  judged: WriteJudged | null;
  /** What would be lost if the older file were written back. */
  lost: string[] | null;
  /** Why the read back or the older file can't be compared. */
  problems: Problem[];
}

/** Everything that can be said of the reads there are. @param written the slot that was to be written; null: nobody said, so the only one that changed is judged */
export function lookAtReads({ first, second, after, older, wanted }: MemoryReads, layout: Layout, written: number | null): MemoryLook {
  const problems: Problem[] = [];
  const before = first ? readSlots(first, layout) : null;
  const compared = first && second ? compareReads(first, second) : null;
  const proven = compared?.says === 'same' && before !== null && before.slots.length > 0;
  const found = first && after ? diffMemory(first, after, layout) : null;
  if (found && !found.ok) problems.push(...found.problems);
  const diff = found?.ok ? found.value : null;
  const slot = written ?? onlyChanged(diff);
  const latest = after && diff ? readSlots(after, layout) : before;
  const now = after ?? first;
  const restored = now && older ? lostByRestoring(now, older, layout) : null;
  if (restored && !restored.ok) problems.push(...restored.problems);
  return {
    slots: latest,
    compared,
    proven,
    nextSlot: proven ? (before.slots.find((s) => s.state === 'empty')?.slot ?? null) : null,
    diff,
    judged: diff && slot !== null ? judgeWrite(diff, slot, faultsOf(latest!, before!, slot, { after: after!, wanted }, layout)) : null,
    lost: restored?.ok ? restored.value : null,
    problems,
  };
}

/** The slot that changed, where it is one. */
function onlyChanged(diff: MemoryDiff | null): number | null {
  const slots = new Set(diff?.changes.map((c) => c.slot));
  return slots.size === 1 ? [...slots][0]! : null;
}

/** What is wrong after a write and was not before: problems of the read, and a slot that isn't as in the file. */
function faultsOf(
  now: SlotsRead,
  before: SlotsRead,
  slot: number,
  { after, wanted }: { after: MemoryImage; wanted: MemoryImage | undefined },
  layout: Layout,
): string[] {
  const said = ({ problems }: SlotsRead) => problems.map((p) => [p.path, p.message].filter(Boolean).join(': '));
  const old = new Set(said(before));
  const differs = wanted ? diffMemory(wanted, after, layout) : undefined;
  const asked = differs?.ok && differs.value.changes.some((c) => c.slot === slot) ? [sentences.notAsWanted(slot)] : [];
  return [...asked, ...said(now).filter((s) => !old.has(s))];
}
