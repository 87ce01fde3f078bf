import type { SentReading } from '../../core/ladder';
import { formatOhms } from '../../core/ladder/format';
import { formatQuantity, type ShopUnits, toShopTemperature } from '../../core/units';
import type { MeasurementKind } from '../../server/db/schema';
import type { MeasurementLine } from '../../server/record/cases';
import type { BurstsRaw, Circumstances, PelletRaw, SlotsRaw, TrialsRaw, WiggleRaw, WiringRaw } from '../../server/record/measured';
import { useUnits } from '../ui/clock';
import styles from './Ledger.module.css';

const shown = (readings: readonly SentReading[]): string => {
  const words = readings.slice(0, 30).map((r) => (r === null ? 'overload' : formatOhms(r)));
  return [...words, ...(readings.length > 30 ? [`${readings.length - 30} more`] : [])].join(', ');
};
const circumstances = ({ leadOhms, temperatureC }: Circumstances, degrees: ShopUnits['temperature']): string =>
  `Leads ${leadOhms === null ? 'not measured' : `${formatOhms(leadOhms)}, subtracted`}${temperatureC === null ? '' : `; ${toShopTemperature(temperatureC, degrees)} ${degrees}`}.`;

/** Kinds that no meter reads. */
const withoutMeter: readonly MeasurementKind[] = ['trials', 'slots', 'bursts'];

/** What was read, part by part. */
function partsOf({ kind, raw }: MeasurementLine, degrees: ShopUnits['temperature']): string[] {
  switch (kind) {
    case 'pellet': {
      const r = raw as PelletRaw;
      return [
        ...r.groups.map((g) => `Side ${g.side}, ${g.turned ? 'turned over' : 'as it goes in'}: ${shown(g.readings)}.`),
        circumstances(r, degrees),
      ];
    }
    case 'wiring': {
      const r = raw as WiringRaw;
      return [`The key alone: ${shown(r.key)}.`, `At the steering-column connector: ${shown(r.column)}.`, circumstances(r, degrees)];
    }
    case 'wiggle': {
      const r = raw as WiggleRaw;
      return [
        `${r.samples.length} readings over ${(r.samples.at(-1)?.[0] ?? 0).toFixed(0)} s.`,
        ...r.marks.map(([s, say]) => `${s.toFixed(1)} s: ${say}.`),
      ];
    }
    case 'slots': {
      const r = raw as SlotsRaw;
      return [
        `${r.name}, ${r.bytes} bytes, SHA-256 ${r.sha256.slice(0, 16)}…`,
        `Layout “${r.layout.title}”, version ${r.layout.version}.`,
        ...r.slots.filter((s) => s.keyId !== null).map((s) => `Slot ${s.slot}: ${s.keyId}, ${s.state}.`),
      ];
    }
    case 'bursts': {
      const r = raw as BurstsRaw;
      const like = [r.probe && `the probe ${r.probe}`, r.place && `at ${r.place}`, r.storedKeys !== null && `${r.storedKeys} keys stored`].filter(
        Boolean,
      );
      return [
        `${r.name}: ${r.samples} samples at ${formatQuantity(r.sampleRateHz, 'Hz')}.`,
        like.length > 0 ? `Taken with ${like.join(', ')}.` : '',
        ...r.bursts
          .slice(0, 60)
          .map(
            (b) =>
              `${formatQuantity(b.startS, 's')}: ${formatQuantity(b.durationS, 's')} long, ${formatQuantity(b.amplitude, 'V')}, ${formatQuantity(b.carrierHz, 'Hz')}.`,
          ),
        r.against.length > 0
          ? `Compared with ${r.against.length} ${r.against.length === 1 ? 'capture' : 'captures'} of this vehicle whose condition is known.`
          : '',
      ];
    }
    case 'trials': {
      const r = raw as TrialsRaw;
      return [
        `Watched for: ${r.what}.`,
        `In order: ${r.looks
          .slice(0, 200)
          .map((l) => `${l.hit ? 'yes' : 'no'}${l.key === null ? '' : ` ${l.key}`}`)
          .join(', ')}.`,
      ];
    }
  }
}

/** The readings behind a verdict, with ladder, meter and circumstances, line by line. */
export function measuredLines(measurement: MeasurementLine, degrees: ShopUnits['temperature']): string[] {
  const { ladder, meter } = measurement.raw;
  const what = [
    ladder ? `Value chart ${ladder.id}, version ${ladder.version}.` : '',
    meter ? `${meter.name}.` : withoutMeter.includes(measurement.kind) ? '' : 'No meter chosen.',
  ];
  return [...partsOf(measurement, degrees), what.filter(Boolean).join(' ')].filter(Boolean);
}

/** The readings behind a line of the ledger, for whoever wants to see them. */
export function Measured({ measurement }: { measurement: MeasurementLine }) {
  const units = useUnits();
  return (
    <details className={styles.measured}>
      <summary>What was read</summary>
      <ul>
        {measuredLines(measurement, units.temperature).map((line, i) => (
          <li key={i}>{line}</li>
        ))}
      </ul>
    </details>
  );
}
