import { createContext } from 'react-router';
import type { Session } from '../accounts/sessions';
import type { Services } from '../services/services';

/** What the server gives to every loader and action of one request. */
export interface Here {
  services: Services;
  /** Reference of this request in the log. */
  requestId: string;
  nonce: string;
  /** Asked by a page of ours for its data alone; no page is rendered. */
  dataOnly: boolean;
  /** The browser's session, if it is signed in; a locked one counts as nobody. */
  session: Session | undefined;
  /** The token of its cookie, also of one that no longer counts. */
  token: string | undefined;
  browser: { agent: string; address: string };
  /** Whether the shop is reached by https, so that cookies must be. */
  secure: boolean;
  /** Set once the database's server went away while the page's data was read. */
  away?: true;
}

export const here = createContext<Here>();
