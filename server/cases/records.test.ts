import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { recordAuthority } from './authority';
import { Harness, intake, lead, refusal, technician } from '../services/harness.testing';
import { listCases } from './caseList';
import { isVerified, loadCase } from '../record/cases';
import { closeCase, strangeKeys } from './closing';
import { type Clock, type Machine, openClock } from '../services/clock';
import { appendOnly, audit, clockDomain, command, document, evidence, runEvent } from '../db/schema';
import { BrokenContent, enterContent } from '../library/documents';
import { Refused } from '../base/expected';
import { findCases } from './find';
import { readFloor } from '../floor/floor';
import { stripClocks } from '../runs/strip';
import { fieldsOf } from '../base/fieldsOf';
import { parseRecordId } from '../base/fields';
import { parseRunCommand, parseStartRun } from '../runs/forms';
import { parseCounter, parseNewCase } from './forms';
import { readCounter } from './keys';
import { createCase } from './openCase';
import { recordVerification } from './verification';
import { recordEvidence, withdrawEvidence } from '../ledger/ledger';
import { readReport } from './report';
import { may, type Person, rights } from '../acts/rights';
import { commandRun, loadRun, startRun } from '../runs/runs';
import type { Services } from '../services/services';

const root = process.cwd();
let harness: Harness;
let services: Services;
const act = (...args: Parameters<Harness['act']>) => harness.act(...args);
const db = () => harness.db;
const open = (more: Record<string, unknown> = {}) => harness.openCase(more);
const withAuthority = { authority: [{ kind: 'registration', note: '' }], changed: [{ what: 'ecm' }] };
const openCases = async () => (await listCases(db(), { states: ['open'], text: '', sort: 'newest' })).rows;
const verified = async (id: number) => {
  const record = (await loadCase(db(), id))!;
  return isVerified(record, await services.documents.family(record.family));
};
const close = (by: Person, id: number, reason = '') =>
  closeCase(db(), services.documents, act(by), id, {
    outcome: reason ? 'Sent away.' : 'Runs.',
    reason,
    returned: [],
    conclusion: 'unknown',
    absentTold: true,
  });

beforeAll(async () => {
  harness = await Harness.open();
  services = harness.services;
});
afterAll(() => harness.close());

describe('a case', () => {
  test('is opened with its keys, pins and authority, and is found again', async () => {
    const id = await open({ ...withAuthority, plate: '9-99-XYZ', customer: 'Bram Ostrander', words: 'Made 50%_ worse.' });
    const record = (await loadCase(db(), id))!;
    expect(record).toMatchObject({
      state: 'open',
      vehicle: 'Tarn Gantry, grey',
      keys: [{ tag: 'A', role: 'main', present: true }, { tag: 'B' }],
      authority: [{ kind: 'registration', by: expect.any(String) }],
    });
    expect(record.family.hash).toHaveLength(64);
    expect(record.profile).toMatchObject({ id: 'tarn-gantry', version: 5 });
    for (const query of ['9-99', 'gantry', '50%_', record.number]) expect((await findCases(db(), query)).map((r) => r.id)).toContain(id);
    for (const query of ['50%qqqq', '\\', '\u0000\u0000zzzzzzzzz']) expect((await findCases(db(), query)).map((r) => r.id)).not.toContain(id);
  });

  test('the same command id is done once; with another payload it is a conflict', async () => {
    const once = act();
    const first = await createCase(db(), services.library, once, intake());
    const before = (await openCases()).length;
    expect(await createCase(db(), services.library, once, intake())).toEqual(first);
    expect((await openCases()).length).toBe(before);
    expect(await refusal(createCase(db(), services.library, once, intake({ words: 'Other words.' })))).toMatchObject({
      status: 409,
      code: 'idReused',
    });
  });

  test('what is not in the library or the shop is refused with its field', async () => {
    expect(await refusal(createCase(db(), services.library, act(), intake({ system: 'profile:gone' })))).toMatchObject({
      status: 400,
      message: '"gone" is not in the library. Choose one from the list.',
    });
    expect(await refusal(createCase(db(), services.library, act(), intake({ bay: 'bay-9' })))).toMatchObject({ status: 400, code: 'unknownBay' });
  });

  test('a closed case takes nothing more', async () => {
    const id = await open();
    await recordVerification(
      db(),
      act(),
      id,
      Object.fromEntries(['A', 'B'].map((t) => [t, { turns: 'yes', doors: 'yes', remote: 'hasNot', accepted: 'yes', cranks: 'yes', runs: 'yes' }])),
    );
    expect(await verified(id)).toBe(true);
    await close(technician, id);
    expect((await listCases(db(), { states: ['closed'], text: '', sort: 'newest' })).rows.map((r) => r.id)).toContain(id);
    expect(await refusal(recordAuthority(db(), act(), id, { kind: 'registration', note: '' }))).toMatchObject({ status: 409, code: 'closed' });
  });

  test('without proof it is closed only by a lead, with a reason', async () => {
    const id = await open();
    expect(await refusal(close(lead, id))).toMatchObject({ status: 400, code: 'notVerified' });
    expect(await refusal(close(technician, id, 'no key'))).toMatchObject({
      status: 403,
      code: 'notAllowed',
    });
    await close(lead, id, 'no key');
    expect((await loadCase(db(), id))!.outcome).toBe('Sent away. Closed without proof: no key');
  });

  const form = { outcome: 'Runs.', reason: 'tried later', returned: [], absentTold: false };
  const handOver = (id: number, more: object) => closeCase(db(), services.documents, act(lead), id, { ...form, ...more });

  test('nobody’s cause is chosen for them', async () => {
    const id = await open();
    expect(await refusal(handOver(id, {}))).toMatchObject({
      status: 400,
      code: 'conclusionMissing',
      message: 'Say how well the cause is known: proven, likely or unknown.',
    });
    expect((await loadCase(db(), id))!.state).toBe('open');
  });

  test('a key that was not here is named, and the customer knows of it before the case is closed', async () => {
    const id = await open({
      keys: [
        { tag: 'A', role: 'main', here: 'on' },
        { tag: 'B', role: 'user', note: 'at home' },
        { tag: 'C', role: 'valet' },
      ],
    });
    expect(await refusal(handOver(id, { conclusion: 'unknown' }))).toMatchObject({
      status: 400,
      code: 'absentKeys',
      message: 'tag B, tag C were not here and may no longer start the car. Have them brought, or tell the customer and check the box.',
    });
    await handOver(id, { conclusion: 'unknown', absentTold: true });
    expect((await loadCase(db(), id))!.outcome).toBe(
      'Runs. Not here at the hand-over: tag B, tag C; the customer was told. Closed without proof: tried later',
    );
  });

  test('keys that are stored and nobody told of are named before the case is closed', async () => {
    const id = await open();
    const read = (value: string, phase: string) => readCounter(db(), act(), id, parseCounter({ counter: 'keysStored', unit: 'keys', value, phase }));
    const strange = async () => strangeKeys((await loadCase(db(), id))!);
    expect(await strange()).toBe(0);
    await read('2', 'before');
    expect(await strange()).toBe(0);
    await read('4', 'before');
    expect(await strange()).toBe(2);
    // What was counted after the work is what is stored now.
    await read('3', 'after');
    await read('2', 'before');
    expect(await strange()).toBe(1);
    expect(await refusal(handOver(id, { conclusion: 'unknown' }))).toMatchObject({
      status: 400,
      code: 'absentKeys',
      message: 'One more key is stored than this case lists. Ask who has it, tell the customer, and check the box.',
    });
    await handOver(id, { conclusion: 'unknown', absentTold: true });
    expect((await loadCase(db(), id))!.outcome).toBe(
      'Runs. Stored beyond the keys listed: 1; the customer was told. Closed without proof: tried later',
    );
  });

  test('the report names the system of the car, and whose numbers were used apart from it', async () => {
    const report = (await readReport(services, await open({ vehicle: 'Dunmore Crag, green', system: 'profile:tarn-gantry' })))!;
    expect(report.system).toMatchObject({ title: 'Transponder key, timed relearn with ignition on', numbers: 'Tarn Gantry pickup, second series' });
    const typical = (await readReport(services, await open({ system: 'family:ring' })))!;
    expect(typical.system).toMatchObject({ title: 'Antenna ring around the lock', numbers: null });
  });

  test('one half of the abilities is no verification, and a run ends the old one', async () => {
    const id = await open(withAuthority);
    await recordVerification(db(), act(), id, { A: { turns: 'yes' } });
    expect(await verified(id)).toBe(false);
    expect(await refusal(recordVerification(db(), act(), id, {}))).toMatchObject({ code: 'nothing' });
    expect(await refusal(recordVerification(db(), act(), id, { Z: { turns: 'yes' } }))).toMatchObject({ code: 'unknownKey' });
  });
});

describe('the ledger', () => {
  test.each<[string, Record<string, string>, string]>([
    ['an unknown test', { test: 'gone', outcome: 'x' }, 'unknownTest'],
    ['an unknown outcome', { test: 'lamp', outcome: 'purple', key: 'A' }, 'unknownOutcome'],
    ['a test without its key', { test: 'lamp', outcome: 'refused' }, 'keyMissing'],
    ['a key of another case', { test: 'lamp', outcome: 'refused', key: 'Q' }, 'keyMissing'],
    ['a key where none is meant', { test: 'battery', outcome: 'healthy', key: 'A' }, 'keyNotMeant'],
    ['a correction of nothing', { test: 'lamp', outcome: 'refused', key: 'A', replaces: 'none' }, 'noEntry'],
  ])('refuses %s', async (_what, form, code) => {
    const id = await open();
    expect(await refusal(recordEvidence(db(), services.documents, act(), id, { note: '', ...form } as never))).toMatchObject({ code });
    expect((await loadCase(db(), id))!.evidence).toEqual([]);
  });

  test('a correction and a withdrawal are further lines, and a line is replaced once', async () => {
    const id = await open();
    await recordEvidence(db(), services.documents, act(), id, { test: 'lamp', outcome: 'refused', key: 'A', note: '' });
    const [first] = (await loadCase(db(), id))!.evidence;
    await recordEvidence(db(), services.documents, act(), id, { test: 'lamp', outcome: 'accepted', key: 'A', note: '', replaces: first!.id });
    expect(await refusal(withdrawEvidence(db(), act(), id, first!.id))).toMatchObject({ status: 409, code: 'replaced' });
    const second = (await loadCase(db(), id))!.evidence[1]!;
    await withdrawEvidence(db(), act(), id, second.id);
    expect((await loadCase(db(), id))!.evidence.map((e) => e.outcome)).toEqual(['refused', 'accepted', null]);
  });
});

test.each(appendOnly)('rows of %s are only ever added', async (table) => {
  const id = await open(withAuthority);
  await recordEvidence(db(), services.documents, act(), id, { test: 'lamp', outcome: 'refused', key: 'A', note: '' });
  await recordVerification(db(), act(), id, { A: { turns: 'yes' } });
  await startRun(db(), services.documents, services.library, act(), id, 'relearn-ignition-on');
  const because = async (work: Promise<unknown>) =>
    work.then(
      () => 'done',
      (error: { cause?: { message?: string } }) => error.cause?.message,
    );
  const column = { document: 'hash', run_event: 'seq', price_book: 'version' }[table as string] ?? 'id';
  expect(await because(db().execute(sql.raw(`delete from "${table}"`)))).toBe(`rows of ${table} are only ever added`);
  expect(await because(db().execute(sql.raw(`update "${table}" set ${column} = ${column}`)))).toBe(`rows of ${table} are only ever added`);
});

describe('a run', () => {
  const start = async (id: number) => (await startRun(db(), services.documents, services.library, act(), id, 'relearn-ignition-on')).id;
  const send = (runId: number, body: Record<string, unknown>, actor = lead) => {
    const a = act(actor);
    return commandRun(db(), services.documents, a, runId, parseRunCommand({ id: a.id, occurredAt: a.now, ...body }));
  };

  test('needs authority, keys, the right family, and no other run', async () => {
    expect(await refusal(open({ changed: [{ what: 'ecm' }] }).then(start))).toMatchObject({ status: 403, code: 'gateClosed' });
    expect(await refusal(open({ ...withAuthority, keys: [] }).then(start))).toMatchObject({ status: 409, code: 'noKeys' });
    const id = await open(withAuthority);
    expect(await refusal(startRun(db(), services.documents, services.library, act(), id, 'gone'))).toMatchObject({ code: 'unknownProcedure' });
    const runId = await start(id);
    expect(await refusal(start(id))).toMatchObject({ status: 409, code: 'running' });
    expect((await loadRun(db(), services.documents, runId))!.events[0]).toMatchObject({ type: 'started', keys: ['A', 'B'] });
    expect(await refusal(close(lead, id, 'y'))).toMatchObject({ status: 409, code: 'running' });
  });

  test('takes the keys that were chosen, in their order, and no others', async () => {
    const id = await open(withAuthority);
    const started = (...keys: string[]) => startRun(db(), services.documents, services.library, act(), id, 'relearn-ignition-on', keys);
    expect(await refusal(started('A', 'Z'))).toMatchObject({
      status: 409,
      code: 'keysUnfit',
      message: 'Tag Z is not here. Choose among the keys that are here.',
    });
    const one = startRun(db(), services.documents, services.library, act(), id, 'change-cell', ['A', 'B']);
    expect(await refusal(one)).toMatchObject({
      code: 'keysUnfit',
      message: 'This is done with one key at a time. Choose one, and start it again for the next.',
    });
    const { id: runId } = await started('B', 'A');
    expect((await loadRun(db(), services.documents, runId))!.events[0]).toMatchObject({ type: 'started', keys: ['B', 'A'] });
    expect(() => parseStartRun({ procedure: 'change-cell', keys: ['A', 'A'] })).toThrow();
    expect(parseStartRun({ procedure: 'change-cell', keys: 'A' })).toEqual({ procedure: 'change-cell', keys: ['A'] });
    expect(parseStartRun({ procedure: 'change-cell' })).toEqual({ procedure: 'change-cell' });
  });

  test('takes each command once and refuses what does not fit, in a sentence', async () => {
    const runId = await start(await open(withAuthority));
    const first = act();
    const body = parseRunCommand({
      id: first.id,
      expectedSeq: 1,
      occurredAt: first.now,
      type: 'answer',
      step: 'rested',
      answer: 'measured',
      value: 12.6,
    });
    expect(await commandRun(db(), services.documents, first, runId, body)).toEqual({ seq: 2 });
    expect(await commandRun(db(), services.documents, first, runId, body)).toEqual({ seq: 2 });
    expect((await loadRun(db(), services.documents, runId))!.events).toHaveLength(2);
    expect(await refusal(send(runId, { expectedSeq: 1, type: 'answer', step: 'rested', answer: 'measured', value: 12.5 }))).toMatchObject({
      status: 409,
      code: 'stale',
    });
    expect(await refusal(send(runId, { expectedSeq: 2, type: 'answer', step: 'dwell', answer: 'lampOut' }))).toMatchObject({
      status: 409,
      code: 'wrongStep',
    });
    expect(await refusal(send(999_999, { expectedSeq: 2, type: 'stop', reason: 'x' }))).toMatchObject({ status: 404 });
  });

  test('two browsers at the same moment: one is taken, the other is told', async () => {
    const runId = await start(await open(withAuthority));
    const both = await Promise.all(
      [12.6, 12.5].map((value) => refusal(send(runId, { expectedSeq: 1, type: 'answer', step: 'rested', answer: 'measured', value }))),
    );
    expect(both).toContain('accepted');
    expect(both).toContainEqual(expect.objectContaining({ status: 409, code: 'stale' }));
  });

  test('only a lead waives', async () => {
    const runId = await start(await open(withAuthority));
    await send(runId, { expectedSeq: 1, type: 'answer', step: 'rested', answer: 'measured', value: 12 });
    expect(await refusal(send(runId, { expectedSeq: 2, type: 'waive', step: 'rested', reason: 'supply' }, technician))).toMatchObject({
      code: 'notAllowed',
    });
    expect(await send(runId, { expectedSeq: 2, type: 'waive', step: 'rested', reason: 'supply' })).toEqual({ seq: 3 });
    const [line] = await db().select().from(audit).where(eq(audit.action, 'run: waive'));
    expect(line).toMatchObject({
      by: lead.id,
      caseId: (await loadRun(db(), services.documents, runId))!.caseId,
      detail: { step: 'rested', reason: 'supply' },
    });
  });

  test('an answer that says something becomes evidence; taken back, its line is withdrawn', async () => {
    const id = await open({ ...withAuthority, keys: [{ tag: 'A', role: 'main', here: 'on' }] });
    const runId = await start(id);
    let seq = 1;
    const answer = async (step: string, given: string, value?: number) => {
      seq = (await send(runId, { expectedSeq: seq, type: 'answer', step, answer: given, ...(value === undefined ? {} : { value }) })).seq;
    };
    await answer('rested', 'measured', 12.6);
    await answer('loads', 'done');
    await answer('loadOn', 'done');
    await services.clock.advance(60_000);
    await answer('loaded', 'measured', 12.2);
    for (const step of ['loadOff', 'window', 'allKeys']) await answer(step, 'done');
    await answer('origin', 'remanufactured');
    for (const step of ['noScan', 'begin']) await answer(step, 'done');
    await services.clock.advance(8000);
    await answer('on', 'done');
    await answer('lit', 'dark');
    let record = (await loadCase(db(), id))!;
    expect(record.runs[0]).toMatchObject({ status: 'stopped', endedAt: services.clock.now() });
    expect(record.evidence).toMatchObject([{ test: 'lamp', outcome: 'dark', key: 'A', runId }]);
    const last = (await loadRun(db(), services.documents, runId))!.events.at(-1)!;
    await send(runId, { expectedSeq: seq, type: 'takeBack', event: last.id });
    record = (await loadCase(db(), id))!;
    expect(record.runs[0]).toMatchObject({ status: 'running', endedAt: null });
    expect(record.evidence.map((e) => e.outcome)).toEqual(['dark', null]);
    const report = (await readReport(services, id))!;
    expect(report.lines.filter((l) => l.gone)).toMatchObject([{ what: 'Is the security light lit? (1)', detail: 'Light is dark' }]);
    expect(report.runs[0]!.numbers.find((n) => n.name === 'dwell')).toMatchObject({ value: '9:20', status: 'verified' });
  });

  test('stands in the strip and on the Floor with its moments', async () => {
    const id = await open({ ...withAuthority, bay: await harness.bay('Bay 2') });
    const runId = await start(id);
    expect((await stripClocks(services)).find((c) => c.id === `run ${runId}`)).toMatchObject({
      caseId: id,
      instruction: 'Measure the battery, rested.',
      attention: 'due',
      wait: null,
    });
    const floor = await readFloor(services);
    expect(floor.touch).toMatchObject({ attention: 'due', say: expect.stringMatching(/: Measure the battery, rested\.$/) });
    const lane = floor.lanes.find((l) => l.case?.id === id)!;
    expect(lane).toMatchObject({ bay: 'Bay 2', attention: 'due' });
    expect(lane.spans.map((s) => s.kind)).toEqual(['hands', 'wait', 'hands', 'wait', 'hands', 'wait', 'hands', 'wait', 'hands', 'hands']);
    expect(lane.spans.filter((s) => s.kind === 'wait').map((s) => Math.round((s.until - s.from) / 1000))).toEqual([60, 555, 555, 555]);
  });
});

test('every act is in the audit with person and case', async () => {
  const id = await open();
  const lines = await db().select().from(audit).where(eq(audit.caseId, id));
  expect(lines).toMatchObject([{ action: 'case opened', by: 'im' }]);
  await recordAuthority(db(), act(), id, { kind: 'fleetOrder', note: '' });
  expect(await db().select().from(audit).where(eq(audit.caseId, id))).toMatchObject([{}, { action: 'authority recorded', by: 'im' }]);
});

test('a refused act leaves nothing behind', async () => {
  const before = (await db().select().from(command)).length;
  const id = await open();
  await refusal(recordEvidence(db(), services.documents, act(), id, { test: 'lamp', outcome: 'purple', key: 'A', note: '' }));
  expect((await db().select().from(command)).length).toBe(before + 1);
  expect(await db().select().from(evidence).where(eq(evidence.caseId, id))).toEqual([]);
  expect((await db().select().from(runEvent)).length).toBeGreaterThan(0);
});

test('who has not the right is refused', async () => {
  const id = await open();
  expect(await refusal(recordAuthority(db(), act(technician), id, { kind: 'other', note: 'known to the shop for years' }))).toMatchObject({
    status: 403,
  });
  expect(Object.keys(rights).filter((r) => may(technician, r as keyof typeof rights))).not.toEqual(
    expect.arrayContaining(['waivePrecondition', 'closeWithoutProof']),
  );
});

test('a document that changed under the same version stops the start', async () => {
  await db()
    .insert(document)
    .values({ kind: 'profile', id: 'tarn-old', version: 1, hash: 'x', origin: 'shop', body: {} as never, enteredAt: 0 });
  const shipped = services.library.documents.find((d) => d.id === 'tarn-gantry')!;
  expect(shipped.hash).toHaveLength(64);
  await db().execute(sql`alter table document disable trigger document_append_only`);
  await db().execute(sql`update document set hash = 'other' where id = 'tarn-gantry'`);
  await expect(enterContent(db(), join(root, 'content'), 0)).rejects.toThrow(
    new BrokenContent(
      'content/profiles/tarn-gantry.yaml: version: profile "tarn-gantry" version 5 was entered before with other content. Give the changed document version 6.',
    ),
  );
  await db().execute(sql`update document set hash = ${shipped.hash} where id = 'tarn-gantry'`);
  await db().execute(sql`alter table document enable trigger document_append_only`);
  await expect(enterContent(db(), join(root, 'content'), 0)).resolves.toBeDefined();
});

describe('the clock', () => {
  /** A machine moved by hand: wall clock, uptime and boot each by itself. */
  class TestMachine implements Machine {
    constructor(
      public wallMs: number,
      public upMs: number,
      public boot: string | null,
    ) {}
    wall = () => this.wallMs;
    uptime = () => (this.boot === null ? null : { bootId: this.boot, ms: this.upMs });
    pass(ms: number) {
      this.wallMs += ms;
      this.upMs += ms;
    }
  }
  let domain = 0;
  const name = () => `test-${(domain += 1)}`;

  test('goes on over a restart of the server, whatever the wall clock does', async () => {
    const id = name();
    const machine = new TestMachine(1_000_000, 5000, 'a');
    const before = await openClock(db(), id, false, machine);
    machine.pass(30_000);
    expect(before.now()).toBe(1_030_000);
    machine.wallMs -= 3_600_000;
    const after = await openClock(db(), id, false, machine);
    expect(after.read()).toEqual({ now: 1_030_000, rate: 1, wallSince: null });
    machine.wallMs += 7_200_000;
    machine.upMs += 1000;
    expect(after.now()).toBe(1_031_000);
  });

  test('after a reboot the wall clock counts, and the reading says since when', async () => {
    const id = name();
    const machine = new TestMachine(1_000_000, 5000, 'a');
    await openClock(db(), id, false, machine);
    const rebooted = new TestMachine(1_600_000, 100, 'b');
    expect((await openClock(db(), id, false, rebooted)).read()).toEqual({ now: 1_600_000, rate: 1, wallSince: 1_000_000 });
  });

  test('never runs backwards when the wall clock was set back over a reboot', async () => {
    const id = name();
    await openClock(db(), id, false, new TestMachine(1_000_000, 5000, 'a'));
    expect((await openClock(db(), id, false, new TestMachine(400_000, 100, 'b'))).now()).toBe(1_000_000);
  });

  test('a manual clock stands still, is moved, and is found where it was', async () => {
    const id = name();
    const machine = new TestMachine(1_000_000, 5000, 'a');
    const clock: Clock = await openClock(db(), id, true, machine);
    machine.pass(60_000);
    expect(clock.read()).toEqual({ now: 1_000_000, rate: 0, wallSince: null });
    await clock.advance(9000);
    expect((await openClock(db(), id, true, machine)).now()).toBe(1_009_000);
    const real = await openClock(db(), name(), false, machine);
    await expect(real.advance(1)).rejects.toThrow('Only a manual clock can be advanced');
    expect(await db().select().from(clockDomain).where(eq(clockDomain.id, id))).toMatchObject([{ anchorClock: 1_009_000, rate: 0 }]);
  });
});

describe('forms', () => {
  const problems = (form: Record<string, unknown>) => {
    try {
      parseNewCase({ vehicle: 'x', words: 'y', system: 'family:transponder-dwell', ...form });
    } catch (error) {
      return (error as Refused).problems.map((p) => `${p.path}: ${p.message}`);
    }
    return [];
  };
  test.each<[string, Record<string, unknown>, string[]]>([
    ['nothing wrong', {}, []],
    ['no authority seen yet', { authority: [] }, []],
    ['no words', { words: '  ' }, ['words: Nothing is written here. Write something.']],
    ['the longest words', { words: 'x'.repeat(2000) }, []],
    ['longer words', { words: 'x'.repeat(2001) }, ['words: 2001 characters is too long. Write at most 2000.']],
    ['the earliest year', { year: '1950' }, []],
    ['an earlier year', { year: '1949' }, ['year: You typed 1949. Use 1950 to 2100.']],
    ['a year in letters', { year: 'old' }, ['year: You typed "old". Type a whole number, such as 12.']],
    ['an empty year', { year: '' }, []],
    [
      'a number with I, O or Q',
      { identification: '00BTG5R36GWOO4182' },
      ['identification: You typed "00BTG5R36GWOO4182". Write 5 to 17 letters and digits, without I, O and Q, as on the vehicle.'],
    ],
    [
      'an unknown choice',
      { changed: [{ what: 'weather' }] },
      [expect.stringMatching(/^changed\[0\]\.what: You typed "weather"\. Use one of: ecm, /) as unknown as string],
    ],
    [
      'a tag of no form',
      { keys: [{ tag: '1A', here: 'on' }] },
      ['keys[0].tag: You typed "1A". Write a short tag: a letter, then up to two letters or digits.'],
    ],
    ['a tag twice', { keys: [{ tag: 'a' }, { tag: 'A' }] }, ['keys[1]: This entry appears twice. Give each its own.']],
    ['thirteen keys', { keys: Array.from({ length: 13 }, (_, i) => ({ tag: `A${i}` })) }, ['keys: Too many entries. Give at most 12.']],
    ['a field nobody knows', { owner: 'me' }, ['owner: "owner" is not a field that is known here. Remove it or correct its name.']],
    ['a list where a text is meant', { vehicle: ['a', 'b'] }, ['vehicle: vehicle must be a string. You typed ["a","b"].']],
  ])('%s', (_what, form, expected) => expect(problems(form)).toEqual(expected));

  test('names with points become lists and objects, repeated names lists', () => {
    const form = new FormData();
    for (const [k, v] of [
      ['keys.1.tag', 'B'],
      ['keys.0.tag', 'A'],
      ['keys.0.here', 'on'],
      ['changed', 'x'],
      ['changed', 'y'],
      ['results.A.turns', 'yes'],
    ] as const)
      form.append(k, v);
    const fields = fieldsOf(form);
    expect(fields).toEqual({ keys: [{ tag: 'A', here: 'on' }, { tag: 'B' }], changed: ['x', 'y'], results: { A: { turns: 'yes' } } });
  });
  test.each(['__proto__.polluted', 'keys.0.constructor', 'a.__proto__.__proto__.polluted', 'prototype', 'a.b.c.d.e', 'keys.0'])(
    'the name %s is refused',
    (name) => {
      const form = new FormData();
      form.append('keys.0.tag', 'A');
      form.append(name, 'yes');
      expect(() => fieldsOf(form)).toThrow('This form was not filled in on its own page.');
      expect(({} as { polluted?: string }).polluted).toBeUndefined();
    },
  );
  test('more fields than a form has, or a file, are refused', () => {
    const many = new FormData();
    for (let i = 0; i < 401; i += 1) many.append(`f${i}`, '');
    expect(() => fieldsOf(many)).toThrow('This form was not filled in on its own page.');
    const file = new FormData();
    file.append('words', new Blob(['x']), '../../etc/passwd');
    expect(() => fieldsOf(file)).toThrow(Refused);
  });
  test.each([
    ['1', 1],
    ['0417', undefined],
    ['999999999', 999999999],
    ['1000000000', undefined],
    ['-1', undefined],
    ['1e3', undefined],
    ['', undefined],
    [undefined, undefined],
  ])('%j as a record’s id is %j', (text, id) => expect(parseRecordId(text)).toBe(id));
});
