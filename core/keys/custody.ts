export interface CustodyEntry {
  tag: string;
  act: 'received' | 'returned';
  at: number;
}

/** Tags that were received and not returned since: what the shop still holds. In order of receipt. */
export function heldTags(entries: readonly CustodyEntry[]): string[] {
  const held = new Set<string>();
  for (const { tag, act } of [...entries].sort((a, b) => a.at - b.at)) {
    held.delete(tag);
    if (act === 'received') held.add(tag);
  }
  return [...held];
}
