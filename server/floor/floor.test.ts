import { eq } from 'drizzle-orm';
import { trainingsOf } from '../../core/library';
import type { Lesson } from '../../core/learning';
import { type RunEvent, stepsAhead } from '../../core/procedure';
import { inDwell, session, shipped } from '../../content/session.testing';
import { parseTraining } from '../accounts/forms';
import { setTraining } from '../accounts/people';
import type { Person } from '../acts/rights';
import { audit, caseFile, lesson, person, run, runEvent, shop } from '../db/schema';
import { shopPaces } from '../runs/paces';
import { startRun } from '../runs/runs';
import { closeCase } from '../cases/closing';
import { Harness, lead, owner, refusal, technician } from '../services/harness.testing';
import { mostTechnicians, parseAtWork, parsePlace, parseTechnicians, setAtWork, setPlace, setTechnicians } from './acts';
import { type Look, readFloor } from './floor';

let harness: Harness;
beforeEach(async () => {
  harness = await Harness.open();
});
afterEach(() => harness.close());
const floor = (look: Look = {}) => readFloor(harness.services, look);
const lane = async (id: number) => (await floor()).lanes.find((l) => l.case?.id === id)!;
const minutes = (ms: number) => Math.round((ms - harness.services.clock.now()) / 60_000);
const read = async (form: () => unknown) => form();
const place = (caseId: number, more: { bay?: string; promisedAt?: number; technician?: string } = {}) =>
  setPlace(harness.db, harness.act(technician), parsePlace({ caseId, bay: '', ...more }));

test('without a case: nothing is planned, and it says what to do', async () => {
  expect(await floor()).toMatchObject({ readyAt: null, notes: [], technicians: 1, unplanned: 0, touch: { say: 'No case is open.', to: null } });
});

test('one technician goes from case to case, two begin both at once', async () => {
  const [a, b] = [await harness.openCase({ bay: await harness.bay('Bay 1') }), await harness.openCase({ bay: await harness.bay('Bay 2') })];
  const begins = async (id: number) => minutes((await lane(id)).spans[0]!.from);
  expect([await begins(a), await begins(b)].sort((x, y) => x - y)[0]).toBe(0);
  expect(Math.max(await begins(a), await begins(b))).toBeGreaterThan(0);
  const alone = (await floor()).readyAt!;
  await setTechnicians(harness.db, harness.act(technician), 2);
  expect([await begins(a), await begins(b)]).toEqual([0, 0]);
  expect((await floor()).readyAt!).toBeLessThan(alone);
  const [line] = await harness.db.select().from(audit).where(eq(audit.action, 'technicians at work'));
  expect(line).toMatchObject({ by: technician.id, detail: { technicians: 2 } });
});

test('what is likely after the next test is less sure than the test, by the diagnosis', async () => {
  const { spans } = await lane(await harness.openCase());
  expect(spans[0]).toMatchObject({ kind: 'hands', sure: 1 });
  const fix = spans.find((s) => s.label === 'likely: fix')!;
  expect(fix.sure).toBeGreaterThan(0);
  expect(fix.sure).toBeLessThan(0.95);
  expect(fix.from).toBeGreaterThanOrEqual(spans[0]!.until);
});

test('a promise is shown, goes before what was promised nothing, and what is late says so', async () => {
  const [first, second] = [await harness.openCase({ bay: await harness.bay('Bay 1') }), await harness.openCase({ bay: await harness.bay('Bay 2') })];
  const now = harness.services.clock.now();
  await place(second, { bay: await harness.bay('Bay 2'), promisedAt: now + 60_000 });
  expect((await lane(second)).case).toMatchObject({ promisedAt: now + 60_000, late: true });
  expect((await lane(first)).case).toMatchObject({ promisedAt: null, late: false });
  expect((await lane(second)).spans[0]!.from).toBe(now);
  expect((await floor()).notes).toEqual([{ kind: 'late', bay: 'Bay 2', minutes: expect.any(Number) }]);
  await place(second, { bay: await harness.bay('Bay 2') });
  expect((await lane(second)).case!.promisedAt).toBeNull();
  expect((await floor()).notes).toEqual([]);
});

test('a case moves between bays; a bay that is not there, and a case that is closed, are refused', async () => {
  const id = await harness.openCase({ bay: await harness.bay('Bay 1') });
  await place(id, { bay: await harness.bay('Bay 2') });
  expect(await lane(id)).toMatchObject({ bay: 'Bay 2' });
  await place(id);
  expect(await lane(id)).toMatchObject({ bay: 'No bay' });
  expect(await refusal(place(id, { bay: 'nowhere' }))).toMatchObject({ status: 400, path: 'bay' });
  await closeCase(harness.db, harness.services.documents, harness.act(lead), id, {
    outcome: 'Sent away.',
    reason: 'The customer wants nothing more done.',
    returned: [],
    conclusion: 'unknown',
    absentTold: true,
  });
  expect(await refusal(place(id))).toMatchObject({ status: 409 });
  const [row] = await harness.db.select({ bayId: caseFile.bayId }).from(caseFile).where(eq(caseFile.id, id));
  expect(row!.bayId).toBeNull();
});

test('forms are read through one schema', async () => {
  expect(parseTechnicians({ technicians: String(mostTechnicians) })).toEqual({ technicians: mostTechnicians });
  for (const technicians of ['0', String(mostTechnicians + 1), '1.5', 'two', ''])
    expect(await refusal(read(() => parseTechnicians({ technicians })))).toMatchObject({ status: 400, path: 'technicians' });
  expect(parsePlace({ caseId: '3', bay: '' })).toEqual({ caseId: 3, bay: '', technician: '', promisedAt: null });
  expect(parseAtWork({ person: 't', atWork: 'true' })).toEqual({ person: 't', atWork: true });
  expect(await refusal(read(() => parseAtWork({ atWork: 'maybe' })))).toMatchObject({ status: 400, path: 'person' });
  expect(await refusal(read(() => parsePlace({ caseId: '3', bay: '', promisedAt: 'soon' })))).toMatchObject({ status: 400, path: 'promisedAt' });
});

test('a shop without data is told what to do', async () => {
  await harness.db.delete(shop);
  expect(await refusal(setTechnicians(harness.db, harness.act(owner), 2))).toMatchObject({
    status: 409,
    message: 'This shop has no data yet. Write its name under Shop first.',
  });
});

test('more cases than are planned at once are counted', async () => {
  for (let i = 0; i < 14; i += 1) await harness.openCase({ vehicle: `Orrin Thimble ${i}` });
  const found = await floor({ horizon: 'day' });
  expect(found).toMatchObject({ unplanned: 2, horizonMs: 8 * 60 * 60_000 });
  expect(found.lanes.filter((l) => l.case)).toHaveLength(14);
});

test('from thirty lanes on, what is not planned, presses nobody and stands nowhere is listed beside them', async () => {
  const bay = await harness.bay('Bay 1');
  for (let i = 0; i < 30; i += 1) await harness.openCase({ vehicle: `Orrin Thimble ${i}` });
  const few = await floor();
  expect([few.lanes.filter((l) => l.case).length, few.others.length]).toEqual([30 - few.others.length, few.others.length]);
  const standing = await harness.openCase({ bay });
  const hers = await harness.openCase();
  await place(hers, { technician: technician.id });
  const { lanes, others, unplanned } = await floor();
  const drawn = lanes.flatMap((l) => l.case?.id ?? []);
  expect(drawn).toEqual(expect.arrayContaining([standing, hers]));
  expect(drawn.length + others.length).toBe(32);
  expect(others.length).toBeGreaterThanOrEqual(32 - 12 - 2);
  expect(unplanned).toBe(20);
  expect(others[0]).toMatchObject({ id: expect.any(Number), number: expect.any(String), vehicle: expect.stringMatching(/^Orrin Thimble/) });
  // What has no name outside the shop has none here.
  expect((await floor({ showing: 'nothing' })).others.every((o) => o.vehicle === '')).toBe(true);
});

describe('by name', () => {
  const atWork = (who: Person, is = true) => setAtWork(harness.db, harness.act(lead), { person: who.id, atWork: is });

  test('a case that somebody works on waits for that person, who is told of it, while others begin', async () => {
    const [a, b] = [await harness.openCase({ bay: await harness.bay('Bay 1') }), await harness.openCase({ bay: await harness.bay('Bay 2') })];
    await atWork(lead);
    await atWork(technician);
    expect(await floor()).toMatchObject({ technicians: 2, yours: false });
    for (const id of [a, b]) await place(id, { technician: technician.id });
    const first = async (id: number) => minutes((await lane(id)).spans[0]!.from);
    const begins = [await first(a), await first(b)].sort((x, y) => x - y);
    expect(begins[0]).toBe(0);
    expect(begins[1]).toBeGreaterThan(0);
    expect((await lane(a)).technician).toEqual({ id: technician.id, name: technician.name });
    expect(await floor({ viewer: lead.id })).toMatchObject({ yours: true, touch: { say: 'Nothing for you right now.', to: null } });
    expect(await floor({ viewer: technician.id })).toMatchObject({ yours: true, touch: { to: expect.stringMatching(/^\/cases\//) } });
    expect((await floor({ viewer: owner.id })).yours).toBe(false);
    // To somebody else: both begin at once.
    await place(b, { technician: lead.id });
    expect([await first(a), await first(b)]).toEqual([0, 0]);
    const [line] = await harness.db.select().from(audit).where(eq(audit.action, 'person at work'));
    expect(line).toMatchObject({ by: lead.id, detail: { person: lead.id, atWork: true } });
  });

  test('lanes by technician: their cases first, a free lane for who has none, the rest for anybody', async () => {
    const [a, b] = [await harness.openCase(), await harness.openCase()];
    await atWork(lead);
    await place(b, { technician: technician.id });
    const lanes = async () => (await floor({ by: 'technician' })).lanes.map((l) => [l.technician?.name ?? null, l.case?.id ?? null]);
    expect(await lanes()).toEqual([
      [lead.name, null],
      [technician.name, b],
      [null, a],
    ]);
    await atWork(lead, false);
    expect(await lanes()).toEqual([
      [technician.name, b],
      [null, a],
    ]);
  });

  test('whoever is not at work is said, and the plan gives the case to anybody; outside the shop nobody’s name is read', async () => {
    const bay = await harness.bay('Bay 1');
    const id = await harness.openCase({ bay });
    await place(id, { bay, technician: technician.id });
    // Nobody is at work by name: then everybody may be.
    expect((await floor()).notes).toEqual([]);
    await atWork(lead);
    expect((await floor()).notes).toEqual([{ kind: 'away', bay: 'Bay 1', name: technician.name }]);
    expect((await lane(id)).spans[0]!.from).toBe(harness.services.clock.now());
    for (const showing of ['nothing', 'plates'] as const)
      expect(JSON.stringify(await floor({ showing }))).not.toMatch(new RegExp(`${technician.name}|${lead.name}`));
  });

  test('unknown people, and fewer hands than there are by name, are refused', async () => {
    const id = await harness.openCase();
    expect(await refusal(place(id, { technician: 'nobody' }))).toMatchObject({ status: 400, path: 'technician' });
    expect(await refusal(setAtWork(harness.db, harness.act(lead), { person: 'nobody', atWork: true }))).toMatchObject({ status: 400 });
    await atWork(lead);
    await atWork(technician);
    expect(await refusal(setTechnicians(harness.db, harness.act(lead), 1))).toMatchObject({
      status: 409,
      message: '2 people are marked as at work by name. Take one out first.',
    });
    expect((await floor()).technicians).toBe(2);
    // Whose account is gone works on nothing any more.
    await place(id, { technician: technician.id });
    await harness.db.update(person).set({ state: 'locked' }).where(eq(person.id, technician.id));
    expect((await lane(id)).technician).toBeNull();
    expect((await floor()).people.map((p) => p.id)).not.toContain(technician.id);
  });

  describe('training', () => {
    const trainings = trainingsOf(shipped.cautions);
    const all = Object.keys(trainings);
    const untrain = (who: Person, ...lacks: string[]) =>
      setTraining(
        harness.db,
        harness.act(owner),
        parseTraining({ person: who.id, trained: all.filter((id) => !lacks.includes(id)) }, trainings),
        all,
      );
    /** A run with work at the airbag. */
    const atColumn = async (who = '') => {
      const bay = await harness.bay('Bay 1');
      const id = await harness.openCase({ bay });
      await startRun(harness.db, harness.services.documents, harness.services.library, harness.act(), id, 'clean-contacts');
      await place(id, { bay, technician: who });
      await atWork(lead);
      await atWork(technician);
    };
    const isFor = async (who: Person) => (await floor({ viewer: who.id })).touch.to !== null;

    test('work at the airbag goes to who is trained for it; other training does not matter', async () => {
      await atColumn();
      expect((await floor()).notes).toEqual([]);
      await untrain(technician, 'fuel');
      const before = [await isFor(lead), await isFor(technician)];
      expect(before.filter(Boolean)).toHaveLength(1);
      await untrain(technician, 'airbag');
      expect([await isFor(lead), await isFor(technician)]).toEqual([true, false]);
      await untrain(lead, 'airbag', 'fuel');
      await untrain(technician);
      expect([await isFor(lead), await isFor(technician)]).toEqual([false, true]);
      expect((await floor()).notes).toEqual([]);
    });

    test('where nobody at work is trained it is said, and the plan gives it to anybody; somebody without a name may be', async () => {
      await atColumn();
      await untrain(lead, 'airbag');
      await untrain(technician, 'airbag');
      expect((await floor()).notes).toEqual([{ kind: 'untrained', bay: 'Bay 1', work: 'airbags' }]);
      expect([await isFor(lead), await isFor(technician)].filter(Boolean)).toHaveLength(1);
      await setTechnicians(harness.db, harness.act(lead), 3);
      expect((await floor()).notes).toEqual([]);
      expect([await isFor(lead), await isFor(technician)]).toEqual([false, false]);
    });

    test('a case for somebody who is not trained for it stays theirs, and says so; no name outside the shop', async () => {
      await atColumn(technician.id);
      await untrain(technician, 'airbag');
      expect((await floor()).notes).toEqual([{ kind: 'notTrained', bay: 'Bay 1', name: technician.name, work: 'airbags' }]);
      expect([await isFor(lead), await isFor(technician)]).toEqual([false, true]);
      expect((await floor({ showing: 'plates' })).notes).toEqual([]);
    });

    test('only the owner says it, of people who have an account, in words that are known', async () => {
      expect(await refusal(setTraining(harness.db, harness.act(lead), { person: technician.id, trained: [] }, all))).toMatchObject({ status: 403 });
      expect(await refusal(setTraining(harness.db, harness.act(owner), { person: 'nobody', trained: [] }, all))).toMatchObject({ status: 404 });
      expect(await refusal(read(() => parseTraining({ person: lead.id, trained: ['dragons'] }, trainings)))).toMatchObject({ status: 400 });
      await Promise.all(Array.from({ length: 100 }, (_, i) => untrain(technician, ...(i % 2 === 0 ? ['airbag'] : ['airbag', 'fuel']))));
      const [{ untrained }] = (await harness.db.select({ untrained: person.untrained }).from(person).where(eq(person.id, technician.id))) as [
        { untrained: string[] },
      ];
      expect([['airbag'], ['airbag', 'fuel']]).toContainEqual(untrained);
      const lines = await harness.db.select().from(audit).where(eq(audit.action, 'training changed'));
      expect(lines).toHaveLength(100);
    });
  });

  test('a hundred marks at once: the number of hands is at least those by name', async () => {
    await Promise.all(Array.from({ length: 100 }, (_, i) => atWork([lead, technician, owner][i % 3]!)));
    expect(await floor()).toMatchObject({ technicians: 3, people: [{ atWork: true }, { atWork: true }, { atWork: true }] });
  });
});

test('what needs the scan tool waits until the run that has it is over, and says so', async () => {
  const { db, services } = harness;
  const start = async (bay: string, procedure: string) => {
    const id = await harness.openCase({
      bay: await harness.bay(bay),
      system: 'profile:tarn-gantry',
      authority: [{ kind: 'registration', note: '' }],
    });
    await startRun(db, services.documents, services.library, harness.act(), id, procedure);
    return id;
  };
  await setTechnicians(db, harness.act(technician), 2);
  const first = await start('Bay 1', 'relearn-tool-dwell');
  expect((await floor({ horizon: 'day' })).notes).toEqual([]);
  // A test with the scan tool of another car.
  const second = await harness.openCase({ bay: await harness.bay('Bay 2') });
  const real = harness.services.documents.family;
  const tooled = async (...args: Parameters<typeof real>) => {
    const family = await real.apply(services.documents, args);
    return { ...family, tests: family.tests.map((t) => ({ ...t, tools: ['scan tool'] })) };
  };
  Object.assign(services.documents, { family: tooled });
  const { lanes, notes } = await floor({ horizon: 'day' });
  const done = lanes
    .find((l) => l.case?.id === first)!
    .spans.filter((s) => s.label !== 'verify the keys')
    .at(-1)!.until;
  // Plans are in thousandths of a minute.
  const begins = lanes.find((l) => l.case?.id === second)!.spans[0]!.from;
  expect(Math.abs(begins - done)).toBeLessThan(100);
  expect(notes).toContainEqual({ kind: 'tool', bay: 'Bay 2', other: 'Bay 1', at: begins });
  // A second run that has one: then the shop has two.
  await start('Bay 2', 'relearn-tool-dwell');
  expect((await floor({ horizon: 'day' })).notes.filter((n) => n.kind === 'tool')).toEqual([]);
});

test('acts of a run are as long as they were here in runs that have ended', async () => {
  const { db, services } = harness;
  const relearn = 'relearn-ignition-on';
  const drive = async () => {
    const caseId = await harness.openCase({ system: 'profile:tarn-gantry', authority: [{ kind: 'registration', note: '' }] });
    return { caseId, ...(await startRun(db, services.documents, services.library, harness.act(), caseId, relearn)) };
  };
  const shown = await drive();
  const hands = async () => (await lane(shown.caseId)).spans[0]!;
  const before = (await hands()).until - (await hands()).from;
  const slowly = async () => {
    const { id, caseId } = await drive();
    const s = session();
    s.pass(400);
    s.prepare();
    const began = services.clock.now();
    for (const { occurredAt, ...event } of s.events.slice(1)) {
      const own = { ...event, id: `${id}-${event.id}`, occurredAt: began + occurredAt } as RunEvent;
      await db.insert(runEvent).values({ runId: id, seq: event.seq, id: own.id, event: own });
    }
    return { id, caseId };
  };
  const end = async ({ id, caseId }: { id: number; caseId: number }) => {
    await db.update(run).set({ status: 'stopped' }).where(eq(run.id, id));
    await db.update(caseFile).set({ state: 'parked' }).where(eq(caseFile.id, caseId));
  };
  const first = async () => Object.values(await shopPaces(services, relearn))[0];
  const older = await slowly();
  for (let i = 0; i < 8; i += 1) await end(await slowly());
  expect(await first()).toEqual(Array.from({ length: 8 }, () => 400));
  expect((await hands()).until - (await hands()).from).toBeGreaterThan(before + 100_000);
  // One that began before them and ends after them counts; one of a case that nothing is learned from does not.
  await end(older);
  expect(await first()).toHaveLength(9);
  const taught: Lesson = { cause: null, line: '', tests: [], fixes: [], said: null, missed: false, options: [], stayed: null };
  await db.insert(lesson).values({ caseId: older.caseId, familyId: 'transponder-dwell', lesson: taught, missed: false, leftOut: 'not ours' });
  expect(await first()).toHaveLength(8);
});

test('what could be done now and is held back, since another car’s limit comes in the middle of it, is not next', async () => {
  const { db, services } = harness;
  const start = async (bay: string, procedure: string, vehicle: string, s: ReturnType<typeof session>) => {
    const system = 'profile:tarn-gantry';
    const caseId = await harness.openCase({ bay: await harness.bay(bay), system, vehicle, authority: [{ kind: 'registration', note: '' }] });
    const { id } = await startRun(db, services.documents, services.library, harness.act(), caseId, procedure);
    const began = services.clock.now();
    for (const { occurredAt, ...event } of s.events.slice(1)) {
      const own = { ...event, id: `${id}-${event.id}`, occurredAt: began + occurredAt } as RunEvent;
      await db.insert(runEvent).values({ runId: id, seq: event.seq, id: own.id, event: own });
    }
    return caseId;
  };
  // Ready for the work with the tool, which takes longer than the other car's wait.
  const tool = session({ procedure: shipped.procedures.get('relearn-tool-dwell')! });
  const next = () => stepsAhead(tool, tool.state(), tool.now())[0]!;
  for (let i = 0; i < 12 && (next().kind === 'wait' || next().minutes < 10); i += 1) {
    const { wait, answers, value } = tool.shown();
    if (wait) tool.pass((wait.until - tool.now()) / 1000);
    else tool.answer(answers[0]!.id, value ? 12.6 : undefined);
  }
  expect(next().minutes).toBeGreaterThan(10);
  const wait = inDwell();
  wait.pass(460);
  const waiting = await start('Bay 1', 'relearn-ignition-on', 'In its wait', wait);
  const held = await start('Bay 2', 'relearn-tool-dwell', 'Measured next', tool);
  services.clock.advance(wait.now());
  const { touch, lanes } = await floor();
  const from = (id: number) => lanes.find((l) => l.case?.id === id)!.spans.find((x) => x.kind === 'hands')!.from;
  expect(lanes.find((l) => l.case?.id === held)!.attention).toBe('due');
  expect(from(held)).toBeGreaterThan(from(waiting));
  expect(touch).toMatchObject({ say: 'Nothing now. Bay 1, In its wait is next.', attention: 'none', to: expect.stringMatching(/^\/cases\//) });
});
