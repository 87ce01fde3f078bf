import { featuresOf } from '../../../core/burst';
import { may, type Person } from '../../../server/acts/rights';
import { capturesOf, capturesOfModel, type KeptCapture, shopTheory } from '../../../server/ledger/measurements/baselines';
import { testsOf } from '../../../server/ledger/measurements/record';
import type { Services } from '../../../server/services/services';
import { benchCase } from '../benchCase.server';

/** What the page of field and answer needs: the case with its keys, the captures of this vehicle, and what the shop has seen of the theory. */
export async function burstsPage(services: Services, person: Person | null, query: { caseId: number | undefined; key: string }) {
  const { db } = services.database;
  const { record, cases, keys } = await benchCase(services, query.caseId);
  const family = record ? await services.documents.family(record.family) : undefined;
  const [captures, ofModel, theory] = await Promise.all([
    record ? capturesOf(db, record) : [],
    record ? capturesOfModel(db, record) : [],
    shopTheory(db),
  ]);
  const field = family ? testsOf(family, 'trials')[0] : undefined;
  return {
    cases,
    keys,
    chosen: record ? { id: record.id, number: record.number, vehicle: record.vehicle } : null,
    key: keys.includes(query.key) ? query.key : null,
    maySeal: person !== null && may(person, 'sealSecrets'),
    authority: (record?.authority.length ?? 0) > 0,
    /** The family's test of the field, and whether it has one of bursts. */
    field: field ? { title: field.title, do: field.do, hit: field.instrument!.hit!, atLeast: field.instrument!.atLeast! } : null,
    hasTest: family ? testsOf(family, 'bursts').length > 0 : false,
    theory,
    captures: captures.map(shownOf),
    /** Of other vehicles of its model whose condition is known. */
    ofModel: ofModel.filter((c) => c.condition !== 'asked').map(shownOf),
  };
}

const shownOf = ({ id, condition, key, simulated, ofModel, at, raw }: KeptCapture) => ({
  id,
  condition,
  key,
  simulated,
  ofModel,
  at,
  name: raw.name,
  probe: raw.probe,
  place: raw.place,
  storedKeys: raw.storedKeys,
  features: featuresOf(raw),
});

export type BurstsPage = Awaited<ReturnType<typeof burstsPage>>;
