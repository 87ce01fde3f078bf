import { createContext } from 'react';

/** Says that nothing was sent, since the server can't be reached; what was typed stays where it is. */
export const NotSent = createContext<() => void>(() => {});
