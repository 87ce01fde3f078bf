import { usUnits } from '../../core/units';
import { shippedContent } from '../../content/shipped.testing';
import { Harness, lead, owner, refusal, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { readCasePage, readFinalDiagnosis } from '../cases/caseView';
import { closeCase, closeNotDone } from '../cases/closing';
import { causesOf, readForDiagnosis } from './diagnosis';
import { parseRepairAction, parseEvidence } from '../ledger/forms';
import { identifyAgain } from './identification';
import { parseClosing } from '../cases/forms';
import { recordRepairAction, recordEvidence, withdrawEvidence } from '../ledger/ledger';
import { parseSupposed } from '../cases/queries';
import { readFloor } from '../floor/floor';
import { readReport } from '../cases/report';
import type { Services } from '../services/services';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';
import { recordVerification } from '../cases/verification';
import { named, openWeigher } from '../weighing/weigher';
import { writeShop } from '../shop/shop';

let harness: Harness;
let services: Services;
beforeAll(async () => {
  harness = await Harness.open();
  services = harness.services;
});
afterAll(() => harness.close());

const record = async (id: number) => (await loadCase(harness.db, id))!;
const seen = (id: number, test: string, outcome: string, key?: string, more: object = {}) =>
  recordEvidence(harness.db, services.documents, harness.act(technician), id, parseEvidence({ test, outcome, key, ...more }));
const repairAction = (id: number, form: object) =>
  recordRepairAction(harness.db, services.documents, harness.act(technician), id, parseRepairAction(form));
const page = async (id: number, ...supposed: string[]) =>
  (await readCasePage(services, id, parseSupposed(new URLSearchParams(supposed.map((s) => ['if', s])))))!;
const first = async (id: number) => (await page(id)).diagnosis.next[0]!;
const close = (id: number, form: object, by = lead) =>
  closeCase(
    harness.db,
    services.documents,
    harness.act(by),
    id,
    parseClosing({ outcome: 'As told.', conclusion: 'unknown', absentTold: 'on', ...form }),
  );
const verifyAll = (id: number, tags = ['A', 'B'], results: Record<string, string> = {}) =>
  recordVerification(
    harness.db,
    harness.act(technician),
    id,
    Object.fromEntries(
      tags.map((t) => [
        t,
        Object.fromEntries(['turns', 'doors', 'remote', 'accepted', 'cranks', 'runs'].map((a) => [a, results[`${t} ${a}`] ?? 'yes'])),
      ]),
    ),
  );
const authority = [{ kind: 'registration', note: '' }];

describe('what was done about a fault', () => {
  it('stands in the ledger, is corrected and withdrawn, and counts as it stands', async () => {
    const id = await harness.openCase();
    await seen(id, 'lamp', 'refused', 'A', { minutes: '1.26' });
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'fails', minutes: '3', note: 'cover off' });
    const [made] = (await record(id)).repairActions;
    expect(made).toMatchObject({ kind: 'repair', fault: 'coverNear', result: 'fails', minutes: 3, note: 'cover off', seq: 2, key: null });
    expect((await record(id)).evidence[0]).toMatchObject({ minutes: 1.3, seq: 1 });
    const belief = async () => (await page(id)).diagnosis.weighed!.beliefs.find((b) => b.fault === 'coverNear')!.p;
    expect(await belief()).toBe(0);
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'works', replaces: made!.id });
    expect(await belief()).toBeGreaterThan(0.5);
    const corrected = (await record(id)).repairActions.at(-1)!;
    await withdrawEvidence(harness.db, harness.act(technician), id, corrected.id);
    expect((await record(id)).repairActions.map((d) => d.result)).toEqual(['fails', 'works', null]);
    expect(await belief()).toBeGreaterThan(0);
    expect((await page(id)).repairActions).toEqual([]);
  });

  test.each<[string, object, object]>([
    [
      'a fault of another family',
      { kind: 'repair', fault: 'walkedOff', result: 'works' },
      {
        status: 400,
        code: 'unknownFault',
        path: 'fault',
        message: expect.stringMatching(/^"walkedOff" is not a fault of this system type\. Use one of: .*coverNear/),
      },
    ],
    [
      'a key where the fault sits in none',
      { kind: 'repair', fault: 'coverNear', result: 'works', key: 'A' },
      {
        status: 400,
        code: 'keyNotMeant',
        path: 'key',
        message: '"Cover, ornament or ring weakens the signal" is not in a key. Leave the key out.',
      },
    ],
    [
      'a key that the case does not have',
      { kind: 'repair', fault: 'chipDead', result: 'works', key: 'Z' },
      { status: 400, code: 'keyNotMeant', path: 'key', message: 'Choose the key: A, B.' },
    ],
    [
      'what touches stored keys, without authority',
      { kind: 'repair', fault: 'immobilizerForgot', result: 'works' },
      {
        status: 403,
        code: 'gateClosed',
        message: 'No authority is on record. Check the registration and the person’s ID, then record what you saw.',
      },
    ],
    [
      'a correction of a line that is not there',
      { kind: 'repair', fault: 'coverNear', result: 'works', replaces: 'nothing' },
      { status: 400, code: 'noEntry', path: 'replaces', message: 'The line to correct is not in the record of this case. Check again.' },
    ],
  ])('refuses %s', async (_, form, expected) => {
    const id = await harness.openCase();
    expect(await refusal(repairAction(id, form))).toMatchObject(expected);
    expect((await record(id)).repairActions).toEqual([]);
  });

  test.each<[object, string]>([
    [{ kind: 'magic', fault: 'coverNear', result: 'works' }, 'kind'],
    [{ kind: 'broughtBack', fault: 'coverNear', result: 'done' }, 'result'],
    [{ kind: 'repair', fault: 'coverNear', result: 'works', minutes: '-1' }, 'minutes'],
    [{ kind: 'repair', fault: 'coverNear', result: 'works', minutes: '1441' }, 'minutes'],
    [{ kind: 'repair', result: 'works' }, 'fault'],
  ])('a form that can’t be meant is refused by its field: %j', async (form, path) => {
    expect(await refusal((async () => parseRepairAction(form))())).toMatchObject({ status: 400, path });
    expect(parseRepairAction({ kind: 'repair', fault: 'coverNear', result: 'works', minutes: '1440' }).minutes).toBe(1440);
  });

  it('is corrected once only, and only in an open case', async () => {
    const id = await harness.openCase();
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'fails' });
    const [line] = (await record(id)).repairActions;
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'works', replaces: line!.id });
    expect(await refusal(repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'works', replaces: line!.id }))).toMatchObject({
      code: 'replaced',
    });
    expect(await refusal(withdrawEvidence(harness.db, harness.act(technician), id, line!.id))).toMatchObject({ code: 'replaced' });
    await closeNotDone(harness.db, harness.act(lead), id, { reason: 'declined', returned: [] });
    expect(await refusal(repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'works' }))).toMatchObject({ status: 409, code: 'closed' });
  });
});

describe('from the repair to the proof', () => {
  it('asks to try what was done, then for every key, the cause back and away, and hands over', async () => {
    const id = await harness.openCase();
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'done' });
    const pending = (await record(id)).repairActions[0]!.id;
    expect(await first(id)).toMatchObject({ kind: 'repair', fault: 'coverNear', pending });
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'works', replaces: pending });
    expect(await first(id)).toMatchObject({ kind: 'verify' });
    await verifyAll(id);
    expect(await first(id)).toMatchObject({ kind: 'prove', ask: 'broughtBack', fault: 'coverNear' });
    expect(await refusal(close(id, { conclusion: 'proven', fault: 'coverNear' }))).toMatchObject({
      code: 'notProven',
      path: 'conclusion',
      message: 'It is not proven yet. Bring the fault back once: the car must fail again. Or call it likely.',
    });
    await repairAction(id, { kind: 'broughtBack', fault: 'coverNear', result: 'fails' });
    expect(await first(id)).toMatchObject({ kind: 'prove', ask: 'takenAway' });
    await repairAction(id, { kind: 'takenAway', fault: 'coverNear', result: 'works' });
    expect(await first(id)).toMatchObject({ kind: 'handOver' });
    expect(await causesOf(services, await record(id))).toMatchObject({ proposed: { conclusion: 'proven', fault: 'coverNear' }, open: [] });
    await close(id, { conclusion: 'proven', fault: 'coverNear' });
    expect(await record(id)).toMatchObject({ conclusion: 'proven', conclusionFault: 'coverNear' });
    const report = (await readReport(services, id))!;
    expect(report.conclusion).toBe('Proven: Cover, ornament or ring weakens the signal.');
    expect(report.lines.map((l) => `${l.what}: ${l.detail}`)).toEqual(
      expect.arrayContaining([
        'Repair: Cover, ornament or ring weakens the signal: it works',
        'Fault put back once: Cover, ornament or ring weakens the signal: it fails',
        'Fault removed again: Cover, ornament or ring weakens the signal: it works',
      ]),
    );
  });

  it('counts the tries that a fix is confirmed by, and folds them into one line', async () => {
    const id = await harness.openCase();
    await repairAction(id, { kind: 'repair', fault: 'ignitionFeed', result: 'works' });
    await verifyAll(id);
    // The repair's own try and one with each key are three of the ten.
    const asked = { kind: 'prove', ask: 'triedAgain', fault: 'ignitionFeed' };
    expect(await first(id)).toMatchObject({ ...asked, starts: { done: 3, of: 10 } });
    for (let n = 0; n < 6; n += 1) await repairAction(id, { kind: 'triedAgain', fault: 'ignitionFeed', result: 'works' });
    expect(await first(id)).toMatchObject({ ...asked, starts: { done: 9, of: 10 } });
    expect(await refusal(close(id, { conclusion: 'proven', fault: 'ignitionFeed' }))).toMatchObject({
      message: 'It is not proven yet. Try it again: 9 of 10 in a row so far. Or call it likely.',
    });
    await repairAction(id, { kind: 'triedAgain', fault: 'ignitionFeed', result: 'works' });
    expect(await first(id)).toMatchObject({ kind: 'handOver' });
    await close(id, { conclusion: 'proven', fault: 'ignitionFeed' });
    const lines = (await readReport(services, id))!.lines.filter((l) => l.what.startsWith('Tried again'));
    expect(lines.map((l) => l.detail)).toEqual(['it works, 7 times in a row']);
  });

  it('takes a miss among the tries for a repair in vain', async () => {
    const id = await harness.openCase();
    await repairAction(id, { kind: 'repair', fault: 'ignitionFeed', result: 'works' });
    await repairAction(id, { kind: 'triedAgain', fault: 'ignitionFeed', result: 'fails' });
    const { diagnosis } = await page(id);
    expect(diagnosis.weighed!.cured).toBeNull();
    expect(diagnosis.weighed!.beliefs.find((b) => b.fault === 'ignitionFeed')!.p).toBe(0);
  });

  it('takes a cure that fails again for a repair in vain', async () => {
    const id = await harness.openCase();
    await repairAction(id, { kind: 'repair', fault: 'coverNear', result: 'works' });
    await verifyAll(id, ['A', 'B'], { 'B runs': 'no' });
    const { diagnosis } = await page(id);
    expect(diagnosis.weighed!.cured).toBeNull();
    expect(diagnosis.weighed!.beliefs.find((b) => b.fault === 'coverNear')!.p).toBe(0);
    expect(diagnosis.next[0]!.kind).not.toBe('verify');
  });

  test.each<[string, object, object]>([
    ['no cause named', { conclusion: 'likely' }, { code: 'causeMissing', path: 'fault' }],
    ['a cause of another family', { conclusion: 'likely', fault: 'walkedOff' }, { code: 'unknownFault', path: 'fault' }],
    [
      'proven, and nothing was repaired',
      { conclusion: 'proven', fault: 'chipDead' },
      { code: 'notProven', message: 'It is not proven yet. Record the repair and that it works. Or call it likely.' },
    ],
    ['proven, and it is something else', { conclusion: 'proven', fault: 'somethingElse' }, { code: 'notProven', path: 'conclusion' }],
  ])('does not close with %s', async (_, form, expected) => {
    const id = await harness.openCase();
    await verifyAll(id);
    expect(await refusal(close(id, form))).toMatchObject({ status: 400, ...expected });
    expect((await record(id)).state).toBe('open');
  });

  test.each<[string, object, object]>([
    ['unknown', { conclusion: 'unknown', fault: 'chipDead' }, { conclusion: 'unknown', conclusionFault: null }],
    ['likely something else', { conclusion: 'likely', fault: 'somethingElse' }, { conclusion: 'likely', conclusionFault: 'somethingElse' }],
    ['nothing said', {}, { conclusion: 'unknown', conclusionFault: null }],
  ])('closes as %s', async (_, form, expected) => {
    const id = await harness.openCase();
    await verifyAll(id);
    await close(id, form);
    expect(await record(id)).toMatchObject({ state: 'closed', ...expected });
  });
});

describe('the prior of a case', () => {
  it('is the family’s with the shop’s own proven cases, and stays what it was', async () => {
    const shop = await Harness.open();
    try {
      const before = await shop.openCase();
      const documents = shop.services.documents;
      /** A case whose cause is proven in the end. */
      const prove = async () => {
        const proving = await shop.openCase({ authority });
        await recordRepairAction(
          shop.db,
          documents,
          shop.act(technician),
          proving,
          parseRepairAction({ kind: 'repair', fault: 'immobilizerForgot', result: 'works' }),
        );
        await recordVerification(
          shop.db,
          shop.act(technician),
          proving,
          Object.fromEntries(
            ['A', 'B'].map((t) => [t, Object.fromEntries(['turns', 'doors', 'remote', 'accepted', 'cranks', 'runs'].map((a) => [a, 'yes']))]),
          ),
        );
        await closeCase(
          shop.db,
          documents,
          shop.act(lead),
          proving,
          parseClosing({ outcome: 'Learned.', conclusion: 'proven', fault: 'immobilizerForgot', absentTold: 'on' }),
        );
        return proving;
      };
      for (let i = 0; i < 11; i += 1) await prove();
      const few = await shop.openCase();
      const proving = await prove();
      const after = await shop.openCase();
      const proven = async (id: number) => (await loadCase(shop.db, id))!.identifications.at(-1)!.proven;
      expect(await proven(before)).toEqual({});
      expect(await proven(after)).toEqual({ immobilizerForgot: 12 });
      const prior = async (id: number) =>
        (await readCasePage(shop.services, id))!.diagnosis.weighed!.beliefs.find((b) => b.fault === 'immobilizerForgot')!.prior;
      expect(await prior(after)).toBeGreaterThan(await prior(before));
      // Below twelve cases nothing changes.
      expect(await proven(few)).toEqual({ immobilizerForgot: 11 });
      expect(await prior(few)).toBe(await prior(before));

      // A second look at the same system changes nothing; another family begins with its own.
      const again = (id: number, system: string) =>
        identifyAgain(shop.db, shop.services.library, documents, shop.act(lead), id, { seen: {}, system });
      await again(before, 'profile:tarn-sluice');
      expect(await proven(before)).toEqual({});
      await again(after, 'family:ring');
      expect(await proven(after)).toEqual({});

      // A case of another shop is no case of this one's.
      const elsewhere = await Harness.open();
      try {
        const { zip } = await exportCase(shop.db, shop.act(owner), proving);
        const { id } = await importCase(elsewhere.with, elsewhere.act(lead), zip);
        expect(await loadCase(elsewhere.db, id)).toMatchObject({
          conclusion: 'proven',
          conclusionFault: 'immobilizerForgot',
          repairActions: [{ kind: 'repair', fault: 'immobilizerForgot', result: 'works', minutes: null }],
        });
        const fresh = await elsewhere.openCase();
        expect((await loadCase(elsewhere.db, fresh))!.identifications.at(-1)!.proven).toEqual({});
      } finally {
        await elsewhere.close();
      }
    } finally {
      await shop.close();
    }
  });
});

describe('the page of a case', () => {
  it('supposes eight findings at most, and of one test with one key the last', async () => {
    const id = await harness.openCase();
    const asked = async (...ifs: string[]) => (await page(id, ...ifs)).supposing;
    expect(await asked('lamp:refused:A', 'lamp:accepted:A', 'lamp:refused:B')).toEqual([
      { test: 'lamp', outcome: 'accepted', key: 'A' },
      { test: 'lamp', outcome: 'refused', key: 'B' },
    ]);
    const { tests } = (await harness.services.documents.family((await record(id)).family))!;
    const every = tests.flatMap((t) => Object.keys(t.outcomes).map((o) => `${t.id}:${o}`));
    expect((await asked(...every)).length).toBe(8);
  });

  it('shows what would follow from what is only supposed, and records nothing', async () => {
    const id = await harness.openCase();
    const {
      diagnosis,
      supposing,
      record: shown,
    } = await page(id, 'lamp:refused:A', 'nonsense', 'lamp:nothing:A', 'lamp:refused:Q', 'noTest:x', '::', 'x'.repeat(400));
    expect(supposing).toEqual([{ test: 'lamp', outcome: 'refused', key: 'A' }]);
    expect(diagnosis.links.find((l) => l.id === 'keyAccepted')!.state).toBe('broken');
    expect(shown.evidence).toEqual([]);
    expect((await record(id)).evidence).toEqual([]);
    const final = (await readFinalDiagnosis(services, id, supposing))!;
    expect(final.weighed).toMatchObject({ name: diagnosis.weighed!.name, final: true });
    expect((await page(id, 'lamp:refused:A')).diagnosis.weighed!.final).toBe(true);
    expect((await page(id)).diagnosis.weighed!.final).toBe(false);
  });

  it('adds up: prior and weights of each fault and link give the number that is shown', async () => {
    const id = await harness.openCase();
    await seen(id, 'lamp', 'refused', 'A');
    await seen(id, 'secondKey', 'accepted', 'B');
    const { beliefs, explained } = (await page(id)).diagnosis.weighed!;
    for (const b of beliefs) {
      const { prior, weights, now } = explained.faults[b.id]!;
      expect(prior + Object.values(weights).reduce((x, y) => x + y, 0)).toBeCloseTo(now, 1);
      expect(10 ** (now / 10) / (1 + 10 ** (now / 10))).toBeCloseTo(b.p, 3);
    }
    expect(beliefs.reduce((n, b) => n + b.p, 0)).toBeCloseTo(1, 9);
    expect(Object.keys(explained.links)).toContain('key');
  });

  it('proposes no test whose tool the shop does not own, and says what it would get', async () => {
    const shop = {
      name: 'Saltmarsh Auto Electric',
      address: '',
      phone: '',
      currency: 'cr',
      labourRate: 84,
      equipment: [] as string[],
      units: usUnits,
    };
    const id = await harness.openCase();
    await seen(id, 'lamp', 'accepted', 'A');
    const tools = async () => {
      const { situation } = await readForDiagnosis(services, await record(id));
      return situation!.situation.atHand?.tools;
    };
    expect(await tools()).toBeUndefined();
    await harness.db.transaction((tx) => writeShop(tx, { ...shop, equipment: ['meter'] }));
    expect(await tools()).toEqual(expect.arrayContaining(['voltmeter', 'ohmmeter', 'spark tester']));
    expect(await tools()).not.toContain('scan tool');
    const final = (await readFinalDiagnosis(services, id, []))!;
    expect(final.next.flatMap((s) => (s.kind === 'test' ? s.test.tools : []))).not.toContain('scan tool');
    await harness.db.transaction((tx) => writeShop(tx, shop));
  });

  it('falls back to the rules of a family that was written before there were faults', async () => {
    const id = await harness.openCase();
    const family = services.documents.family.bind(services.documents);
    const old: Services = {
      ...services,
      documents: {
        ...services.documents,
        family: async (...args: Parameters<typeof family>) => {
          const { faults: _, ...rest } = await family(...args);
          return { ...rest, tests: rest.tests.map(({ p: __, ...t }) => t) };
        },
      },
    };
    const { diagnosis } = (await readCasePage(old, id))!;
    expect(diagnosis.weighed).toBeNull();
    expect(diagnosis.next[0]).toMatchObject({ kind: 'test', test: { id: 'lamp' } });
    expect(await causesOf(old, await record(id))).toBeNull();
  });

  it('says so when the findings do not fit together, and never divides by nothing', async () => {
    const id = await harness.openCase();
    await seen(id, 'lamp', 'accepted', 'A');
    await seen(id, 'engine', 'cranks', 'A');
    await seen(id, 'releaseLive', 'yes');
    for (const [test, outcome] of [
      ['fuelHeard', 'missing'],
      ['sparkSeen', 'missing'],
      ['interlockLook', 'fault'],
      ['batteryLoad', 'falls'],
    ] as const)
      await seen(id, test, outcome);
    const { diagnosis } = await page(id);
    expect(diagnosis.weighed!.surprise).toBeGreaterThan(6);
    expect(diagnosis.weighed!.advice.kind).toBe('contradiction');
    expect(diagnosis.weighed!.advice.text).toMatch(/^These results contradict each other/);
    expect(diagnosis.next.length).toBeGreaterThan(0);
    expect(diagnosis.weighed!.beliefs.every((b) => Number.isFinite(b.p))).toBe(true);
  });

  it('sends no chances to the page', async () => {
    const id = await harness.openCase();
    const shown = await page(id);
    for (const step of shown.diagnosis.next) if (step.kind === 'test') expect(step.test).not.toHaveProperty('p');
    expect(JSON.stringify(shown).length).toBeLessThan(220_000);
  });
});

describe('every family', () => {
  test.each([...shippedContent().library.families.keys()])(
    '%s: the immobilizer is asked first, what it says moves the beliefs, and there is always something to do',
    async (family) => {
      const id = await harness.openCase({ system: `family:${family}`, authority });
      const asked = await first(id);
      if (asked.kind !== 'test') throw new Error(`${family} begins with ${asked.kind}`);
      expect(asked.test.triage).toContain('immobilizer');
      expect(asked.why).toMatch(/^(Tells “.+” from “.+”\.( Repairing the wrong one costs (\d+ to )?\d+ min\.)?|Narrows it down a little\.)$/);
      // One of its answers may say nothing: silence proves nothing where an immobilizer has no lamp.
      let moved = false;
      for (const outcome of Object.keys(asked.test.outcomes)) {
        const supposed = await page(id, [asked.test.id, outcome, asked.key].filter(Boolean).join(':'));
        expect(supposed.supposing).toHaveLength(1);
        expect(supposed.diagnosis.next.length).toBeGreaterThan(0);
        const { beliefs } = supposed.diagnosis.weighed!;
        expect(beliefs.reduce((n, b) => n + b.p, 0)).toBeCloseTo(1, 9);
        moved ||= beliefs.some((b) => Math.abs(b.p - b.prior) > 0.01);
      }
      expect(moved).toBe(true);
    },
    60_000,
  );
});

describe('the weigher', () => {
  it('gives an answer at once, asks for the far one only once, and keeps it', async () => {
    const { situation } = await readForDiagnosis(services, await record(await harness.openCase()));
    const own = openWeigher();
    expect(own.quick(situation!)).toMatchObject({ final: false });
    const [a, b] = await Promise.all([own.final(situation!), own.final(situation!)]);
    expect(a).toBe(b);
    expect(own.quick(situation!)).toEqual({ diagnosis: a, final: true });
    await own.close();
  });

  it('has the far answer reckoned for the Floor, and open pages look again when it is there', async () => {
    const id = await harness.openCase({ bay: await harness.bay('Bay 2') });
    const { situation } = await readForDiagnosis(services, await record(id));
    const own = openWeigher();
    let asked = 0;
    const weigher = {
      ...own,
      prefetch: (of: typeof situation & object) => {
        if (of.name !== situation!.name) return null;
        asked += 1;
        return own.final(of);
      },
    };
    const heard = new Promise((resolve) => services.live.subscribe((change) => change.what === 'case' && change.id === id && resolve(change)));
    await readFloor({ ...services, weigher });
    expect(await heard).toEqual({ what: 'case', id });
    await readFloor({ ...services, weigher });
    expect(asked).toBe(1);
    expect(own.prefetch(situation!)).toBeNull();
  });

  it('names equal situations alike and others not', async () => {
    const { situation } = (await readForDiagnosis(services, await record(await harness.openCase()))).situation!;
    expect(named(situation, 'h').name).toBe(named({ ...situation }, 'h').name);
    expect(named(situation, 'h').name).not.toBe(named(situation, 'i').name);
    expect(named(situation, 'h').name).not.toBe(named({ ...situation, told: ['water'] }, 'h').name);
  });

  it('says so when its worker can’t be started, and goes on without', async () => {
    const { situation } = await readForDiagnosis(services, await record(await harness.openCase()));
    const broken = openWeigher('/nowhere/worker.js');
    await expect(broken.final(situation!)).rejects.toThrow();
    expect(broken.quick(situation!).final).toBe(false);
    await broken.close();
  });
});
