/** A page that takes acts which may arrive later. */
interface Later {
  page: string;
  at: RegExp;
  intents: readonly string[];
}

/**
 * What is done at the car and may arrive at the server later, with the moment at which it was done: answers of tests, lights, resistor keys, calls and new
 * cases. Nothing of it opens a lock, spends money or holds a secret; whatever is missing here is done with a connection or not at all.
 */
const later: readonly Later[] = [
  { page: '/cases/:caseId', at: /^\/cases\/\d+$/, intents: ['evidence'] },
  { page: '/cases/:caseId/triage', at: /^\/cases\/\d+\/triage$/, intents: ['changed'] },
  { page: '/bench/lamp', at: /^\/bench\/lamp$/, intents: ['add'] },
  { page: '/bench/ladder', at: /^\/bench\/ladder$/, intents: ['measure'] },
  { page: '/calls/new', at: /^\/calls\/new$/, intents: ['keep'] },
  { page: '/calls/:callId', at: /^\/calls\/\d+$/, intents: ['keep'] },
  { page: '/cases/new', at: /^\/cases\/new$/, intents: ['open'] },
];

/** Whether an act of a page may arrive later. @param page as the table of rights names it */
export const mayArriveLater = (page: string, intent: string): boolean => later.some((l) => l.page === page && l.intents.includes(intent));

/** The same, of an act that is about to be sent. @param address path that takes it */
export const mayWait = (address: string, intent: unknown): boolean =>
  later.some((l) => l.at.test(address.split('?', 1)[0]!) && l.intents.includes(String(intent)));
