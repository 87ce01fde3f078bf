import { usUnits } from '../../core/units';
import { eq } from 'drizzle-orm';
import { Harness, cheap, lead, owner, password, refusal, technician } from '../services/harness.testing';
import { audit, command, failedTries, invitation, person, session } from '../db/schema';
import type { Refused } from '../base/expected';
import { parseJoin, parsePin, parseSetUp, parseSignIn } from './forms';
import {
  changePassword,
  changeRole,
  findInvitation,
  initialsOf,
  invite,
  join,
  listPeople,
  lockPerson,
  needsSetUp,
  resetPerson,
  setPin,
  unlockPerson,
} from './people';
import { hashSecret, tokenHash, verifySecret } from '../base/secret';
import { endSession, findSession, forgetSessions, limits, listDevices, lockSession, pinTries, touch, unlockSession } from './sessions';
import { setUpShop } from './setUp';
import { nameKey, signIn } from './signIn';
import { often } from '../../content/often.testing';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const minute = 60_000;
let address = 0;
/** Each test signs in from an address of its own, so that tries of one do not count for another. */
const browser = () => ({ agent: 'Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0', address: `10.0.0.${(address += 1)}` });
const now = () => harness.services.clock.now();
const come = (name: string, secret: string, from = browser(), at = now(), atBay = false, before?: string) =>
  signIn(harness.db, { name, password: secret, atBay }, from, at, before, cheap);

describe('a secret', () => {
  test('is stored with a salt of its own and never as it is', async () => {
    const [one, two] = [await hashSecret(password, cheap), await hashSecret(password, cheap)];
    expect(one).toMatch(/^scrypt\$256\$8\$1\$[A-Za-z0-9+/]{22}==\$[A-Za-z0-9+/]{43}=$/);
    expect(one).not.toBe(two);
    expect(one).not.toContain('heron');
    expect(await verifySecret(password, one, cheap)).toBe(true);
    expect(await verifySecret(`${password} `, one, cheap)).toBe(false);
    expect(await verifySecret('', null, cheap)).toBe(false);
  });
  test('is the same however its letters are composed', async () => {
    expect(await verifySecret('caf\u00e9 at the quay', await hashSecret('cafe\u0301 at the quay', cheap))).toBe(true);
  });
  test('names are compared without case, width and spacing', () => {
    for (const name of ['Ines Marrow', ' ines  marrow ', 'INES MARROW', 'Ｉｎｅｓ Marrow']) expect(nameKey(name)).toBe('ines marrow');
  });
  test.each([
    ['Ines Marrow', 'IM'],
    ['Odalys van der Prenn', 'OP'],
    ['Saoirse', 'SA'],
    ['🦊 Fox', '🦊F'],
  ])('initials of %s', (name, initials) => expect(initialsOf(name)).toBe(initials));
});

describe('signing in', () => {
  test('begins a session under a new id, and the one before ends', async () => {
    const from = browser();
    const first = await come('ines marrow', password, from);
    const second = await come('Ines Marrow', password, from, now(), false, first.token);
    expect(second.token).not.toBe(first.token);
    expect(await findSession(harness.services, first.token, now())).toBeUndefined();
    expect(await findSession(harness.services, second.token, now())).toMatchObject({
      person: { name: 'Ines Marrow', role: 'lead' },
      atBay: false,
      locked: false,
    });
    const [row] = await harness.db
      .select()
      .from(session)
      .where(eq(session.id, tokenHash(second.token)));
    expect(JSON.stringify(row)).not.toContain(second.token);
  });

  test('unknown name, wrong password, locked person and nobody’s account get the same answer', async () => {
    const wrong = { status: 403, code: 'wrongSignIn', path: '', message: 'Name and password don’t match. Check both, then try again.' };
    await harness.db.insert(person).values({
      id: 'x1',
      name: 'Locked Out',
      initials: 'LO',
      state: 'locked',
      nameKey: 'locked out',
      password: await hashSecret(password, cheap),
    });
    await harness.db.insert(person).values({ id: 'x2', name: 'Not Yet', initials: 'NY', state: 'invited', nameKey: 'not yet' });
    for (const name of ['Nobody Here', 'Ines Marrow', 'Locked Out', 'Not Yet', ''])
      expect(await refusal(come(name, name === 'Locked Out' ? password : 'wrong'))).toEqual(wrong);
  });

  // Both ways are taken in turn, so that a slow moment of the machine meets both alike.
  test('takes the same time for an unknown name as for a wrong password', async () => {
    const middle = (list: number[]) => [...list].sort((a, b) => a - b)[list.length / 2]!;
    const cost = { N: 2 ** 12, r: 8, p: 1 };
    await harness.db
      .update(person)
      .set({ password: await hashSecret(password, cost) })
      .where(eq(person.id, owner.id));
    const took = async (name: string) => {
      await harness.db.delete(failedTries);
      const from = performance.now();
      await refusal(signIn(harness.db, { name, password: 'wrong again', atBay: false }, { agent: '', address: 'a' }, now(), undefined, cost));
      return performance.now() - from;
    };
    // Each pair is compared with itself; what differs for good differs in every round, and what the machine did to one pair does not.
    const round = async () => {
      const ratios: number[] = [];
      for (let i = 0; i < often(150, 60); i += 1) {
        const [first, second] = i % 2 === 0 ? [owner.name, 'Nora Nowhere'] : ['Nora Nowhere', owner.name];
        const times = [await took(first), await took(second)];
        ratios.push(i % 2 === 0 ? times[0]! / times[1]! : times[1]! / times[0]!);
      }
      return Math.abs(Math.log(middle(ratios)));
    };
    const rounds: number[] = [];
    while (rounds.length < 3 && !(Math.min(...rounds) < 0.1)) rounds.push(await round());
    await harness.db
      .update(person)
      .set({ password: await hashSecret(password, cheap) })
      .where(eq(person.id, owner.id));
    expect(Math.min(...rounds)).toBeLessThan(0.1);
  }, 240_000);

  test('five wrong tries for a name are free; then one waits, twice as long each time, and a good one clears it', async () => {
    const from = browser();
    const at = now();
    for (let i = 0; i < 5; i += 1) expect(await refusal(come('Orla Quibb', 'wrong', from, at))).toMatchObject({ status: 403 });
    const wait = { status: 429, code: 'tooManyTries', message: 'Too many wrong tries. Wait 0:30 (minutes and seconds), then try again.' };
    expect(await refusal(come('Orla Quibb', password, from, at))).toMatchObject(wait);
    expect(await refusal(come(' ORLA quibb', password, browser(), at))).toMatchObject(wait);
    expect(await refusal(come('Orla Quibb', password, from, at + 29_999))).toMatchObject({ message: expect.stringContaining('0:01') });
    expect(await refusal(come('Orla Quibb', 'wrong', from, at + 30_000))).toMatchObject({ status: 403 });
    expect(await refusal(come('Orla Quibb', password, from, at + 30_000))).toMatchObject({ message: expect.stringContaining('Wait 1:00') });
    expect(await come('Orla Quibb', password, from, at + 90_000)).toHaveProperty('token');
    expect(await refusal(come('Orla Quibb', 'wrong', from, at + 90_000))).toMatchObject({ status: 403 });
  });

  test('hundreds of failed sign-ins: waits stay at a quarter of an hour, no name is told, nothing grows', async () => {
    await harness.db.delete(failedTries);
    const at = now();
    const from = { agent: '', address: '198.51.100.7' };
    const seen = { tried: 0, blocked: 0 };
    const lines = (await harness.db.select().from(audit)).length;
    const all = often(2_000, 300);
    for (let i = 0; i < all; i += 1) {
      const answer = await refusal(come(`guess ${i % 997}`, `try ${i}`, from, at + i));
      if (answer === 'accepted') throw new Error('a guess came in');
      seen[answer.status === 429 ? 'blocked' : 'tried'] += 1;
    }
    // 30 are free for an address; in the two seconds that these tries take, the first wait of 30 s never ends.
    expect(seen).toEqual({ tried: 30, blocked: all - 30 });
    expect((await harness.db.select().from(failedTries)).length).toBe(31);
    expect((await harness.db.select().from(audit)).length).toBe(lines);
    expect(await refusal(come('Maud Ferrow', password, from, at + 10_000))).toMatchObject({ status: 429 });
    expect(await come('Maud Ferrow', password, browser(), at + 10_000)).toHaveProperty('token');
    // An hour later everything is forgotten.
    expect(await come('Maud Ferrow', password, from, at + 62 * minute)).toHaveProperty('token');
    expect((await harness.db.select().from(failedTries)).length).toBeLessThan(3);
  });
});

describe('a session', () => {
  test.each([
    ['idle', limits.idleMs - 1, true],
    ['idle', limits.idleMs, false],
  ])('%s for %d ms: %s', async (_what, quiet, there) => {
    const { token } = await come('Ines Marrow', password);
    expect((await findSession(harness.services, token, now() + quiet)) !== undefined).toBe(there);
  });
  test('a sign of a person keeps it, but not beyond its absolute limit', async () => {
    const { token } = await come('Ines Marrow', password);
    const from = now();
    for (let at = from; at < from + limits.absoluteMs; at += limits.idleMs / 2) {
      const found = (await findSession(harness.services, token, at))!;
      expect(found).toBeDefined();
      await touch(harness.db, found, at);
    }
    expect(await findSession(harness.services, token, from + limits.absoluteMs - 1)).toBeDefined();
    expect(await findSession(harness.services, token, from + limits.absoluteMs)).toBeUndefined();
  });
  test.each(['', 'x', 'x'.repeat(100_000), '\u0000', undefined])('no token is a session: %j', async (token) => {
    expect(await findSession(harness.services, token, now())).toBeUndefined();
  });
  test('an ended one, and one of a locked person, count no more', async () => {
    const { token } = await come('Orla Quibb', password);
    const found = (await findSession(harness.services, token, now()))!;
    expect((await listDevices(harness.db, now(), technician.id)).map((d) => d.id)).toContain(found.id);
    await lockPerson(harness.db, harness.act(owner), technician.id);
    expect(await findSession(harness.services, token, now())).toBeUndefined();
    expect(await listDevices(harness.db, now(), technician.id)).toEqual([]);
    await unlockPerson(harness.db, harness.act(owner), technician.id);
    const again = await come('Orla Quibb', password);
    await endSession(harness.db, (await findSession(harness.services, again.token, now()))!.id, now());
    expect(await findSession(harness.services, again.token, now())).toBeUndefined();
  });
});

describe('a device at a bay', () => {
  const atBay = async () => {
    await setPin(harness.db, harness.act(lead), { present: password, pin: '135790' }, cheap);
    const { token } = await come('Ines Marrow', password, browser(), now(), true);
    return { token, found: (await findSession(harness.services, token, now()))! };
  };
  test('a browser that can’t be signed in any more is forgotten, whatever became of it; one that can is not', async () => {
    const from = now();
    const { token, found } = await atBay();
    const known = async () => (await harness.db.select().from(session)).some((s) => s.id === found.id);
    await forgetSessions(harness.db, from + limits.bayAbsoluteMs);
    expect(await known()).toBe(true);
    expect(await findSession(harness.services, token, from + limits.bayAbsoluteMs - 1)).toBeDefined();
    expect(await findSession(harness.services, token, from + limits.bayAbsoluteMs)).toBeUndefined();
    // Somebody signs in.
    await come('Orla Quibb', password, browser(), from + limits.bayAbsoluteMs + 1);
    expect(await known()).toBe(false);
  });
  test('locks by itself instead of ending, and by hand', async () => {
    const { token, found } = await atBay();
    expect(await findSession(harness.services, token, now() + limits.bayLockMs - 1)).toMatchObject({ locked: false });
    expect(await findSession(harness.services, token, now() + limits.bayLockMs)).toMatchObject({ locked: true });
    expect(await findSession(harness.services, token, now() + limits.idleMs * 3)).toMatchObject({ locked: true });
    expect(await findSession(harness.services, token, now() + limits.bayAbsoluteMs)).toBeUndefined();
    await lockSession(harness.db, found);
    expect(await findSession(harness.services, token, now())).toMatchObject({ locked: true });
    await unlockSession(harness.db, found, '135790', now());
    expect(await findSession(harness.services, token, now())).toMatchObject({ locked: false });
  });
  test('a locked device is not woken by looking at it', async () => {
    const { token } = await atBay();
    const later = now() + limits.bayLockMs;
    await touch(harness.db, (await findSession(harness.services, token, later))!, later);
    expect(await findSession(harness.services, token, later)).toMatchObject({ locked: true });
  });
  test('five wrong PINs end it; four and a right one don’t', async () => {
    const { found } = await atBay();
    for (let i = pinTries - 1; i > 0; i -= 1)
      expect(await refusal(unlockSession(harness.db, found, '000000', now()))).toMatchObject({
        code: 'wrongPin',
        message: `Wrong PIN. ${i === 1 ? 'One try is left.' : `${i} tries are left.`}`,
      });
    await unlockSession(harness.db, found, '135790', now());
    const { token, found: other } = await atBay();
    for (let i = 1; i < pinTries; i += 1) await refusal(unlockSession(harness.db, other, '111111', now()));
    expect(await refusal(unlockSession(harness.db, other, '111111', now()))).toMatchObject({ status: 403, code: 'pinUsedUp' });
    expect(await findSession(harness.services, token, now())).toBeUndefined();
    expect(await refusal(unlockSession(harness.db, other, '135790', now()))).toMatchObject({ code: 'pinUsedUp' });
  });
  test('without a PIN there is nothing to unlock: it ends', async () => {
    const { token } = await come('Maud Ferrow', password, browser(), now(), true);
    expect(await findSession(harness.services, token, now() + limits.bayLockMs - 1)).toBeDefined();
    expect(await findSession(harness.services, token, now() + limits.bayLockMs)).toBeUndefined();
  });
});

describe('people', () => {
  test('are invited by a link that works once and for three days', async () => {
    const { token } = await invite(harness.db, harness.act(owner), { name: 'Wim Tarrell', role: 'technician' });
    expect(await findInvitation(harness.db, token, now())).toMatchObject({ name: 'Wim Tarrell' });
    expect(await findInvitation(harness.db, token, now() + 3 * 24 * 60 * minute - 1)).toBeDefined();
    expect(await findInvitation(harness.db, token, now() + 3 * 24 * 60 * minute)).toBeUndefined();
    const dead = { status: 403, code: 'deadLink' };
    expect(await refusal(join(harness.db, `${token}x`, password, now(), cheap))).toMatchObject(dead);
    await join(harness.db, token, password, now(), cheap);
    expect(await refusal(join(harness.db, token, 'another password', now(), cheap))).toMatchObject(dead);
    expect(await come('wim tarrell', password)).toHaveProperty('token');
    const stored = JSON.stringify([
      await harness.db.select().from(invitation),
      await harness.db.select().from(command),
      await harness.db.select().from(audit),
    ]);
    expect(stored).not.toContain(token);
  });
  test('a link too old is refused when it is used', async () => {
    const { token } = await invite(harness.db, harness.act(owner), { name: 'Late Comer', role: 'technician' });
    expect(await refusal(join(harness.db, token, password, now() + 4 * 24 * 60 * minute, cheap))).toMatchObject({ code: 'deadLink' });
  });
  test('a repeated invitation does not show its link again', async () => {
    const act = harness.act(owner);
    await invite(harness.db, act, { name: 'Ona Bree', role: 'lead' });
    expect(await refusal(invite(harness.db, act, { name: 'Ona Bree', role: 'lead' }))).toMatchObject({ status: 409, code: 'doneBefore' });
    expect(await refusal(invite(harness.db, harness.act(owner), { name: ' ona  BREE', role: 'lead' }))).toMatchObject({
      status: 409,
      code: 'nameTaken',
      path: 'name',
    });
  });
  test('a reset ends password, PIN and devices', async () => {
    const { token: link } = await invite(harness.db, harness.act(owner), { name: 'Pia Holt', role: 'technician' });
    const id = await join(harness.db, link, password, now(), cheap);
    const { token } = await come('Pia Holt', password);
    const { token: fresh } = await resetPerson(harness.db, harness.act(owner), id);
    expect(await findSession(harness.services, token, now())).toBeUndefined();
    expect(await refusal(come('Pia Holt', password))).toMatchObject({ code: 'wrongSignIn' });
    await join(harness.db, fresh, 'quite another password', now(), cheap);
    expect(await come('Pia Holt', 'quite another password')).toHaveProperty('token');
  });
  test('an owner always remains', async () => {
    const last = { status: 409, code: 'lastOwner' };
    expect(await refusal(lockPerson(harness.db, harness.act(owner), owner.id))).toMatchObject(last);
    expect(await refusal(changeRole(harness.db, harness.act(owner), { person: owner.id, role: 'lead' }))).toMatchObject(last);
    expect(await refusal(resetPerson(harness.db, harness.act(owner), owner.id))).toMatchObject(last);
    expect((await listPeople(harness.db)).find((p) => p.id === owner.id)).toMatchObject({ role: 'owner', state: 'active' });
  });
  test.each([technician, lead])('$role may not', async (who) => {
    for (const work of [
      invite(harness.db, harness.act(who), { name: 'Sly Guest', role: 'owner' }),
      changeRole(harness.db, harness.act(who), { person: who.id, role: 'owner' }),
      resetPerson(harness.db, harness.act(who), owner.id),
    ])
      expect(await refusal(work as Promise<unknown>)).toMatchObject({ status: 403, code: 'notAllowed' });
  });
  test('records of another shop are no accounts', async () => {
    await harness.db.insert(person).values({ id: 'elsewhere-1', name: 'Far Away', initials: 'FA', state: 'recorded' });
    expect(await refusal(unlockPerson(harness.db, harness.act(owner), 'elsewhere-1'))).toMatchObject({ status: 404, code: 'noPerson' });
    expect(await refusal(resetPerson(harness.db, harness.act(owner), 'elsewhere-1'))).toMatchObject({ status: 404 });
    expect((await listPeople(harness.db)).map((p) => p.name)).not.toContain('Far Away');
  });
  test('changing the password needs the present one and ends every browser', async () => {
    const { token } = await come('Orla Quibb', password);
    expect(await refusal(changePassword(harness.db, harness.act(technician), { present: 'wrong', password: 'x'.repeat(12) }, cheap))).toMatchObject({
      status: 403,
      path: 'present',
    });
    await changePassword(harness.db, harness.act(technician), { present: password, password: 'brent geese at dawn' }, cheap);
    expect(await findSession(harness.services, token, now())).toBeUndefined();
    expect(await come('Orla Quibb', 'brent geese at dawn')).toHaveProperty('token');
    expect(JSON.stringify(await harness.db.select().from(command))).not.toContain('geese');
  });
});

describe('set-up', () => {
  const form = { name: 'Second Owner', password, shop: 'Other', currency: 'cr', bays: 2, units: usUnits };
  test('is over for good once there is an account', async () => {
    expect(await needsSetUp(harness.db)).toBe(false);
    expect(await refusal(setUpShop(harness.db, form, browser(), now(), cheap))).toMatchObject({ status: 403, code: 'setUpOver' });
  });
});

describe('forms', () => {
  const problems = (parse: () => unknown) => {
    try {
      parse();
      return [];
    } catch (error) {
      return (error as Refused).problems.map((p) => `${p.path}: ${p.message}`);
    }
  };
  const setUp = { name: 'Maud Ferrow', shop: 'Saltmarsh', currency: 'cr', bays: '2', password, again: password };
  test.each<[string, () => unknown, string[]]>([
    ['a set-up', () => parseSetUp(setUp), []],
    [
      'eleven characters',
      () => parseJoin({ password: 'x'.repeat(11), again: 'x'.repeat(11) }),
      ['password: Too short. Write at least 12 characters.'],
    ],
    ['twelve characters', () => parseJoin({ password: 'x'.repeat(12), again: 'x'.repeat(12) }), []],
    ['two that differ', () => parseJoin({ password, again: 'other' }), ['again: The two entries don’t match. Type the new password twice.']],
    ['a huge password', () => parseSignIn({ name: 'a', password: 'x'.repeat(201) }), ['password: 201 characters is too long. Write at most 200.']],
    [
      'a line break in a name',
      () => parseSetUp({ ...setUp, name: 'Maud\nFerrow' }),
      ['name: You typed "Maud\\nFerrow": a character that can’t be saved is at position 5; remove it.'],
    ],
    ['a turned name', () => parseSetUp({ ...setUp, name: 'Maud \u202eworreF' }), [expect.stringContaining('name: ') as unknown as string]],
    ['no bay', () => parseSetUp({ ...setUp, bays: '0' }), ['bays: You typed 0. Use 1 to 20.']],
    ['five digits', () => parsePin({ present: 'x', pin: '12345' }), ['pin: A PIN has six digits. Type six digits.']],
    ['letters for a PIN', () => parsePin({ present: 'x', pin: 'abcdef' }), ['pin: A PIN has six digits. Type six digits.']],
    ['six digits', () => parsePin({ present: 'x', pin: '123456' }), []],
  ])('%s', (_what, parse, expected) => expect(problems(parse)).toEqual(expected));
});
