import MenuItem from '@mui/material/MenuItem';
import type { ReactNode } from 'react';
import { arrivals } from '../../core/library';
import type { Intake } from './fields';
import { Identification } from './Identification';
import styles from './intake.module.css';
import { type System, systemOptions } from './systemOptions';
import { Field, Pick, type Section } from './parts';

interface BayInUse {
  id: string;
  name: string;
  cases: { id: number; number: string; vehicle: string }[];
}

/** What stands in a bay already, besides the case that is changed. */
function standing(bays: BayInUse[], bay: string, but: number | undefined): string {
  const others = bays.find((b) => b.id === bay)?.cases.filter((c) => c.id !== but) ?? [];
  return others.length === 0 ? '' : `Already here: ${others.map((c) => `case ${c.number}, ${c.vehicle || 'no vehicle'}`).join('; ')}.`;
}

/** Which vehicle it is, whose, and where it stands. */
export function VehiclePart({
  value: f,
  put,
  errors,
  bays,
  systems,
  but,
  children,
}: Section<Intake> & { children?: ReactNode; bays: BayInUse[]; systems: System[] | null; but?: number }) {
  const bound = (name: 'vehicle' | 'year' | 'plate' | 'customer' | 'phone' | 'bay' | 'system') => ({
    name,
    value: f[name],
    put: (v: string) => put(name, v),
    errors,
  });
  const parts = f.kind === 'parts';
  return (
    <>
      <Field
        {...bound('vehicle')}
        label={parts ? 'For which vehicle' : 'Vehicle'}
        required={!parts}
        max={120}
        help="As you would say it: maker, model, color."
      />
      <Identification
        identification={f.identification}
        plate={f.plate}
        put={(v) => put('identification', v)}
        errors={errors}
        {...(but === undefined ? {} : { but })}
      />
      <div className={styles.three}>
        <Field {...bound('year')} label="Year" quantity={{ unit: '', whole: true }} />
        <Field {...bound('plate')} label="Plate" max={16} />
        <Field {...bound('bay')} label="Bay" select help={standing(bays, f.bay, but)}>
          <MenuItem value="">No bay yet</MenuItem>
          {bays.map((b) => (
            <MenuItem key={b.id} value={b.id}>
              {b.name}
            </MenuItem>
          ))}
        </Field>
      </div>
      {systems && (
        <Field {...bound('system')} label="System type" select required help="If it is not listed, choose its system type. Not sure? Find out below.">
          {systemOptions(systems)}
        </Field>
      )}
      {children}
      <div className={styles.two}>
        <Field {...bound('customer')} label={parts ? 'Sender' : 'Customer'} max={80} />
        <Field {...bound('phone')} label="Phone" type="tel" max={40} />
      </div>
    </>
  );
}

/** In which state the vehicle came. What nobody knows stays open. */
export function ConditionPart({ value: f, put, errors }: Section<Intake>) {
  const bound = (name: keyof Intake['condition']) => ({
    name: `condition.${name}`,
    value: f.condition[name],
    put: (v: string) => put('condition', { ...f.condition, [name]: v }),
    errors,
  });
  return (
    <>
      <div className={styles.three}>
        <Pick {...bound('arrived')} label="How it got here" options={arrivals} none="Not told" />
        <Pick {...bound('engineCanRun')} label="Engine" options={{ yes: 'can run', no: 'can’t run' }} none="Not known" />
        <Field
          {...bound('batteryVolts')}
          label="Battery as found, V"
          quantity={{ unit: 'V', min: 0, max: 60 }}
          slotProps={{ htmlInput: { className: 'mono' } }}
        />
      </div>
      <div className={styles.two}>
        <Field {...bound('partsOff')} label="Parts removed" max={200} />
        <Field {...bound('lastRunning')} label="Last known to run" max={80} />
      </div>
    </>
  );
}
