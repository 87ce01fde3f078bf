import { Harness, lead, technician } from '../services/harness.testing';
import { listCases } from './caseList';
import { closeNotDone, parkCase } from './closing';
import { recordRepairAction, recordEvidence } from '../ledger/ledger';
import { startRun } from '../runs/runs';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const row = async (id: number) => {
  const { rows } = await listCases(harness.db, { states: ['open', 'parked', 'closed'], text: '', sort: 'newest' });
  const { stage, running, by, family, state } = rows.find((r) => r.id === id)!;
  return { stage, running, by, family, state };
};
const authority = { authority: [{ kind: 'registration', note: '' }] };

test('how far a case has come: taken in, testing, repair, handed over; and who had it last', async () => {
  const { db, services } = harness;
  const id = await harness.openCase(authority, harness.act(lead));
  expect(await row(id)).toEqual({ stage: 'takenIn', running: false, by: lead.name, family: 'transponder-dwell', state: 'open' });
  await recordEvidence(db, services.documents, harness.act(technician), id, { test: 'lamp', outcome: 'refused', key: 'A', note: '' });
  expect(await row(id)).toMatchObject({ stage: 'testing', running: false, by: technician.name });
  await recordRepairAction(db, services.documents, harness.act(lead), id, { kind: 'repair', fault: 'coverNear', result: 'fails', note: '' });
  expect(await row(id)).toMatchObject({ stage: 'repair', running: false, by: lead.name });
  await closeNotDone(db, harness.act(lead), id, { reason: 'The customer sells it.', returned: [] });
  expect(await row(id)).toMatchObject({ stage: 'handedOver', state: 'closed' });
});

test('a procedure under way is one, whatever was recorded before; a parked case keeps its stage', async () => {
  const { db, services } = harness;
  const id = await harness.openCase(authority, harness.act(lead));
  await startRun(db, services.documents, services.library, harness.act(), id, 'relearn-ignition-on');
  expect(await row(id)).toMatchObject({ stage: 'repair', running: true });
  const waits = await harness.openCase(authority, harness.act(lead));
  await parkCase(db, harness.act(lead), waits, 'Waits for a key.');
  expect(await row(waits)).toMatchObject({ stage: 'takenIn', state: 'parked' });
});
