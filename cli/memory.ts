import { readFileSync, statSync } from 'node:fs';
import {
  diffMemory,
  formOf,
  type Layout,
  type MemoryDiff,
  type MemoryImage,
  mostFileBytes,
  readMemory,
  readSlots,
  type SlotsRead,
} from '../core/memory';
import type { Result } from '../core/units';
import { CannotUse } from './fail';
import { library } from './library';

/** `memory read`: the slots of one memory file. */
export function memoryRead(folders: string[], file: string, layoutId: string): SlotsRead {
  const layout = layoutNamed(folders, layoutId);
  const found = readSlots(imageOf(file, layout), layout);
  const [first] = found.problems;
  // Nothing of the memory could be told.
  if (found.slots.length === 0 && first) throw new CannotUse(`${file}: ${first.message}`);
  return found;
}

/** `memory diff`: what changed between two files of one memory. */
export function memoryDiff(folders: string[], before: string, after: string, layoutId: string): MemoryDiff {
  const layout = layoutNamed(folders, layoutId);
  return use(`${before}, ${after}`, diffMemory(imageOf(before, layout), imageOf(after, layout), layout));
}

function layoutNamed(folders: string[], id: string): Layout {
  const { layouts } = library(folders);
  const layout = layouts.get(id);
  if (!layout) throw new CannotUse(`--layout ${id}: this layout was not found. Use one of: ${[...layouts.keys()].join(', ')}.`);
  return layout;
}

function imageOf(file: string, layout: Layout): MemoryImage {
  let bytes: Uint8Array;
  try {
    if (statSync(file).size > mostFileBytes) throw new CannotUse(`${file}: larger than ${mostFileBytes} bytes. Choose the memory file.`);
    bytes = readFileSync(file);
  } catch (error) {
    if (error instanceof CannotUse) throw error;
    throw new CannotUse(`${file}: can’t be read. Check the path.`);
  }
  return use(file, readMemory(bytes, formOf(file), layout.base));
}

function use<T>(where: string, read: Result<T>): T {
  if (read.ok) return read.value;
  const [first] = read.problems;
  throw new CannotUse([where, first!.path, first!.message].filter(Boolean).join(': '));
}
