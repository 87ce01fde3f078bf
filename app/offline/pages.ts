/** Pages that can be opened again without a connection, on a device that has opened them before: what is worked with at the car. No secret is on any of them. */
const keptPages = /^\/(?:$|cases\/(?:new|\d+(?:\/(?:runs\/\d+|triage))?)$|calls\/(?:new|\d+)$|bench\/(?:lamp|ladder|steps)$)/;
export const isKept = (address: string): boolean => keptPages.test(address);

/** Forms for something new: any of them that was kept serves for the next one, which then makes its own name. */
export const beginsAnew = (address: string): boolean => /^\/(?:cases|calls)\/new$/.test(address);

/** Name of the cache with documents of pages, for the service worker and for pages alike. */
export const pagesCache = 'bloodstone-pages';
