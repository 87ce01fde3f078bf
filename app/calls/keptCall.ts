import type { CallForm } from '../../server/calls/forms';
import { readKeptLook } from '../bench/keptLook';

export const emptyCall: CallForm = { customer: '', phone: '', vehicle: '', plate: '', words: '', system: '', answers: {}, film: null };

/** A call that this tab kept while it was written down, if it still makes sense. */
export function readKeptCall(kept: unknown): CallForm | undefined {
  if (typeof kept !== 'object' || kept === null) return undefined;
  const raw = kept as Record<string, unknown>;
  const text = (name: string) => (typeof raw[name] === 'string' ? raw[name] : '');
  const answers = Object.entries(typeof raw.answers === 'object' ? (raw.answers ?? {}) : {}).filter(
    (e): e is [string, string] => typeof e[1] === 'string',
  );
  const film = raw.film as CallForm['film'];
  return {
    customer: text('customer'),
    phone: text('phone'),
    vehicle: text('vehicle'),
    plate: text('plate'),
    words: text('words'),
    system: text('system'),
    answers: Object.fromEntries(answers),
    film: film && readKeptLook({ ...film, origin: 'tapped', file: '' }) ? film : null,
  };
}
