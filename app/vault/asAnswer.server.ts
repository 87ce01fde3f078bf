import type { Problems } from '../respond.server';
import type { Opened } from '../../server/vault/held';

/** What an act of the vault brings, as an answer of its own that nobody keeps: bytes as bytes, everything else as JSON. */
export function asAnswer({ data, init }: { data: { opened: Opened } | { address: string } | Problems; init: ResponseInit | null }): Response {
  const headers = { 'Cache-Control': 'no-store' };
  if (!('opened' in data)) return Response.json(data, { ...init, headers });
  const { bytes, kind } = data.opened;
  return new Response(bytes as BodyInit, { headers: { ...headers, 'Content-Type': 'application/octet-stream', 'X-Sealed-Kind': kind } });
}
