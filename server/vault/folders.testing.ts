import { rmSync } from 'node:fs';
import { afterAll } from '@jest/globals';
import { fleetingFolder } from './keys';

const made: string[] = [];
afterAll(() => made.splice(0).forEach((folder) => rmSync(folder, { recursive: true, force: true })));

/** A folder for a vault's keys that goes when the tests of a file are done; a process of tests doesn't hear of its own end. */
export function vaultFolder(): string {
  const folder = fleetingFolder();
  made.push(folder);
  return folder;
}
