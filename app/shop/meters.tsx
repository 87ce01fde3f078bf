import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { accuracyWords, parseDrawerCsv } from '../../core/ladder';
import { drawerCsv, parseDrawer, keptDrawer, saveDrawer } from '../../server/shop/drawer';
import { keptMeters, parseMeter, parseMeterId, retireMeter, saveMeter, type ShopMeter } from '../../server/shop/meters';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import { acting } from '../respond.server';
import { cellsOf } from '../ui/cells';
import { ProblemSummary } from '../ui/problems';
import { TypedTable } from '../ui/TypedTable';
import { QuantityField } from '../ui/QuantityField';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/meters';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Meters and drawer · Bloodstone' }];
export const handle = { place: () => ({ title: 'Shop', detail: 'meters and drawer' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const drawer = await keptDrawer(services);
  return {
    meters: await keptMeters(services),
    drawer: { csv: drawerCsv(drawer.resistors), senseVolts: drawer.senseVolts, kinds: drawer.resistors.length },
    mayEdit: may(session!.person, 'editShop'),
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/shop/meters', args, {
    saveMeter: async ({ form, act }) => {
      await saveMeter(db, act(), parseMeter(form));
      return { said: 'The meter is saved.' };
    },
    saveDrawer: async ({ form, act }) => {
      await saveDrawer(db, act(), parseDrawer(form));
      return { said: 'The drawer is saved.' };
    },
    retireMeter: async ({ form, act }) => {
      await retireMeter(db, act(), parseMeterId(form));
      return { said: 'The meter is out of use. What was measured with it keeps its description.' };
    },
  });
}

interface Row {
  upToOhms: string;
  percent: string;
  digits: string;
  resolutionOhms: string;
}
const emptyRow: Row = { upToOhms: '', percent: '', digits: '', resolutionOhms: '' };
const columns = { upToOhms: 'Range up to, Ω', percent: '% of reading', digits: 'Digits', resolutionOhms: 'One digit, Ω' } as const;
const columnUnits = { upToOhms: 'Ω', percent: '%', digits: '', resolutionOhms: 'Ω' } as const satisfies Record<keyof Row, string>;

/** Ohmmeters of the shop as their data sheets describe them: the uncertainty of every resistance comes from here. */
export default function Meters({ loaderData: { meters, drawer, mayEdit } }: Route.ComponentProps) {
  const act = useAct<typeof action>('meters');
  const [edited, setEdited] = useState<ShopMeter | 'new' | null>(null);
  return (
    <div className={styles.page}>
      <h1 className="hidden">Meters and drawer</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      <section className={styles.section} aria-labelledby="meters">
        <h2 id="meters">Meters</h2>
        {meters.length === 0 && (
          <p>No meter is listed yet. Until then the bench assumes a coarse one. What is asked here is in the meter’s data sheet.</p>
        )}
        <ul className={styles.list}>
          {meters.map((m) => (
            <li key={m.id}>
              <div>
                <b>{m.name}</b>
                {m.simulated && <span className="quiet"> · comes with the app, no device</span>}
                <br />
                <span className="quiet">{m.ranges.map((r) => `up to ${r.upToOhms} Ω: ${accuracyWords(r)}`).join(' · ')}</span>
                <br />
                <span className="mono">{m.address || 'read by eye'}</span>
              </div>
              {mayEdit && !m.simulated && (
                <div className={styles.row}>
                  <Button variant="outlined" onClick={() => setEdited(m)} aria-label={`Edit ${m.name}`}>
                    Edit
                  </Button>
                  <Button
                    variant="text"
                    color="error"
                    aria-label={`Take ${m.name} out of use`}
                    onClick={() => act.sendJson({ intent: 'retireMeter', id: m.id })}
                  >
                    Out of use
                  </Button>
                </div>
              )}
            </li>
          ))}
        </ul>
        {mayEdit ? (
          edited === null && (
            <Button variant="outlined" onClick={() => setEdited('new')} sx={{ justifySelf: 'start' }}>
              Add a meter
            </Button>
          )
        ) : (
          <p className="quiet">A lead or the owner changes these.</p>
        )}
      </section>
      {edited !== null && (
        <MeterEdit key={edited === 'new' ? 'new' : edited.id} meter={edited === 'new' ? null : edited} act={act} onLeave={() => setEdited(null)} />
      )}
      <DrawerEdit key={drawer.csv} drawer={drawer} mayEdit={mayEdit} act={act} />
    </div>
  );
}

function MeterEdit({ meter, act, onLeave }: { meter: ShopMeter | null; act: ReturnType<typeof useAct<typeof action>>; onLeave: () => void }) {
  const [name, setName] = useState(meter?.name ?? '');
  const [address, setAddress] = useState(meter?.address ?? '');
  const [rows, setRows] = useState<Row[]>(
    meter
      ? meter.ranges.map((r) => ({
          upToOhms: String(r.upToOhms),
          percent: String(r.percent),
          digits: String(r.digits),
          resolutionOhms: String(r.resolutionOhms),
        }))
      : [emptyRow],
  );
  const error = (path: string, help?: string) => ({ error: path in act.errors, helperText: act.errors[path] ?? help });
  const change = (i: number, column: keyof Row, value: string) => setRows(rows.map((r, k) => (k === i ? { ...r, [column]: value } : r)));
  const send = () => {
    act.sendJson({ intent: 'saveMeter', ...(meter ? { id: meter.id } : {}), name, address, ranges: rows });
  };
  return (
    <section className={styles.section} aria-label={meter ? `Edit ${meter.name}` : 'Add a meter'}>
      <h2>{meter ? meter.name : 'A meter'}</h2>
      <div className={styles.row}>
        <TextField
          label="Name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          {...error('name')}
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
        <TextField
          label="Address, if it speaks SCPI over TCP"
          value={address}
          onChange={(e) => setAddress(e.target.value)}
          {...error('address', 'host:port; empty: read by eye')}
          sx={{ minWidth: 300 }}
          slotProps={{ htmlInput: { maxLength: 260 } }}
        />
      </div>
      {rows.map((row, i) => (
        <fieldset key={i} className={styles.row} style={{ border: 0, padding: 0, margin: 0 }}>
          <legend className="label">Range {i + 1}</legend>
          {(Object.keys(columns) as (keyof Row)[]).map((column) => (
            <QuantityField
              key={column}
              quantity={{ unit: columnUnits[column] }}
              label={columns[column]}
              value={row[column]}
              size="small"
              onText={(text) => change(i, column, text)}
              problem={act.errors[`ranges.${i}.${column}`]}
              sx={{ maxWidth: 190 }}
            />
          ))}
          {rows.length > 1 && (
            <Button variant="text" color="inherit" onClick={() => setRows(rows.filter((_r, k) => k !== i))} aria-label={`Remove range ${i + 1}`}>
              Remove
            </Button>
          )}
        </fieldset>
      ))}
      <div className={styles.row}>
        <Button variant="outlined" disabled={rows.length >= 12} onClick={() => setRows([...rows, emptyRow])}>
          Another range
        </Button>
        <Button variant="contained" onClick={send} loading={act.busy}>
          Save the meter
        </Button>
        <Button variant="text" color="inherit" onClick={onLeave}>
          Close
        </Button>
      </div>
    </section>
  );
}

/** Resistors that the shop has. */
function DrawerEdit({
  drawer,
  mayEdit,
  act,
}: {
  drawer: { csv: string; senseVolts: number; kinds: number };
  mayEdit: boolean;
  act: ReturnType<typeof useAct<typeof action>>;
}) {
  const [csv, setCsv] = useState(drawer.csv);
  const [volts, setVolts] = useState(String(drawer.senseVolts));
  const error = (path: string, help: string) => ({ error: path in act.errors, helperText: act.errors[path] ?? help });
  const send = () => {
    const empty = csv.trim() === '' || cellsOf(csv, ['ohms', 'tolerance_percent', 'count', 'watts'])?.length === 0;
    act.sendJson({ intent: 'saveDrawer', resistors: empty ? '' : csv, senseVolts: volts.trim().replace(',', '.') });
  };
  return (
    <section className={styles.section} aria-labelledby="drawer">
      <h2 id="drawer">Drawer of resistors</h2>
      <p className="quiet">
        {drawer.kinds === 0 ? 'Empty. ' : `${drawer.kinds} kinds. `}Substitute values are built from it, within how many you have and what they can
        take.
      </p>
      <TypedTable
        label="Resistors"
        columns={{ ohms: 'Ω', tolerance_percent: '± %', count: 'How many', watts: 'W' }}
        text={csv}
        put={setCsv}
        read={parseDrawerCsv(csv)}
        fine={(read) => `${read.length} ${read.length === 1 ? 'kind' : 'kinds'} of resistors.`}
        disabled={!mayEdit}
      />
      <TextField
        label="Sense voltage of the immobilizer, V"
        value={volts}
        onChange={(e) => setVolts(e.target.value)}
        disabled={!mayEdit}
        {...error('senseVolts', 'Voltage across a key at most; parts that would get too hot are left out.')}
        sx={{ maxWidth: 320 }}
      />
      {mayEdit && (
        <Button variant="contained" onClick={send} loading={act.busy} sx={{ justifySelf: 'start' }}>
          Save the drawer
        </Button>
      )}
    </section>
  );
}
