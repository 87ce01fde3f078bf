import { createContext, useContext } from 'react';
import { type ActsHere, type KeptAct, noActs } from '../offline/acts';

/** An act that may arrive later (offline/later.ts), as it lies on this device until then. */
export type LaterAct = Pick<KeptAct, 'address' | 'fields' | 'subject' | 'say'> & Partial<Pick<KeptAct, 'page'>>;

export interface Sending {
  /** Says that nothing was sent, since the server can't be reached; what was typed stays where it is. */
  notSent(): void;
  /** Keeps an act on this device, with this moment, until the server can be reached. */
  keep(act: LaterAct, id: string): void;
  /** Takes one away that waits or was refused. */
  discard(id: string): void;
  /** What arrived was read. */
  read(): void;
}
export const Sending = createContext<Sending>({ notSent() {}, keep() {}, discard() {}, read() {} });
export const LaterActs = createContext<ActsHere>(noActs);

/** What waits on this device to be sent to an address. */
export const useWaiting = (address: string): readonly KeptAct[] => useContext(LaterActs).waiting.filter((act) => act.address === address);
