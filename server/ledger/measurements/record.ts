import { randomUUID } from 'node:crypto';
import type { Ladder, Meter } from '../../../core/ladder';
import { type Layout, slotNumbers } from '../../../core/memory';
import { type Family, type InstrumentKind, resolveParams, type TestDefinition } from '../../../core/library';
import { paramsAt } from '../../../core/procedure';
import { type CaseRecord, openCaseForChange } from '../../record/cases';
import { type Act, actOnce, doneAt } from '../../acts/commands';
import type { Reader } from '../../db/open';
import { measurement } from '../../db/schema';
import type { Documents } from '../../library/documents';
import { refused } from '../../base/expected';
import { ladderNamed } from '../../library/ladders';
import { layoutNamed } from '../../library/layouts';
import { append, checkEvidence } from '../ledger';
import { notify } from '../../acts/live';
import { meterNamed } from '../../shop/meters';
import { caseNumbers } from '../numbers';
import type { Services } from '../../services/services';
import { assessMeasurement } from './assess';
import { baselinesOf } from './baselines';
import type { NewMeasurement } from './form';
import type { Kept } from '../../record/measured';

/** What a measurement came to. */
export interface MeasurementRead {
  say: string;
  /** Titles of the tests that it answered in the ledger. */
  answered: string[];
  simulated: boolean;
}

/** Tests of a family that an instrument answers. */
export const testsOf = (family: Pick<Family, 'tests'>, kind: InstrumentKind): TestDefinition[] =>
  family.tests.filter((t) => t.instrument?.kind === kind);

/** Number of looks below which a family's test takes "always" and "never" for no answer. */
export const looksNeeded = (family: Pick<Family, 'tests'>): number => testsOf(family, 'trials')[0]?.instrument?.atLeast ?? 1;

/** What good contacts and wires of this vehicle add at most, where its family says it. */
export async function contactOhmsOf(
  db: Reader,
  documents: Documents,
  record: Pick<CaseRecord, 'id' | 'family' | 'profile'>,
): Promise<number | undefined> {
  const family = await documents.family(record.family, db);
  const profile = record.profile ? await documents.profile(record.profile, db) : undefined;
  const value = paramsAt(resolveParams(family, profile), await caseNumbers(db, record.id)).contactOhms?.value;
  return typeof value === 'number' ? value : undefined;
}

/** Keeps a measurement with all its readings, and writes what it answers into the ledger of the case. */
export async function recordMeasurement(services: Services, act: Act, form: NewMeasurement): Promise<MeasurementRead> {
  const { documents } = services;
  const what = { right: 'recordEvidence', action: 'measured', payload: form, caseId: form.case, detail: { instrument: form.kind } } as const;
  // Before the act: what is kept of the library is read over a connection of its own.
  const layout = form.kind === 'slots' ? await layoutNamed(services, form.layout) : undefined;
  return actOnce(services.database.db, act, what, async (tx) => {
    const record = await openCaseForChange(tx, form.case);
    const family = await documents.family(record.family, tx);
    if (form.key !== undefined && !record.keys.some((k) => k.present && k.tag === form.key))
      throw refused(400, 'keyMissing', `Tag ${form.key} is not here. Choose a key of the case.`, 'key');
    const ladder = 'ladder' in form && form.ladder !== undefined ? await ladderNamed(tx, form.ladder) : undefined;
    const meter = 'meter' in form && form.meter ? await meterNamed(tx, form.meter) : undefined;
    checkAgainst(form, ladder?.ladder, layout, record);
    const kept = {
      ...form.raw,
      ...(ladder ? { ladder: ladder.pin } : {}),
      ...(layout ? { layout: { id: layout.id, version: layout.version, title: layout.title } } : {}),
      ...(form.kind === 'bursts' ? { against: form.raw.condition === 'asked' ? await baselinesOf(tx, record, form.raw, form.simulated) : [] } : {}),
      ...(meter ? { meter: { name: meter.name, ranges: meter.ranges } satisfies Meter } : {}),
    } as Kept;
    const read = assessMeasurement(
      form.kind,
      kept,
      ladder?.ladder,
      await contactOhmsOf(tx, documents, record),
      looksNeeded(family),
      form.key ?? null,
    );
    const id = randomUUID();
    const simulated = form.simulated || (meter?.simulated ?? false);
    await tx.insert(measurement).values({
      id,
      caseId: record.id,
      keyTag: form.key ?? null,
      kind: form.kind,
      raw: kept,
      verdict: read.say,
      steps: read.steps ?? null,
      simulated,
      by: act.actor.id,
      at: doneAt(act),
    });
    const answered: string[] = [];
    // What no vehicle was measured for says nothing of a vehicle.
    for (const { instrument, verdict } of simulated ? [] : read.verdicts)
      for (const test of testsOf(family, instrument)) {
        const outcome = test.instrument!.as[verdict];
        if (outcome === undefined || (test.perKey && form.key === undefined)) continue;
        const key = test.perKey ? form.key : undefined;
        checkEvidence(record, family, { test: test.id, outcome, note: '', ...(key === undefined ? {} : { key }) });
        const note = read.say.slice(0, 500);
        await append(tx, record.id, [
          {
            caseId: record.id,
            test: test.id,
            outcome,
            keyTag: key ?? null,
            note,
            replaces: null,
            measurementId: id,
            familyHash: record.family.hash,
            by: act.actor.id,
            occurredAt: doneAt(act),
            receivedAt: act.now,
          },
        ]);
        answered.push(test.title);
      }
    await notify(tx, { what: 'case', id: record.id });
    return { say: read.say, answered, simulated };
  });
}

/** @throws Refused for what the ladder or the case does not have */
function checkAgainst(form: NewMeasurement, ladder: Ladder | undefined, layout: Layout | undefined, record: CaseRecord): void {
  if (form.kind === 'pellet') {
    const steps = ladder!.steps.map((s) => s.step);
    const strange = form.raw.vehicleSteps.find((s) => !steps.includes(s));
    if (strange !== undefined)
      throw refused(400, 'unknownStep', `The value chart has no value ${strange}. It has ${steps.join(', ')}.`, 'raw.vehicleSteps');
    if (form.raw.vehicleSteps.length > 0 && form.raw.vehicleSteps.length !== ladder!.pellets)
      throw refused(
        400,
        'unknownStep',
        `A key of this value chart has ${ladder!.pellets === 1 ? 'one value' : 'two values'}. Give as many.`,
        'raw.vehicleSteps',
      );
    if (form.raw.groups.some((g) => g.side > ladder!.pellets))
      throw refused(400, 'noSide', 'A key of this value chart has one resistor chip. Measure it in both directions.', 'raw.groups');
  }
  if (form.kind === 'slots') {
    const { slots, inHand, written } = form.raw;
    const numbers = slotNumbers(layout!);
    const strange = [...slots, ...(written ? [written] : [])].find((s) => !numbers.includes(s.slot));
    if (strange || new Set(slots.map((s) => s.slot)).size !== slots.length)
      throw refused(400, 'slot', `“${layout!.title}” has slots ${numbers[0]} to ${numbers.at(-1)}, each once. Read the memory again.`, 'raw.slots');
    const unknown = inHand.find((k) => !record.keys.some((own) => own.present && own.tag === k.tag));
    if (unknown) throw refused(400, 'keyMissing', `Tag ${unknown.tag} is not here. Choose a key of the case.`, 'raw.inHand');
  }
  if (form.kind === 'trials') {
    const tags = record.keys.map((k) => k.tag);
    const strange = form.raw.looks.find((l) => l.key !== null && !tags.includes(l.key));
    if (strange)
      throw refused(400, 'keyMissing', `Tag ${strange.key} does not belong to the case. It has ${tags.join(', ') || 'no key'}.`, 'raw.looks');
  }
}
