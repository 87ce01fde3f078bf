/** How long queries may follow one another before other requests get a turn, ms. */
const turnMs = 15;

interface Client {
  query: (...asked: never[]) => Promise<unknown>;
}

/**
 * Queries of the embedded database are answered without a pause for anybody else; a page with hundreds of them must not keep all others waiting. They stay
 * in the order in which they were asked: whoever reads after somebody wrote sees what was written (server/db/kept.ts relies on it).
 * @param now ms, for a test
 */
export function letOthersIn(client: Client, now: () => number = () => performance.now()): void {
  const query = client.query.bind(client);
  let since = now();
  const others = async () => {
    if (now() - since < turnMs) return;
    await new Promise(setImmediate);
    since = now();
  };
  let line = Promise.resolve();
  client.query = async (...asked) => {
    const turn = line.then(others);
    line = turn;
    await turn;
    return query(...asked);
  };
}
