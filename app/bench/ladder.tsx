import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { type Conditions, type Meter, unknownMeter, type SentReading, sent } from '../../core/ladder';
import { fromShopTemperature, toShopTemperature } from '../../core/units';
import { offeredLadders } from '../../server/library/ladders';
import { parseMeasurement } from '../../server/ledger/measurements/form';
import { contactOhmsOf, recordMeasurement, testsOf } from '../../server/ledger/measurements/record';
import { keptMeters } from '../../server/shop/meters';
import { parseBenchQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { Field } from '../intake/parts';
import { acting } from '../respond.server';
import { Cautions, type CautionState, useCautions } from '../ui/Cautions';
import { useUnits } from '../ui/clock';
import { later } from '../ui/later';
import { useKept } from '../ui/useKept';
import type { Route } from './+types/ladder';
import { benchCase } from './benchCase.server';
import { AddToCase, useAddToCase } from './AddToCase';
import bench from './bench.module.css';
import { ColumnPicture, ColumnVerdict } from './ladder/AgainstColumn';
import { KeyPicture, KeyVerdict, PlacePick } from './ladder/KeyAlone';
import styles from './ladder/ladder.module.css';
import { Readings } from './ladder/Readings';
import {
  type Captured,
  emptySheet,
  groupsOf,
  isRead,
  nothingCaptured,
  notTogether,
  type Place,
  readKeptCapture,
  readKeptSheet,
  type Sheet,
  leadQuantity,
  temperatureQuantity,
  typedNumber,
  typedSteps,
} from './ladder/sheet';
import { WithWhat } from './ladder/WithWhat';
import { useFound } from './ladder/useFound';
import { useMeter } from './ladder/useMeter';

const wiggle = () => import('./ladder/Wiggle');
const WiggleInput = later('WiggleInput', async () => ({ default: (await wiggle()).WiggleInput }));
const WigglePicture = later('WigglePicture', async () => ({ default: (await wiggle()).WigglePicture }));
const WiggleVerdict = later('WiggleVerdict', async () => ({ default: (await wiggle()).WiggleVerdict }));

export const meta: Route.MetaFunction = () => [{ title: 'Resistor key · Bloodstone' }];
export const handle = {
  place: ({ chosen, key }: Route.ComponentProps['loaderData']) => ({
    title: 'Resistor key',
    detail: chosen ? [`case ${chosen.number}`, chosen.vehicle, key && `tag ${key}`].filter(Boolean).join(' · ') : 'measured on the bench',
  }),
};

const sheets = { key: 'The key alone', column: 'Key and wiring', wiggle: 'Wiggle' } as const;
type SheetName = keyof typeof sheets;

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { library, documents, database } = services;
  const { db } = database;
  const query = parseBenchQuery(new URL(request.url).searchParams);
  const { record, cases, keys } = await benchCase(services, query.caseId);
  const family = record ? await documents.family(record.family) : undefined;
  const profile = record?.profile ? await documents.profile(record.profile) : undefined;
  const ladders = (await offeredLadders(services, profile?.ladder)).map(({ ladder, origin }) => ({ ...ladder, origin }));
  const wanted = query.ladder || profile?.ladder;
  const column = family ? testsOf(family, 'wiring').flatMap((t) => t.cautions) : ['airbag', 'supplyOff'];
  return {
    cases,
    keys,
    chosen: record ? { id: record.id, number: record.number, vehicle: record.vehicle } : null,
    /** Whether its system has keys of this kind at all. */
    fits: family === undefined || testsOf(family, 'pellet').length > 0,
    family: family?.title ?? '',
    contactOhms: record ? await contactOhmsOf(db, documents, record) : undefined,
    ladders,
    ladder: ladders.find((l) => l.id === wanted)?.id ?? ladders[0]?.id ?? '',
    known: profile?.ladder !== undefined && wanted === profile.ladder,
    meters: await keptMeters(services),
    sheet: (Object.hasOwn(sheets, query.sheet) ? query.sheet : 'key') as SheetName,
    key: keys.includes(query.key) ? query.key : (keys[0] ?? ''),
    cautions: Object.fromEntries(column.flatMap((id) => (library.cautions.has(id) ? [[id, library.cautions.get(id)!]] : []))),
  };
}

export async function action(args: Route.ActionArgs) {
  return acting('/bench/ladder', args, {
    measure: async ({ form, services, act }) => {
      const { say, answered, simulated } = await recordMeasurement(services, act(), parseMeasurement(form));
      const saved = simulated
        ? 'Saved to the case, marked as simulated. No vehicle was measured, so no test is answered.'
        : 'Saved to the case. The readings don’t answer a test yet.';
      return {
        said: answered.length > 0 ? `Saved to the case: ${answered.join(', ')}.` : saved,
        say,
      };
    },
  });
}

/** A resistor key: alone, against the column, and while the column is moved. */
export default function LadderBench({ loaderData: d }: Route.ComponentProps) {
  const navigate = useNavigate();
  const search = (to: Record<string, string>) => {
    const all = { ...(d.chosen ? { case: String(d.chosen.id) } : {}), ...(d.key ? { key: d.key } : {}), ladder: d.ladder, sheet: d.sheet, ...to };
    void navigate(`?${new URLSearchParams(Object.entries(all).filter(([, v]) => v !== ''))}`, { replace: true, preventScrollReset: true });
  };
  return <Worksheet key={`${d.chosen?.id ?? 'bench'} ${d.key} ${d.ladder}`} d={d} search={search} />;
}

function Worksheet({ d, search }: { d: Route.ComponentProps['loaderData']; search: (to: Record<string, string>) => void }) {
  const [sheet, setSheet] = useKept<Sheet>(`ladder.${d.chosen?.id ?? 'bench'}.${d.key}`, emptySheet, readKeptSheet);
  const units = useUnits();
  const [place, setPlace] = useState<Place>('1in');
  const [mixed, setMixed] = useState('');
  const [meterId, setMeterId] = useKept<string>('ladder.meter', '', (kept) => (typeof kept === 'string' ? kept : undefined));
  const [captured, setCaptured] = useKept<Captured>(`wiggle.${d.chosen?.id ?? 'bench'}`, nothingCaptured, readKeptCapture);
  const cautions = useCautions(Object.keys(d.cautions), d.cautions);
  const ladder = d.ladders.find((l) => l.id === d.ladder);
  const listed = d.meters.find((m) => m.id === meterId);
  const meter: Meter = listed ?? unknownMeter;
  const device = useMeter(listed);
  const finding = useFound();
  const adding = useAddToCase(
    'ladder',
    JSON.stringify([d.sheet, sheet, meterId, captured.samples.length, captured.marks]),
    `Case ${d.chosen?.number}: readings of the resistor key, tag ${d.key}`,
  );
  // The app comes with some.
  if (!ladder) return <Link to="/library/ladders">Add your vehicle’s chart</Link>;
  const lead = typedNumber(sheet.lead, leadQuantity);
  const typedDegrees = typedNumber(sheet.temperature, temperatureQuantity(units.temperature));
  const temperature = typeof typedDegrees === 'number' ? fromShopTemperature(typedDegrees, units.temperature) : typedDegrees;
  const conditions: Conditions = { meter, leadOhms: lead ?? null, temperatureC: temperature ?? null };
  const found = finding?.keyFound(sheet, ladder, conditions) ?? null;
  const wiring = finding?.columnFound(sheet, ladder, d.contactOhms, conditions) ?? null;
  const wiggle = finding?.wiggleFound(captured, meter) ?? null;
  const readings = d.sheet === 'column' ? sheet.column : sheet.groups[place];
  const put = (to: SentReading[], simulated: boolean) => {
    const next = d.sheet === 'column' ? { ...sheet, column: to } : { ...sheet, groups: { ...sheet.groups, [place]: to } };
    // With its last reading goes what the simulated meter said of the leads.
    setSheet(isRead(next) ? { ...next, simulated } : { ...next, simulated: false, ...(sheet.simulated ? { lead: '' } : {}) });
  };
  const bySimulation = listed?.simulated ?? false;
  const readWith = async (take: (ohms: SentReading) => void) => {
    const wrong = notTogether(sheet, bySimulation);
    setMixed(wrong);
    if (wrong !== '') return;
    const ohms = await device.read();
    if (ohms !== undefined) take(ohms);
  };
  const readMeter = () => readWith((ohms) => put([...readings, ohms], bySimulation));
  const readLead = () => readWith((ohms) => ohms !== null && setSheet({ ...sheet, lead: String(ohms), simulated: bySimulation }));
  const steps = typedSteps(sheet.vehicleStep);
  const simulated = d.sheet === 'wiggle' ? captured.simulated : sheet.simulated;
  const base = { case: d.chosen?.id, simulated, ...(d.key ? { key: d.key } : {}), ...(meterId && listed ? { meter: meterId } : {}) };
  const circumstances = { leadOhms: conditions.leadOhms, temperatureC: conditions.temperatureC };
  const own = groupsOf(sheet).filter((g) => g.side <= ladder.pellets);
  const bodies = {
    key: {
      kind: 'pellet',
      ladder: ladder.id,
      raw: {
        ...circumstances,
        groups: own.map((g) => ({ ...g, readings: g.readings.map(sent) })),
        vehicleSteps: steps,
        stepSource: steps.length > 0 ? sheet.stepSource : '',
      },
    },
    column: { kind: 'wiring', ladder: ladder.id, raw: { ...circumstances, key: own.flatMap((g) => g.readings.map(sent)), column: sheet.column } },
    wiggle: { kind: 'wiggle', raw: { samples: captured.samples, marks: captured.marks } },
  };
  const ready = { key: found !== null, column: wiring !== null && cautions.clear, wiggle: wiggle !== null && cautions.clear }[d.sheet];
  const atColumn = d.sheet !== 'key';
  return (
    <div className={`${bench.sheet} ${styles.sheet}`}>
      <h1 className="hidden">Resistor key</h1>
      <div className={styles.top}>
        <div className={styles.tabs} role="tablist" aria-label="Sheets">
          {(Object.keys(sheets) as SheetName[]).map((name) => (
            <button key={name} type="button" role="tab" aria-selected={d.sheet === name} onClick={() => search({ sheet: name })}>
              {sheets[name]}
            </button>
          ))}
        </div>
        {d.sheet === 'key' && <PlacePick ladder={ladder} place={place} sheet={sheet} onPlace={setPlace} />}
      </div>
      <section className={bench.input} aria-label="Readings">
        {d.sheet !== 'wiggle' && (
          <>
            <div className={styles.setup}>
              <Field
                name="lead"
                label="Meter leads, tips together"
                value={sheet.lead}
                put={(value) => setSheet({ ...sheet, lead: value })}
                live
                errors={lead === undefined ? { lead: '0 to 1000 Ω, such as 0.4.' } : {}}
                help={lead === null ? 'Not measured: leads add up to 1 Ω.' : 'Subtracted.'}
                quantity={leadQuantity}
                size="small"
                slotProps={{ inputLabel: { shrink: true } }}
              />
              {listed && listed.address !== '' && (
                <Button size="small" variant="text" onClick={() => void readLead()} sx={{ justifySelf: 'start' }}>
                  Measure the leads
                </Button>
              )}
              {ladder.ppmPerKelvin !== undefined && (
                <Field
                  name="temperature"
                  label={`Temperature of the key, ${units.temperature}`}
                  value={sheet.temperature}
                  put={(value) => setSheet({ ...sheet, temperature: value })}
                  live
                  errors={
                    temperature === undefined
                      ? {
                          temperature: `Degrees from ${toShopTemperature(-60, units.temperature)} to ${toShopTemperature(150, units.temperature)}, such as ${toShopTemperature(21, units.temperature)}.`,
                        }
                      : {}
                  }
                  help={
                    temperature === null
                      ? `If known: readings are corrected to ${toShopTemperature(20, units.temperature)} ${units.temperature}.`
                      : `Corrected with ${ladder.ppmPerKelvin} ppm/K.`
                  }
                  quantity={temperatureQuantity(units.temperature)}
                  size="small"
                  slotProps={{ inputLabel: { shrink: true } }}
                />
              )}
            </div>
            {atColumn && <SeenTo state={cautions} />}
            <h2 className="label">{atColumn ? 'At the steering-column connector: key in, module unplugged' : 'Readings'}</h2>
            {(!atColumn || cautions.clear) && (
              <Readings
                key={atColumn ? 'column' : place}
                name={atColumn ? 'Readings at the connector' : 'Readings'}
                readings={readings}
                put={(to, typed) => put(to, typed ? false : sheet.simulated)}
                refuse={notTogether(sheet, false)}
                meter={listed?.address ? listed : undefined}
                busy={device.busy}
                problem={mixed || device.problem}
                onRead={() => void readMeter()}
              />
            )}
          </>
        )}
        {d.sheet === 'wiggle' && (
          <>
            <SeenTo state={cautions} />
            <WiggleInput meter={listed?.address ? listed : undefined} captured={captured} put={setCaptured} allowed={cautions.clear} />
          </>
        )}
        <WithWhat
          d={d}
          ladder={ladder}
          meter={meter}
          listed={listed}
          typicalOhms={found?.pellets[0]?.joint.mean || 1000}
          onMeter={setMeterId}
          search={search}
          device={device}
        />
      </section>
      <section aria-label="Picture">
        {d.sheet === 'key' && <KeyPicture sheet={sheet} ladder={ladder} place={place} found={found} />}
        {d.sheet === 'column' && <ColumnPicture sheet={sheet} found={wiring} allowed={d.contactOhms ?? ladder.contactOhms} />}
        {d.sheet === 'wiggle' && <WigglePicture captured={captured} found={wiggle} />}
      </section>
      <section className={bench.verdict} aria-label="Result" aria-live="polite">
        {d.sheet === 'key' && <KeyVerdict found={found} place={place} />}
        {d.sheet === 'column' && <ColumnVerdict sheet={sheet} found={wiring} />}
        {d.sheet === 'wiggle' && <WiggleVerdict found={wiggle} />}
        {simulated && (
          <p>
            <b>Simulated meter: no vehicle was measured.</b>
          </p>
        )}
        {d.sheet === 'key' && found && (
          <div className={styles.setup}>
            <Field
              name="vehicleStep"
              label={`The vehicle’s value${ladder.pellets === 2 ? 's' : ''}, if known`}
              value={sheet.vehicleStep}
              put={(value) => setSheet({ ...sheet, vehicleStep: value })}
              live
              errors={
                sheet.vehicleStep !== '' && steps.length !== ladder.pellets
                  ? { vehicleStep: ladder.pellets === 2 ? 'Such as 4 5.' : 'Such as 6.' }
                  : {}
              }
              max={12}
              size="small"
            />
            {steps.length > 0 && (
              <Field
                name="stepSource"
                label="Where from"
                value={sheet.stepSource}
                put={(value) => setSheet({ ...sheet, stepSource: value })}
                errors={{}}
                help="A label, papers, or a key that works."
                max={160}
                size="small"
              />
            )}
          </div>
        )}
        <AddToCase
          adding={adding}
          chosen={d.chosen}
          ready={ready}
          onAdd={() => adding.add({ ...base, ...bodies[d.sheet] })}
          note={!d.fits && `“${d.family}” has no resistor keys: readings answer no test.`}
        />
      </section>
    </div>
  );
}

/** The cautions, large until all are taken; then out of the way, and still there. */
function SeenTo({ state }: { state: CautionState }) {
  if (!state.clear) return <Cautions state={state} />;
  return (
    <details className={styles.seen}>
      <summary>Precautions taken</summary>
      <Cautions state={state} />
    </details>
  );
}
