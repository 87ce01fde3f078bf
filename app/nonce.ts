import { createContext } from 'react';

/** Nonce of the page that is being rendered on the server; in the browser it is empty, by design. */
export const Nonce = createContext('');
