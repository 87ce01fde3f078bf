import Button from '@mui/material/Button';
import { useState } from 'react';
import { type Battery, type BatteryType, batteryTypes, course, minutesWords, predict, type Reading, reserveVerdict } from '../../core/reserve';
import { formatQuantity, readQuantity } from '../../core/units';
import { BatteryFields } from '../battery/BatteryFields';
import battery from '../battery/battery.module.css';
import { readFields, type Typed } from '../battery/fields';
import { ReservePlot } from '../battery/ReservePlot';
import { useUnits } from '../ui/clock';
import { QuantityField } from '../ui/QuantityField';
import { useKept } from '../ui/useKept';
import bench from './bench.module.css';

export const meta = () => [{ title: 'Battery · Bloodstone' }];
export const handle = { place: () => ({ title: 'Battery', detail: 'how long it holds' }) };

type Name = 'openCircuitVolts' | 'capacityAh' | 'ageYears' | 'temperatureC' | 'loadAmps' | 'limitVolts' | 'minutes';
interface Sheet {
  type: BatteryType;
  typed: Typed<Name>;
  readings: Reading[];
}

/** What was typed before the page was left, if it still is a sheet. */
function keptSheet(kept: unknown): Sheet | undefined {
  const sheet = kept as Partial<Sheet> | null;
  const whole =
    batteryTypes.includes(sheet?.type as BatteryType) &&
    Object.values(sheet?.typed ?? {}).every((t) => typeof t === 'string') &&
    Array.isArray(sheet?.readings) &&
    sheet.readings.every((r) => Number.isFinite(r?.minutes) && Number.isFinite(r?.volts));
  return whole && 'minutes' in sheet!.typed! ? (sheet as Sheet) : undefined;
}

/** What the model says of a battery and a load. */
function foundOf(type: Battery['type'], { minutes, ...rest }: Record<Name, number>, readings: Sheet['readings']) {
  const asked = { minutes, readings, from: Math.max(0, ...readings.map((r) => r.minutes)) };
  const of: Battery = { type, ...rest };
  const predicted = predict(of, asked);
  return { predicted, points: course(of, asked), limitVolts: rest.limitVolts, ...reserveVerdict(predicted, minutes) };
}

/** How long a battery holds the ignition's load above a limit, and what a maintainer has to give; fitted to what is measured meanwhile. */
export default function BatteryBench() {
  const units = useUnits();
  const [fresh] = useState<Sheet>(() => ({
    type: 'flooded',
    typed: {
      openCircuitVolts: '',
      capacityAh: '60',
      ageYears: '4',
      temperatureC: units.temperature === '°F' ? '68' : '20',
      loadAmps: '8',
      limitVolts: '12',
      minutes: '30',
    },
    readings: [],
  }));
  const [sheet, setSheet] = useKept<Sheet>('battery', fresh, keptSheet);
  const { values, problems } = readFields(sheet.typed, units);
  // A field that nobody has typed into yet is not wrong.
  const shown = Object.fromEntries(Object.entries(problems).filter(([name]) => sheet.typed[name as Name] !== ''));
  const usable = Object.keys(problems).length === 0;
  const { type, readings } = sheet;
  const found = usable ? foundOf(type, values, readings) : null;
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Battery</h1>
      <section className={bench.input} aria-label="Battery and load">
        <BatteryFields
          type={type}
          putType={(to) => setSheet((s) => ({ ...s, type: to }))}
          typed={sheet.typed}
          put={(name, text) => setSheet((s) => ({ ...s, typed: { ...s.typed, [name]: text } }))}
          problems={shown}
        />
      </section>
      <section className={bench.first} aria-label="Course">
        {found ? (
          <ReservePlot points={found.points} limitVolts={found.limitVolts} />
        ) : (
          <p className={bench.said}>Type the rested voltage: at the posts, everything off, an hour or more after the last drive or charge.</p>
        )}
        <Readings readings={readings} put={(to) => setSheet((s) => ({ ...s, readings: to }))} />
      </section>
      <section className={bench.verdict} aria-label="Verdict" aria-live="polite">
        {found ? <Figures found={found} minutes={values.minutes} /> : <p className="quiet">No verdict yet.</p>}
        <p className="quiet">Calculated, not measured: a model of a lead-acid battery. A voltage that you measure under load counts more.</p>
        <div className={bench.foot}>
          <Button variant="outlined" color="inherit" onClick={() => setSheet(fresh)}>
            Start over
          </Button>
        </div>
      </section>
    </div>
  );
}

function Figures({ found, minutes }: { found: { predicted: ReturnType<typeof predict>; head: string; text: string }; minutes: number }) {
  const { predicted: p } = found;
  const volts = (v: number) => formatQuantity(v, 'V');
  return (
    <>
      <h2>{found.head}</h2>
      <p className={bench.said}>{found.text}</p>
      <dl className={bench.figures}>
        <div>
          <dt>Under load now</dt>
          <dd className="mono">{volts(p.startVolts)}</dd>
        </div>
        <div>
          <dt>After {Math.round(minutes)} min</dt>
          <dd className="mono">{volts(p.endVolts)}</dd>
        </div>
        <div>
          <dt>Nine of ten between</dt>
          <dd className="mono">
            {volts(p.endVoltsLow)} and {volts(p.endVoltsHigh)}
          </dd>
        </div>
        <div>
          <dt>Above the limit</dt>
          <dd className="mono">{minutesWords(p.minutesAboveLimit)}</dd>
        </div>
      </dl>
    </>
  );
}

/** Volts measured under load, with the minutes since the ignition was turned on. */
function Readings({ readings, put }: { readings: Reading[]; put: (to: Reading[]) => void }) {
  const [typed, setTyped] = useState({ minutes: '', volts: '' });
  const [tried, setTried] = useState(false);
  const minutes = readQuantity(typed.minutes, { unit: 'min', min: 0, max: 1440 });
  const volts = readQuantity(typed.volts, { unit: 'V', min: 6, max: 16 });
  const add = () => {
    if (!minutes.ok || !volts.ok) return setTried(true);
    put([...readings, { minutes: minutes.value, volts: volts.value }].toSorted((a, b) => a.minutes - b.minutes));
    setTyped({ minutes: '', volts: '' });
    setTried(false);
  };
  return (
    <>
      <h2 className="label">Measured while the ignition is on</h2>
      {readings.length > 0 && (
        <ul className={battery.readings} aria-label="Readings under load">
          {readings.map((r, i) => (
            <li key={`${r.minutes} ${r.volts} ${i}`}>
              <span>
                after {formatQuantity(r.minutes, 'min')}: <span className="mono">{formatQuantity(r.volts, 'V')}</span>
              </span>
              <Button variant="text" color="inherit" onClick={() => put(readings.filter((_r, k) => k !== i))}>
                Remove<span className="hidden"> the reading after {formatQuantity(r.minutes, 'min')}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      <form
        className={battery.add}
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <QuantityField
          size="small"
          label="Minutes after"
          quantity={{ unit: 'min', min: 0, max: 1440 }}
          value={typed.minutes}
          onText={(text) => setTyped((t) => ({ ...t, minutes: text }))}
          problem={tried && !minutes.ok ? minutes.problems[0]!.message : undefined}
        />
        <QuantityField
          size="small"
          label="Measured, V"
          quantity={{ unit: 'V', min: 6, max: 16 }}
          value={typed.volts}
          onText={(text) => setTyped((t) => ({ ...t, volts: text }))}
          problem={tried && !volts.ok ? volts.problems[0]!.message : undefined}
        />
        <Button type="submit" variant="outlined" color="inherit">
          Add
        </Button>
      </form>
    </>
  );
}
