// Fills the folder of a stopped demo server with generated closed and parked cases, for the benchmark: `node --import tsx scripts/manyCases.ts
// FOLDER COUNT`. The same count gives the same cases.
import { sql } from 'drizzle-orm';
import { openDatabase } from '../server/db/open';
import { searchWords } from '../server/record/search';

const [folder = '', count = '0'] = process.argv.slice(2);
const atOnce = 2000;

/** mulberry32, a small generator with a 32-bit state (T. Ettinger, public domain): enough for made-up cases. */
function generator(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * below);
  };
}
const next = generator(20261125);
const one = <T>(list: readonly T[]): T => list[next(list.length)]!;
const letters = (n: number, of: string) => Array.from({ length: n }, () => of[next(of.length)]).join('');

const vehicles = ['Tarn Gantry pickup', 'Tarn Sluice wagon', 'Orrin Thimble', 'Veskar Almanac', 'Mirrow Pipit', 'Calder Parcel van', 'Dunmore Crag'];
const colours = ['grey', 'blue', 'ochre', 'red', 'white', 'black', 'green', 'sand'];
const starts = ['Refused', 'Dead', 'Cranks and does not fire', 'Starts and dies', 'Lamp flashes', 'Dash is dark'];
const after = ['since Sunday', 'after a jump start', 'since the key fell', 'after the rain', 'with a new cover', 'since the module was swapped'];
const places = ['at the harbour', 'at home', 'in the yard', 'on the ferry', 'behind the mill', 'at the fair'];

const database = await openDatabase({ folder, migrations: 'server/db/migrations' });
const { db } = database;
const begun = 1_600_000_000_000;
for (let from = 0; from < Number(count); from += atOnce) {
  const rows = Array.from({ length: Math.min(atOnce, Number(count) - from) }, (_, i) => {
    const made = {
      number: String(1000 + from + i),
      vehicle: `${one(vehicles)}, ${one(colours)}`,
      plate: `${1 + next(9)}-${letters(2, '0123456789')}-${letters(3, 'ABCDEFGHJKLMNPRSTUVWXYZ')}`,
      identification: `00B${letters(14, '0123456789ABCDEFGHJKLMNPRSTUVWXYZ')}`,
      words: `${one(starts)} ${one(after)} ${one(places)}.`,
      customer: '',
      phone: '',
      keys: ['A'],
    };
    return {
      ...made,
      id: 1000 + from + i,
      state: next(200) === 0 ? 'parked' : 'closed',
      opened: begun + (from + i) * 3_600_000,
      search: searchWords(made).join(' '),
    };
  });
  await db.execute(sql`
    insert into case_file (id, domain, kind, state, vehicle, identification, plate, words, changed, symptoms, family_id, family_version, family_hash, opened_at, opened_by, closed_at, closed_by, outcome, closing, search)
    select r.id, c.domain, 'vehicle', r.state, r.vehicle, r.identification, r.plate, r.words, '[]', '[]', c.family_id, c.family_version, c.family_hash,
      r.opened, c.opened_by,
      case when r.state = 'closed' then r.opened + 7200000 end, case when r.state = 'closed' then c.opened_by end,
      case when r.state = 'closed' then 'Found and mended.' end, case when r.state = 'closed' then 'done' end,
      array_to_tsvector(string_to_array(r.search, ' '))
    from (select * from case_file order by id limit 1) c,
      json_to_recordset(${JSON.stringify(rows)}::json) as r(id int, state text, vehicle text, identification text, plate text, words text, opened bigint, search text)`);
}
// A lesson for each closed one; one in a thousand missed its cause, one in five thousand was left out.
await db.execute(sql`
  insert into lesson (case_id, family_id, lesson, missed, left_out)
  select id, family_id, json_build_object('v', 1, 'cause', 'coverNear', 'line', 'tarn gantry', 'tests', '[]'::json, 'fixes', '[]'::json, 'said', null,
    'missed', id % 1000 = 0, 'options', '[]'::json, 'stayed', null), id % 1000 = 0, case when id % 5000 = 1 then 'generated' end
  from case_file where id >= 1000 and state = 'closed' and closing = 'done'`);
await db.execute(sql`
  insert into tally (family_id, tallies)
  select family_id, json_build_object('v', 1, 'causes', json_build_object('coverNear', count(*)), 'lines', '{}'::json, 'tests', '{}'::json, 'fixes', '{}'::json,
    'said', (select json_agg(json_build_object('n', 100, 'right', 50)) from generate_series(1, 10)), 'missed', 0, 'options', '{}'::json, 'asked', 0, 'stayed', 0)
  from lesson group by family_id
  on conflict (family_id) do update set tallies = excluded.tallies`);
await db.execute(sql`analyze case_file`);
await db.execute(sql`analyze lesson`);
await database.close();
