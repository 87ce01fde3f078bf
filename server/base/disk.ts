import { closeSync, existsSync, fsyncSync, openSync, writeSync } from 'node:fs';

/** What a file holds is on the disk. */
export function syncFile(path: string): void {
  const file = openSync(path, 'r+');
  try {
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
}

/** What was named, renamed or removed in a folder is on the disk. */
export function syncFolder(path: string): void {
  if (process.platform === 'win32' || !existsSync(path)) return;
  const folder = openSync(path, 'r');
  try {
    fsyncSync(folder);
  } finally {
    closeSync(folder);
  }
}

/** A file that only its user may read, on the disk; its name is there when its folder is synced too. */
export function writeThrough(path: string, text: string): void {
  const file = openSync(path, 'w', 0o600);
  try {
    writeSync(file, text);
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
}
