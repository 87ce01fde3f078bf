import { parsePrices, savePrices } from '../shop/prices';
import { closeCase } from '../cases/closing';
import { demoPerson, enterDemoPeople } from './demoPeople';
import { parseDrawer, saveDrawer } from '../shop/drawer';
import { parseNewCase } from '../cases/forms';
import { createCase } from '../cases/openCase';
import { parseScan, recordScan } from '../cases/scans';
import { createProfile, saveProfile } from '../library/profiles';
import { insertBays, listBays, writeShop } from '../shop/shop';
import { recordVerification } from '../cases/verification';
import { answersOf, type CommandBody, leafAt, present, waitTimes } from '../../core/procedure';
import { valuesOf } from '../../core/library';
import { usUnits } from '../../core/units';
import { saveCall } from '../calls/calls';
import { parseCall } from '../calls/forms';
import type { RunCommand } from '../runs/forms';
import { recordRepairAction, recordEvidence } from '../ledger/ledger';
import { parseMeasurement } from '../ledger/measurements/form';
import { recordMeasurement } from '../ledger/measurements/record';
import { commandRun, foldRun, loadRun, programOf, startRun } from '../runs/runs';
import type { Services } from '../services/services';

/** Minutes before the demo starts, as milliseconds of the clock. */
const minute = 60_000;

/** Puts the demo world into an empty database: through the same functions as a person's acts, with moments in the past. */
export async function seedDemo(services: Services): Promise<void> {
  const seed = new Seeder(services);
  const start = services.clock.now();
  await seed.shop(start);
  await seed.shopProfile(start);
  await seed.drawer(start);
  await seed.closedCases(start);
  await seed.readyToHandOver(start);
  await seed.inSecondDwell(start);
  await seed.triage(start);
  await seed.waitsForAuthority(start);
  await seed.intakeJustStarted(start);
  await seed.pelletKey(start);
  await seed.call(start);
}

class Seeder {
  #count = 0;
  readonly #judged = ['turns', 'doors', 'remote', 'accepted', 'cranks', 'runs'];
  #bays = new Map<string, string>();
  constructor(private readonly services: Services) {}

  /** Shop, bays and people, before there is any case. */
  async shop(start: number) {
    const { database, secretCost } = this.services;
    const { db } = database;
    await enterDemoPeople(db, start, secretCost);
    await db.transaction(async (tx) => {
      await writeShop(tx, {
        name: 'Saltmarsh Auto Electric',
        address: '4 Curlew Lane, Wexmoor',
        phone: '555 0140',
        currency: 'cr',
        labourRate: 84,
        equipment: ['meter', 'keyReader', 'scanner', 'coilDetector', 'stableSupply', 'solderingStation'],
        units: usUnits,
      });
      await insertBays(tx, ['Bay 1', 'Bay 2', 'Bay 3', 'Bay 4', 'Van']);
    });
    const items =
      'kind,code,title,minutes,price\nlabor,learn-key,Learn a key,20,\nlabor,timed-relearn,Timed relearn without a scan tool,45,\nlabor,cut-key,Cut a key by code,,30.00\npart,key-blank,Key with a blank chip,,62.50\npart,key-battery,Key battery,,4.20\noutside,bench-read,Module read on the bench,,180.00';
    const prices = {
      basedOn: 0,
      decimals: 2,
      rate: '84.00',
      stepMin: 6,
      leastMin: 30,
      callOut: '65.00',
      leastBill: '0',
      tax: '8.25',
      taxName: 'Sales tax',
      items,
    };
    await savePrices(db, { ...(await this.act(start - 30_000 * minute)), actor: demoPerson('owner') }, parsePrices(prices));
    for (const { id, name } of await listBays(db)) this.#bays.set(name.toLowerCase().replace(' ', '-'), id);
  }

  /** A vehicle that the shop works on again and again: made from its family, looked up in two goes. */
  async shopProfile(start: number) {
    const { database, library } = this.services;
    const { db } = database;
    const title = 'Calder Parcel van, 2012 to 2016';
    const { id } = await createProfile(db, library, await this.act(start - 9000 * minute), { title, from: 'family:transponder-dwell' });
    const source = 'Calder repair folder 12 (invented)';
    const first = { dwell: { value: '605', source: 'folder 12, page 8' }, offMin: { value: '9', source: 'folder 12, page 8' } };
    await saveProfile(db, library, await this.act(start - 8900 * minute), id, {
      from: 1,
      title,
      source,
      values: first,
      seen: {},
      ladder: '',
      check: false,
    });
    const second = { ...first, offMin: { value: '11', source: 'folder 12, supplement 2' }, swapMax: { value: '16', source: 'folder 12, page 9' } };
    await saveProfile(db, library, await this.act(start - 3000 * minute), id, {
      from: 2,
      title,
      source,
      values: second,
      seen: { vehicle: 'car', keyKind: 'chipHead', mark: 'notch' },
      ladder: '',
      check: true,
    });
  }

  /** What the shop has at hand to build a step from. */
  async drawer(start: number) {
    const kinds = [100, 150, 220, 330, 390, 470, 560, 680, 820, 1000, 1200, 1500, 1800, 2200, 2700, 3300, 3900, 4700, 5600, 6800];
    const resistors = ['ohms,tolerance_percent,count,watts', ...kinds.map((ohms, i) => `${ohms},1,${2 + (i % 3)},0.25`)].join('\n');
    await saveDrawer(this.services.database.db, await this.act(start - 8000 * minute), parseDrawer({ resistors, senseVolts: 5 }));
  }

  private async act(now: number) {
    this.#count += 1;
    return { id: `demo-${String(this.#count).padStart(6, '0')}`, actor: demoPerson('lead'), now: Math.round(now) };
  }

  private async open(now: number, form: Record<string, unknown>): Promise<number> {
    const { database, library } = this.services;
    const bay = this.#bays.get(String(form.bay)) ?? '';
    return (await createCase(database.db, library, await this.act(now), parseNewCase({ ...form, bay }))).id;
  }

  private async saw(caseId: number, now: number, test: string, outcome: string, key?: string) {
    await recordEvidence(this.services.database.db, this.services.documents, await this.act(now), caseId, {
      test,
      outcome,
      note: '',
      ...(key ? { key } : {}),
    });
  }

  /** Begins the relearn and answers its steps with the good answers, until `stopAt` says that it is far enough. */
  private async relearn(caseId: number, from: number, stopAt: (step: string, counters: Record<string, number>) => boolean): Promise<number> {
    const { database, documents, library } = this.services;
    const { db } = database;
    const { id } = await startRun(db, documents, library, await this.act(from), caseId, 'relearn-ignition-on');
    let now = from;
    const good: Record<string, { answer: string; value?: number; after: number }> = {
      rested: { answer: 'measured', value: 12.62, after: 40 },
      loaded: { answer: 'measured', value: 12.24, after: 20 },
      origin: { answer: 'new', after: 6 },
      lit: { answer: 'lit', after: 4 },
      dwell: { answer: 'lampOut', after: 9 },
      start: { answer: 'runs', after: 12 },
      taken: { answer: 'out', after: 6 },
    };
    for (;;) {
      const current = (await loadRun(db, documents, id))!;
      const state = foldRun(current);
      if (state.status !== 'running') return now;
      const program = programOf(current.procedure);
      const values = valuesOf(current.params);
      const { step } = leafAt(program, state.step);
      if ('wait' in step) {
        if (stopAt(state.step, state.counters)) return now;
        now = Math.max(now, waitTimes(step, state, values).minAt);
      }
      const here = present(program, values, state, now).state;
      const leaf = leafAt(program, here.step).step;
      const given = good[leaf.id] ?? { answer: Object.keys(answersOf(leaf))[0]!, after: 5 };
      now += given.after * 1000;
      const body: CommandBody = { type: 'answer', step: leaf.id, answer: given.answer, ...(given.value === undefined ? {} : { value: given.value }) };
      const act = await this.act(now);
      await commandRun(db, documents, act, id, { ...body, id: act.id, expectedSeq: state.seq, occurredAt: now } as RunCommand);
    }
  }

  private async verifyAll(caseId: number, now: number, tags: string[], odd: Record<string, string> = {}) {
    const results = Object.fromEntries(tags.map((t) => [t, Object.fromEntries(this.#judged.map((a) => [a, odd[`${t} ${a}`] ?? 'yes']))]));
    await recordVerification(this.services.database.db, await this.act(now), caseId, results);
  }

  async closedCases(start: number) {
    const { db } = this.services.database;
    const yesterday = start - 26 * 60 * minute;
    const van = await this.open(yesterday, {
      vehicle: 'Calder Parcel van, white',
      year: '2014',
      plate: '2-60-MVR',
      customer: 'Odalys Prenn',
      phone: '555-0143',
      words: 'After a jump start at the harbor it cranks and does not fire.',
      symptoms: ['cranksNoStart'],
      changed: [{ what: 'jumpStart', note: 'Saturday, by a neighbor' }],

      system: 'family:transponder-dwell',
      keys: [{ tag: 'A', role: 'main', note: 'worn head', here: 'on' }],
      authority: [{ kind: 'fleetOrder', note: 'order 88' }],
    });
    await this.saw(van, yesterday + 4 * minute, 'lamp', 'accepted', 'A');
    await this.saw(van, yesterday + 6 * minute, 'engine', 'cranks', 'A');
    await this.saw(van, yesterday + 20 * minute, 'interlockLook', 'fine');
    await recordRepairAction(db, this.services.documents, await this.act(yesterday + 65 * minute), van, {
      kind: 'repair',
      fault: 'fuelPump',
      result: 'works',
      note: 'fuse of the fuel pump replaced',
      minutes: 40,
    });
    await this.saw(van, yesterday + 70 * minute, 'engine', 'runs', 'A');
    await this.verifyAll(van, yesterday + 75 * minute, ['A'], { 'A remote': 'cannotJudge' });
    await closeCase(db, this.services.documents, await this.act(yesterday + 80 * minute), van, {
      returned: [],
      absentTold: false,
      outcome: 'Immobilizer accepted from the start. The jump start had blown the fuel pump fuse; fuse replaced, runs.',
      reason: '',
      conclusion: 'proven',
      fault: 'fuelPump',
    });
    const estate = await this.open(yesterday + 90 * minute, {
      vehicle: 'Tarn Sluice wagon, blue',
      plate: '7-31-QOD',
      words: 'Refused on and off since the key fell into the sink.',
      symptoms: ['intermittent'],
      changed: [{ what: 'keyDropped', note: '' }],
      system: 'profile:tarn-sluice',
      keys: [
        { tag: 'A', role: 'main', note: 'stamped notch', here: 'on' },
        { tag: 'B', role: 'user', note: '', here: 'on' },
      ],
    });
    await this.saw(estate, yesterday + 95 * minute, 'lamp', 'refused', 'A');
    await this.saw(estate, yesterday + 97 * minute, 'secondKey', 'accepted', 'B');
    await this.saw(estate, yesterday + 104 * minute, 'keyRead', 'silent', 'A');
    await closeCase(db, this.services.documents, await this.act(yesterday + 120 * minute), estate, {
      returned: [],
      absentTold: false,
      outcome: 'Chip of tag A is dead. Customer drives on with tag B and orders a new key.',
      reason: 'The dead key can’t be verified; the customer was told.',
      conclusion: 'likely',
      fault: 'chipDead',
    });
  }

  async readyToHandOver(start: number) {
    const from = start - 75 * minute;
    const id = await this.open(from, {
      vehicle: 'Tarn Gantry pickup, green',
      year: '2011',
      plate: '5-04-LUH',
      customer: 'Imre Valdane',
      phone: '555-0117',
      words: 'ECM was replaced last week. It starts and dies.',
      symptoms: ['startsAndDies'],
      changed: [{ what: 'ecm', note: 'new part, installed by us on Friday' }],

      system: 'profile:tarn-gantry',
      bay: 'van',
      keys: [
        { tag: 'A', role: 'main', note: 'ring stamped on the blade', here: 'on' },
        { tag: 'B', role: 'user', note: '', here: 'on' },
      ],
      authority: [{ kind: 'registration', note: 'papers and identity seen' }],
    });
    await this.saw(id, from + 3 * minute, 'lamp', 'accepted', 'A');
    const end = await this.relearn(id, from + 6 * minute, () => false);
    // The fix is confirmed after a rest of five minutes.
    await this.verifyAll(id, end + 6 * minute, ['A', 'B']);
  }

  async inSecondDwell(start: number) {
    const from = start - 26 * minute;
    const id = await this.open(from, {
      vehicle: 'Tarn Gantry pickup, gray',
      year: '2016',
      identification: '00BTG5R36GW004182',
      plate: '4-18-THB',
      customer: 'Saoirse Keld',
      phone: '555-0168',
      words: 'New ECM from the dealer, starts for a second and dies.',
      symptoms: ['startsAndDies'],
      changed: [{ what: 'ecm', note: 'yesterday, new part' }],

      system: 'profile:tarn-gantry',
      bay: 'bay-1',
      keys: [
        { tag: 'A', role: 'main', note: 'notch stamped on the head', here: 'on' },
        { tag: 'B', role: 'user', note: 'sister’s key', here: 'on' },
      ],
      authority: [{ kind: 'registration', note: 'papers and identity seen' }],
    });
    await this.saw(id, from + 2 * minute, 'lamp', 'accepted', 'A');
    // The relearn begins so that its second wait has a good five minutes left when the demo starts.
    const runStart = start - 18.36 * minute;
    await this.relearn(id, runStart, (step, counters) => step === 'dwell' && counters.rounds === 2);
  }

  async triage(start: number) {
    const from = start - 12 * minute;
    const id = await this.open(from, {
      vehicle: 'Orrin Thimble, red',
      year: '2018',
      plate: '1-77-KEO',
      customer: 'Bram Ostrander',
      words: 'Refused since Sunday. On Saturday a phone holder with a magnet was stuck beside the lock.',
      symptoms: ['noCrank'],
      changed: [{ what: 'cover', note: 'magnetic holder beside the lock, phone charging in it' }],

      system: 'family:transponder-dwell',
      seen: { service: 'transponder-dwell', keyKind: 'chipHead', entry: 'turn' },
      bay: 'bay-2',
      keys: [
        { tag: 'A', role: 'main', note: 'daily key', here: 'on' },
        { tag: 'B', role: 'user', note: 'son’s key', here: 'on' },
      ],
    });
    await this.saw(id, from + 4 * minute, 'battery', 'healthy');
    await this.saw(id, from + 6 * minute, 'lamp', 'refused', 'A');
    await this.saw(id, from + 8 * minute, 'secondKey', 'refused', 'B');
  }

  async waitsForAuthority(start: number) {
    const id = await this.open(start - 20 * minute, {
      vehicle: 'Veskar Almanac, black',
      plate: '6-92-UBI',
      customer: 'Wendeline Ruck',
      words: 'ECM swapped in another shop. Cranks, never fires.',
      symptoms: ['cranksNoStart'],
      changed: [{ what: 'ecm', note: 'used part from another vehicle' }],
      system: 'profile:tarn-sluice',
      bay: 'bay-3',
      keys: [
        { tag: 'A', role: 'main', note: '', here: 'on' },
        { tag: 'B', role: 'user', note: 'at home' },
      ],
    });
    await this.saw(id, start - 15 * minute, 'lamp', 'steady', 'A');
    const { database, documents, library } = this.services;
    // The other shop's scan: nobody asked the immobilizer.
    const text = 'ECM\nP0630 present\nP0601 stored\nP0351 stored\nBCM\nU0100-87 stored\nClimate\nU0140 stored';
    const scan = parseScan({ text, phase: 'before', coverage: { cluster: 'answered' }, note: 'made by the other shop' });
    await recordScan({ db: database.db, documents, library }, await this.act(start - 12 * minute), id, scan);
  }

  /** A resistor key on the bench: read in both orientations, not yet against the column. */
  async pelletKey(start: number) {
    const from = start - 34 * minute;
    const id = await this.open(from, {
      vehicle: 'Veskar Ledger sedan, silver',
      year: '2003',
      plate: '9-46-OTA',
      customer: 'Corvin Aldous',
      phone: '555-0152',
      words: 'Some mornings it flashes and does nothing. Waited, tried again, went.',
      symptoms: ['noCrank', 'intermittent'],
      system: 'profile:veskar-ledger',
      keys: [
        { tag: 'A', role: 'user', kind: 'pellet', note: 'worn blade', here: 'on' },
        { tag: 'B', role: 'user', kind: 'pellet', note: '', here: 'on' },
      ],
      authority: [{ kind: 'registration', note: 'papers and identity seen' }],
    });
    await this.saw(id, from + 5 * minute, 'battery', 'healthy');
    await this.saw(id, from + 8 * minute, 'lamp', 'refused', 'A');
    const form = parseMeasurement({
      kind: 'pellet',
      case: id,
      key: 'A',
      ladder: 'veskar-twelve',
      raw: {
        leadOhms: 0.4,
        temperatureC: null,
        groups: [
          { side: 1, turned: false, readings: [1391, 1388, 1384, 1379, 1386, 1383] },
          { side: 1, turned: true, readings: [1389, 1386, 1385, 1387, 1384] },
        ],
      },
    });
    await recordMeasurement(this.services, await this.act(from + 22 * minute), form);
  }

  /** A call of this morning, kept until the van is free. */
  async call(start: number) {
    const { database, library } = this.services;
    const form = parseCall({
      customer: 'Ottoline Vane',
      phone: '555-0137',
      vehicle: 'Mirrow Pipit scooter, blue',
      words: 'Fell over in the rain last night. The light counts and it does not start.',
      system: 'profile:mirrow-pipit',
      answers: { engine: 'turns', dash: 'usual', lamp: 'unknown', before: 'keyDropped', keys: 'some', where: 'safe' },
    });
    await saveCall(database.db, library, await this.act(start - 45 * minute), form);
  }

  async intakeJustStarted(start: number) {
    await this.open(start - 2 * minute, {
      vehicle: 'Calder Parcel van, yellow',
      plate: '3-25-ZAP',
      words: 'Dead in the morning. Nothing happens when the key is turned.',
      symptoms: ['noCrank'],
      system: 'family:transponder-dwell',
      bay: 'bay-4',
      keys: [{ tag: 'A', role: 'unknown', note: '', here: 'on' }],
    });
  }
}
