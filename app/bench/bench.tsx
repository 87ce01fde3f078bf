import { Link } from 'react-router';
import { lastUses } from '../../server/ledger/measurements/lastUses';
import { here } from '../../server/http/requestContext';
import { InstrumentDrawing } from '../drawings/InstrumentDrawing';
import { useTimes } from '../ui/clock';
import type { Route } from './+types/bench';
import styles from './bench.module.css';

export const meta = () => [{ title: 'Bench · Bloodstone' }];
export const handle = { place: () => ({ title: 'Bench', detail: 'the instruments' }) };

export const loader = async ({ context }: Route.LoaderArgs) => ({ uses: await lastUses(context.get(here).services.database.db) });

const instruments = [
  {
    id: 'lamp',
    name: 'Light',
    say: 'Tap along with the security light, or read a recording: which pattern it is, and how sure that is.',
  },
  {
    id: 'ladder',
    name: 'Resistor key',
    say: 'Which value of the chart a resistor key has, what the steering column adds, and what happens when it moves.',
  },
  {
    id: 'substitute',
    name: 'Substitute',
    say: 'Build a value from the resistors in the drawer, or find the value nobody knows.',
  },
  { id: 'trials', name: 'Repeat test', say: 'Does it work every time? Count yes and no, and see how many misses are still possible.' },
  {
    id: 'bursts',
    name: 'Field and answer',
    say: 'A probe at the antenna coil, on a scope: how often it asks, and whether a key answers, beside captures with a key in foil.',
  },
  {
    id: 'battery',
    name: 'Battery',
    say: 'How long the battery holds while the ignition is on, and what a maintainer has to give.',
  },
  {
    id: 'memory',
    name: 'Key memory',
    say: 'A memory file with key slots: read twice and compared, the next empty slot, the write and what it changed.',
  },
  { id: 'copy-check', name: 'Copy check', say: 'A secret, label digits or a VIN, typed twice: where the two entries differ, and how.' },
] as const;

/** The instruments, each with a drawing of what it measures and what it was used for last. */
export default function Bench({ loaderData: { uses } }: Route.ComponentProps) {
  const { hm, day } = useTimes();
  return (
    <div className={styles.index}>
      <h1>What do you want to measure?</h1>
      <ul>
        {instruments.map(({ id, name, say }) => (
          <li key={id}>
            <InstrumentDrawing of={id} width={112} />
            <div>
              <Link to={`/bench/${id}`} className={styles.name!}>
                {name}
              </Link>
              <p>{say}</p>
              {id !== 'copy-check' && id !== 'battery' && id !== 'memory' && uses[id].length > 0 && (
                <ul className={styles.uses} aria-label={`${name}, last uses`}>
                  {uses[id].map((u, i) => (
                    <li key={i}>
                      <Link to={u.to}>{u.case}</Link> <span>{u.say}</span>{' '}
                      <span className="quiet">
                        {day(u.at)}, {hm(u.at)}
                      </span>
                    </li>
                  ))}
                </ul>
              )}
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
