import { parseDrawerCsv, type Resistor } from '../../core/ladder';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader } from '../db/open';
import { drawer } from '../db/schema';
import { Refused } from '../base/expected';
import { notify } from '../acts/live';
import { needed, quantity, text } from '../base/field';
import { parseForm } from '../base/parseForm';

export interface Drawer {
  resistors: Resistor[];
  /** Across a key at the immobilizer's input, volts: what parts are checked against. */
  senseVolts: number;
}

/** What most immobilizers lay across a key at most; nobody has said it of this shop's vehicles yet. */
const usualVolts = 5;

export async function readDrawer(db: Reader): Promise<Drawer> {
  const [row] = await db.select().from(drawer);
  return row ? { resistors: row.resistors, senseVolts: row.senseVolts } : { resistors: [], senseVolts: usualVolts };
}

export const keptDrawer = ({ kept, database }: Keeping): Promise<Drawer> => kept.read('drawer', [drawer], () => readDrawer(database.db));

/** Resistors as CSV: ohms,tolerance_percent,count,watts; empty: an empty drawer. */
export const parseDrawer = (data: unknown) =>
  parseForm({ resistors: needed(text(60_000).allow('')), senseVolts: needed(quantity({ unit: 'V', min: 0.1, max: 60 })) }, data);
export type DrawerForm = ReturnType<typeof parseDrawer>;

export async function saveDrawer(db: Db, act: Act, form: DrawerForm): Promise<void> {
  const read = form.resistors === '' ? { ok: true as const, value: [] } : parseDrawerCsv(form.resistors);
  if (!read.ok)
    throw new Refused(
      400,
      read.problems.map((p) => ({ ...p, path: 'resistors', message: [p.path, p.message].filter(Boolean).join(': ') })),
    );
  const fields = { resistors: read.value, senseVolts: form.senseVolts };
  await actOnce(db, act, { right: 'editShop', action: 'drawer saved', payload: form, detail: { kinds: read.value.length } }, async (tx) => {
    await tx
      .insert(drawer)
      .values({ id: 'drawer', ...fields })
      .onConflictDoUpdate({ target: drawer.id, set: fields });
    await notify(tx, { what: 'library' });
    return null;
  });
}

/** The drawer as its form takes it. */
export const drawerCsv = (resistors: readonly Resistor[]): string =>
  [
    'ohms,tolerance_percent,count,watts',
    ...resistors.map((r) => [r.ohms, Number((r.tolerance * 100).toPrecision(4)), r.count ?? 1, r.watts ?? ''].join(',')),
  ].join('\n');
