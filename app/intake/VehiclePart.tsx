import MenuItem from '@mui/material/MenuItem';
import type { ReactNode } from 'react';
import { arrivals } from '../../core/library';
import type { Intake } from './fields';
import { Identification } from './Identification';
import styles from './intake.module.css';
import { type System, systemOptions } from './systemOptions';
import { Field, Pick, type Section } from './parts';

/** Which vehicle it is, whose, and where it stands. */
export function VehiclePart({
  value: f,
  put,
  errors,
  bays,
  systems,
  but,
  children,
}: Section<Intake> & { children?: ReactNode; bays: { id: string; name: string }[]; systems: System[] | null; but?: number }) {
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
        help="One free line, as you would say it: maker, model, colour."
      />
      <Identification
        identification={f.identification}
        plate={f.plate}
        put={(v) => put('identification', v)}
        error={errors.identification}
        {...(but === undefined ? {} : { but })}
      />
      <div className={styles.three}>
        <Field {...bound('year')} label="Year" max={4} slotProps={{ htmlInput: { inputMode: 'numeric' } }} />
        <Field {...bound('plate')} label="Plate" max={16} />
        <Field {...bound('bay')} label="Where it stands" select>
          <MenuItem value="">No bay yet</MenuItem>
          {bays.map((b) => (
            <MenuItem key={b.id} value={b.id}>
              {b.name}
            </MenuItem>
          ))}
        </Field>
      </div>
      {systems && (
        <Field
          {...bound('system')}
          label="System"
          select
          required
          help="A vehicle that is not listed is worked from its family, with typical numbers. Nobody knows the family? Find it out below."
        >
          {systemOptions(systems)}
        </Field>
      )}
      {children}
      <div className={styles.two}>
        <Field {...bound('customer')} label={parts ? 'Sender' : 'Customer'} max={80} />
        <Field {...bound('phone')} label="Telephone" type="tel" max={40} />
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
        <Pick {...bound('arrived')} label="How it came" options={arrivals} none="Not told" />
        <Pick {...bound('engineCanRun')} label="Engine" options={{ yes: 'able to run', no: 'not able to run' }} none="Not known" />
        <Field
          {...bound('batteryVolts')}
          label="Battery as found, V"
          max={8}
          slotProps={{ htmlInput: { inputMode: 'decimal', className: 'mono' } }}
        />
      </div>
      <div className={styles.two}>
        <Field {...bound('partsOff')} label="Parts that are off" max={200} />
        <Field {...bound('lastRunning')} label="Last known running" max={80} />
      </div>
    </>
  );
}
