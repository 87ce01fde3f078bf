import { eq } from 'drizzle-orm';
import { invite, join, setUpOwner } from '../accounts/people';
import { hashSecret } from '../base/secret';
import { beginSession, findSession, pinTries, unlockSession } from '../accounts/sessions';
import { signIn } from '../accounts/signIn';
import { countTry } from '../accounts/throttle';
import { Harness, cheap, lead, owner, password, refusal, technician } from '../services/harness.testing';
import { actOnce } from './commands';
import { audit, command, invitation, person, session } from '../db/schema';

/** What counts, or works once, does so too when a hundred come at the same moment: on PGlite, and on a PostgreSQL server where one is given. */

const at = 100;
const everyone = <T>(work: (i: number) => Promise<T>) => Promise.all(Array.from({ length: at }, (_, i) => refusal(work(i))));
const counted = (answers: Awaited<ReturnType<typeof everyone>>) =>
  answers.reduce<Record<string, number>>((n, a) => {
    const what = a === 'accepted' ? a : a.code!;
    return { ...n, [what]: (n[what] ?? 0) + 1 };
  }, {});
const browser = (address: string) => ({ agent: 'x', address });

describe.each(process.env.TEST_POSTGRES ? ['PGlite', 'PostgreSQL'] : ['PGlite'])('on %s', (database) => {
  let harness: Harness;
  beforeAll(async () => {
    harness = await Harness.open(database === 'PostgreSQL' ? process.env.TEST_POSTGRES : undefined);
    await harness.db
      .update(person)
      .set({ pin: await hashSecret('204060', cheap) })
      .where(eq(person.id, technician.id));
  });
  afterAll(() => harness.close());
  const now = () => harness.services.clock.now();

  const atBay = async () => {
    const token = await harness.db.transaction((tx) => beginSession(tx, technician.id, browser('10.1.0.1'), true, now()));
    return { token, found: (await findSession(harness.services, token, now()))! };
  };
  test('a hundred wrong PINs: five are judged, and the device is signed out', async () => {
    const { token, found } = await atBay();
    const answers = counted(await everyone((i) => unlockSession(harness.db, found, String(100_000 + i), now())));
    expect(answers).toEqual({ wrongPin: pinTries - 1, pinUsedUp: at - pinTries + 1 });
    expect(await findSession(harness.services, token, now())).toBeUndefined();
    const lines = await harness.db.select().from(audit).where(eq(audit.action, 'device signed out after wrong PINs'));
    expect(lines.length).toBe(1);
  });
  test('a hundred PINs with the right one among the last: a guesser gets five tries, not a hundred', async () => {
    const { found } = await atBay();
    const answers = await everyone((i) => unlockSession(harness.db, found, i === at - 1 ? '204060' : String(100_000 + i), now()));
    expect(answers.filter((a) => a === 'accepted')).toEqual([]);
    const [row] = await harness.db.select().from(session).where(eq(session.id, found.id));
    expect(row!.endedAt).not.toBeNull();
  });
  test('a hundred wrong passwords for a name: five are judged', async () => {
    const answers = counted(
      await everyone((i) =>
        signIn(harness.db, { name: lead.name, password: `wrong ${i}`, atBay: false }, browser(`10.2.0.${i}`), now(), undefined, cheap),
      ),
    );
    expect(answers).toEqual({ wrongSignIn: 5, tooManyTries: at - 5 });
  });
  test('a hundred names from one address: thirty are judged', async () => {
    const answers = counted(
      await everyone((i) => signIn(harness.db, { name: `nobody ${i}`, password, atBay: false }, browser('10.3.0.1'), now(), undefined, cheap)),
    );
    expect(answers).toEqual({ wrongSignIn: 30, tooManyTries: at - 30 });
  });
  test('tries that are blocked count for nobody: a name is not blocked by those that an address may not make', async () => {
    await everyone(() => countTry(harness.db, { name: 'a', address: 'blocked' }, now()));
    const other = (i: number) => countTry(harness.db, { name: 'b', address: i < 50 ? 'blocked' : `10.4.0.${i}` }, now());
    const answers = counted(await everyone(other));
    expect(answers).toEqual({ accepted: 5, tooManyTries: at - 5 });
  });

  test('a one-time link sets one password', async () => {
    const { token } = await invite(harness.db, harness.act(owner), { name: `Perrin Vole ${database}`, role: 'technician' });
    const answers = counted(await everyone((i) => join(harness.db, token, `wading bird number ${i}`, now(), cheap)));
    // Some are told that many are hashing just now: a hundred at once are more than may wait.
    const { accepted, deadLink = 0, busy = 0 } = answers;
    expect([accepted, deadLink + busy]).toEqual([1, at - 1]);
    const used = await harness.db.select().from(invitation);
    expect(used.filter((u) => u.usedAt === null)).toEqual([]);
  });
  test('one act id does its act once, and every answer is the same', async () => {
    const act = harness.act(lead);
    let done = 0;
    const answers = await Promise.all(
      Array.from({ length: at }, () =>
        actOnce(harness.db, act, { right: 'editShop', action: 'tried at once', payload: { a: 1 } }, async (tx) => {
          done += 1;
          await tx.insert(audit).values({ at: act.now, by: lead.id, action: 'the act itself', detail: {} });
          return done;
        }),
      ),
    );
    expect(new Set(answers)).toEqual(new Set([answers[0]]));
    expect((await harness.db.select().from(command).where(eq(command.id, act.id))).length).toBe(1);
    expect((await harness.db.select().from(audit).where(eq(audit.action, 'the act itself'))).length).toBe(1);
  });
  test('one act id with two contents: one of them is done, the other refused', async () => {
    const act = harness.act(lead);
    const answers = counted(
      await everyone((i) => actOnce(harness.db, act, { right: 'editShop', action: 'two contents', payload: i % 2 }, async () => i % 2)),
    );
    expect(answers).toEqual({ accepted: at / 2, idReused: at / 2 });
  });
  test('the same content in another order of its fields is the same act', async () => {
    const act = harness.act(lead);
    const once = (payload: unknown) => actOnce(harness.db, act, { right: 'editShop', action: 'order', payload }, async () => 7);
    expect(await once({ a: { b: 1, c: [1, 2] }, d: 'x' })).toBe(7);
    expect(await once({ d: 'x', a: { c: [1, 2], b: 1 } })).toBe(7);
    expect(await refusal(once({ d: 'x', a: { c: [2, 1], b: 1 } }))).toMatchObject({ code: 'idReused' });
  });
  test('a shop is set up by nobody twice', async () => {
    const hash = await hashSecret(password, cheap);
    const answers = counted(await everyone((i) => harness.db.transaction((tx) => setUpOwner(tx, { name: `Owner ${i}`, hash }, now()))));
    expect(answers).toEqual({ setUpOver: at });
  });
});
