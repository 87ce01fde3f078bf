import type { Look } from './look';

/** A look that this tab kept, if it still makes sense. */
export function readKeptLook(kept: unknown): Look | undefined {
  const look = kept as Look;
  const isPair = (l: unknown) => Array.isArray(l) && l.length === 2 && l.every((s) => typeof s === 'number' && Number.isFinite(s));
  if (typeof look !== 'object' || !Array.isArray(look.lit) || !look.lit.every(isPair) || !(look.lengthS > 0)) return undefined;
  return look.origin === 'tapped' || look.origin === 'file' ? look : undefined;
}
