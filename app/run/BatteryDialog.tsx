import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import type { RunReserve } from '../../core/procedure';
import { course, predict, reserveVerdict } from '../../core/reserve';
import { formatQuantity } from '../../core/units';
import { BatteryFields } from '../battery/BatteryFields';
import { readFields, typedFacts } from '../battery/fields';
import { ReservePlot } from '../battery/ReservePlot';
import { useUnits } from '../ui/clock';
import dialogs from './Dialogs.module.css';
import type { Commands } from './useCommands';

/** What the reserve rests on: the battery as it was entered, the voltages measured, and the course that follows for the rest of the run. */
export default function BatteryDialog({ reserve, commands, onClose }: { reserve: RunReserve; commands: Commands; onClose: () => void }) {
  const units = useUnits();
  const [type, setType] = useState(reserve.facts.type);
  const [typed, setTyped] = useState(() => typedFacts(reserve.facts, units));
  const [tried, setTried] = useState(false);
  const { values, problems } = readFields(typed, units);
  const usable = Object.keys(problems).length === 0;
  const facts = usable ? { type, ...values } : reserve.facts;
  const minutes = Math.max(1, reserve.neededMinutes);
  const { restedVolts, limitVolts, readings } = reserve;
  const battery = { ...facts, openCircuitVolts: restedVolts, limitVolts };
  const from = readings.at(-1)?.minutes ?? 0;
  const supplied = facts.supplyAmps > 0 ? [{ fromMinute: from, amps: facts.loadAmps - facts.supplyAmps }] : [];
  const asked = { minutes, from, readings, draws: [{ fromMinute: 0, amps: facts.loadAmps }, ...supplied] };
  const drawn = { points: course(battery, asked), ...reserveVerdict(predict(battery, asked), minutes) };
  const record = () => {
    if (!usable) return setTried(true);
    commands.send({ type: 'battery', facts: { type, ...values } });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="battery-title" fullWidth maxWidth="md">
      <DialogTitle id="battery-title">Battery</DialogTitle>
      <DialogContent>
        <div className={dialogs.content}>
          <p>
            <b>{drawn.head}</b> {drawn.text}
          </p>
          <ReservePlot points={drawn.points} limitVolts={limitVolts} />
          <p className="quiet">
            Rested {formatQuantity(restedVolts, 'V')}
            {readings.length > 0 && `; under load ${readings.map((r) => formatQuantity(r.volts, 'V')).join(', ')}`}. Calculated as if the ignition
            were on all the time. The band holds nine of ten such batteries.
          </p>
          <BatteryFields
            type={type}
            putType={setType}
            typed={typed}
            put={(name, text) => setTyped((t) => ({ ...t, [name]: text }))}
            problems={tried ? problems : {}}
          />
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} color="inherit">
          Close
        </Button>
        <Button onClick={record} variant="contained" loading={commands.busy}>
          Save the battery
        </Button>
      </DialogActions>
    </Dialog>
  );
}
