import type { Problem } from '../../core/units';
import { newCommandId } from '../ui/commandId';

export type Answer = { bytes: Uint8Array } | { address: string } | { problem: string };

/** Asks the server to open something. What comes back is handed on and kept nowhere: not in the router's data, not in the browser's storage. */
export async function askVault(to: string, fields: Record<string, string>): Promise<Answer> {
  try {
    const response = await fetch(to, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
      body: JSON.stringify({ ...fields, commandId: newCommandId() }),
      cache: 'no-store',
    });
    if (response.ok && response.headers.get('Content-Type') === 'application/octet-stream')
      return { bytes: new Uint8Array(await response.arrayBuffer()) };
    const answer = (await response.json()) as { address?: string; problems?: Problem[] };
    if (answer.address) return { address: answer.address };
    return { problem: answer.problems?.[0]?.message ?? 'The server refused this. Reload the page and try again.' };
  } catch {
    return { problem: 'No answer from the server. Nothing was opened; try again when the connection is back.' };
  }
}

/** Hands bytes to the browser as a file. */
export function saveFile(name: string, bytes: Uint8Array): void {
  const url = URL.createObjectURL(new Blob([bytes as BlobPart], { type: 'application/octet-stream' }));
  Object.assign(document.createElement('a'), { href: url, download: name }).click();
  URL.revokeObjectURL(url);
}
