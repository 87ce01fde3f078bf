import { type BatteryType, batteryTypes } from '../../core/reserve';
import { useUnits } from '../ui/clock';
import { Choice } from '../ui/Choice';
import choice from '../ui/Choice.module.css';
import { QuantityField } from '../ui/QuantityField';
import styles from './battery.module.css';
import { type FieldName, helps, labels, quantities, type Typed, typeWords } from './fields';

/** What is known of a battery: its kind, and the numbers that are asked for here. */
export function BatteryFields<K extends FieldName>({
  type,
  putType,
  typed,
  put,
  problems,
}: {
  type: BatteryType;
  putType: (type: BatteryType) => void;
  typed: Typed<K>;
  put: (name: K, text: string) => void;
  problems: Partial<Record<K, string>>;
}) {
  const units = useUnits();
  const to = quantities(units);
  return (
    <div className={styles.fields}>
      <fieldset className={choice.group}>
        <legend>Battery</legend>
        {batteryTypes.map((t) => (
          <Choice key={t} type="radio" name="batteryType" value={t} checked={type === t} onChange={() => putType(t)}>
            {typeWords[t]}
          </Choice>
        ))}
      </fieldset>
      {(Object.keys(typed) as K[]).map((name) => (
        <QuantityField
          key={name}
          name={name}
          size="small"
          label={name === 'temperatureC' ? `${labels[name]}, ${units.temperature}` : labels[name]}
          quantity={to[name]}
          value={typed[name]}
          onText={(text) => put(name, text)}
          problem={problems[name]}
          {...(helps[name] === undefined ? {} : { help: helps[name] })}
        />
      ))}
    </div>
  );
}
