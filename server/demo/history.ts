import { randomUUID } from 'node:crypto';
import { otherShop, type PastCase, pastCases } from '../../core/learning';
import { resolveParams, valuesOf } from '../../core/library';
import { generator } from '../../core/units';
import type { Tx } from '../db/open';
import { caseFile, caseKey, evidence, identification, stateChange } from '../db/schema';
import { learnFrom } from '../learning/lessons';
import { firstGenerated, generatedSay } from '../learning/view';
import { loadCase, refreshCaseSearch } from '../record/cases';
import { readExperience } from '../record/experience';
import { freeKeyCode } from '../cases/openCase';
import type { Services } from '../services/services';
import { demoPerson } from './demoPeople';

/** The demo shop's past: closed cases of two years from a fixed seed, made by the same simulation that tests the diagnosis. Each says that it was generated. */
const seed = 20241130;
export const historyCases = 300;
const years = 2 * 365 * 24 * 60 * 60_000;

/** Vehicles of the demo world by system type; a type that is not here has a plain one. */
const vehicles: Readonly<Record<string, readonly string[]>> = {
  'transponder-dwell': ['Tarn Gantry pickup', 'Tarn Sluice wagon', 'Calder Parcel van'],
  pellet: ['Veskar Ledger sedan'],
  'master-user': ['Mirrow Pipit scooter'],
  ring: ['Orrin Thimble', 'Veskar Almanac'],
};
const plain = ['Orrin Cupboard', 'Dunmore Crag', 'Veskar Almanac', 'Calder Parcel van'];

/** Adds the history to a database of the demo, oldest first, so that each case begins with what those before it taught. */
export async function seedHistory(services: Services, count = historyCases): Promise<void> {
  const { library, database } = services;
  const draw = generator(seed);
  const families = [...library.families.values()].filter((f) => f.faults?.length);
  // Some system types come far more often than others.
  const shares = families.map(() => 0.3 + draw() ** 3 * 4);
  const total = shares.reduce((a, b) => a + b, 0);
  const now = services.clock.now();
  const made = families.flatMap((family, i) => {
    const params = valuesOf(resolveParams(family));
    const own = Math.round((shares[i]! / total) * count * 1.15) + 1;
    return pastCases(family, otherShop(family, seed + i), params, own, seed + i).map((past) => ({
      family,
      past,
      at: now - Math.round(years * draw()) - 30 * 60 * 60_000,
    }));
  });
  const chosen = made
    .sort((a, b) => a.at - b.at)
    .filter((_, i, all) => Math.floor(((i + 1) * count) / all.length) > Math.floor((i * count) / all.length));
  for (const [i, { family, past, at }] of chosen.entries()) {
    const pin = library.documents.find((d) => d.kind === 'family' && d.id === family.id)!;
    const names = vehicles[family.id] ?? plain;
    const vehicle = `${names[Math.floor(draw() * names.length)]!}, generated`;
    await database.db.transaction((tx) => enter(tx, services, { id: firstGenerated + i, vehicle, at, past, pin }));
  }
}

async function enter(
  tx: Tx,
  { documents }: Services,
  { id, vehicle, at, past, pin }: { id: number; vehicle: string; at: number; past: PastCase; pin: { id: string; version: number; hash: string } },
): Promise<void> {
  const by = demoPerson('technician').id;
  const took = past.findings.reduce((n, f) => n + f.tenths, 0) * 6000;
  const closedAt = at + took + 20 * 60_000;
  await tx.insert(caseFile).values({
    id,
    domain: 'shop',
    kind: 'vehicle',
    state: 'closed',
    vehicle,
    identification: '',
    plate: '',
    words: generatedSay,
    changed: [],
    symptoms: [],
    familyId: pin.id,
    familyVersion: pin.version,
    familyHash: pin.hash,
    openedAt: at,
    openedBy: by,
    closedAt,
    closedBy: by,
    outcome: generatedSay,
    closing: 'done',
    conclusion: 'proven',
    conclusionFault: past.fault,
  });
  for (const tag of ['A', 'B'])
    await tx.insert(caseKey).values({ caseId: id, tag, code: await freeKeyCode(tx), role: 'unknown', note: '', present: true });
  const start = await readExperience(tx, pin.id, vehicle);
  await tx.insert(identification).values({ caseId: id, seen: {}, family: pin, profile: null, carried: [], ...start, by, at });
  let moment = at;
  await tx.insert(evidence).values(
    past.findings.map((f, i) => {
      moment += f.tenths * 6000;
      return {
        id: randomUUID(),
        caseId: id,
        seq: i + 1,
        kind: 'test' in f ? ('test' as const) : ('repair' as const),
        test: 'test' in f ? f.test : f.repair,
        outcome: 'test' in f ? f.outcome : f.worked ? 'works' : 'fails',
        keyTag: f.key ?? null,
        note: '',
        minutes: f.tenths / 10,
        familyHash: pin.hash,
        by,
        occurredAt: moment,
        receivedAt: moment,
      };
    }),
  );
  await tx.insert(stateChange).values({ caseId: id, state: 'closed', reason: generatedSay, by, at: closedAt });
  await refreshCaseSearch(tx, id);
  await learnFrom(tx, documents, (await loadCase(tx, id))!);
}
