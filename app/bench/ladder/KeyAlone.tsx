import { useState } from 'react';
import { formatUncertain, formatOhms, type KeyAssessed, type Ladder, ladderVerdict, received } from '../../../core/ladder';
import { ResistorKeyDrawing } from '../../drawings/ResistorKeyDrawing';
import { Choice } from '../../ui/Choice';
import { UncertaintyBudget } from './UncertaintyBudget';
import styles from './ladder.module.css';
import { LadderChart, Plot } from './Plot';
import { isTurned, type Place, type Sheet, sideOf } from './sheet';

const placeWords = (place: Place, pellets: number): string =>
  `${pellets === 2 ? `side ${sideOf(place)}, ` : ''}${isTurned(place) ? 'turned over' : 'as it goes in'}`;

/** Which pellet is read, and how the key lies. */
export function PlacePick({ ladder, place, sheet, onPlace }: { ladder: Ladder; place: Place; sheet: Sheet; onPlace: (place: Place) => void }) {
  const all = (['1in', '1turned', '2in', '2turned'] as const).filter((p) => sideOf(p) <= ladder.pellets);
  return (
    <fieldset className={styles.places}>
      <legend className="hidden">{ladder.pellets === 2 ? 'Side, and which way the key faces' : 'Which way the key faces'}</legend>
      <ResistorKeyDrawing turned={isTurned(place)} second={sideOf(place) === 2} />
      {all.map((p) => (
        <Choice key={p} type="radio" name="place" value={p} checked={place === p} onChange={() => onPlace(p)}>
          {placeWords(p, ladder.pellets)}
          {sheet.groups[p].length > 0 ? ` · ${sheet.groups[p].length}` : ''}
        </Choice>
      ))}
    </fieldset>
  );
}

/** The ladder with the readings on it, and the same as a table. */
export function KeyPicture({ sheet, ladder, place, found }: { sheet: Sheet; ladder: Ladder; place: Place; found: KeyAssessed | null }) {
  const [near, setNear] = useState(false);
  const readings = sheet.groups[place].map(received);
  const pellet = found?.pellets.find((p) => p.side === sideOf(place));
  const step = pellet?.joint.step ?? null;
  const said = pellet ? ladderVerdict(pellet.joint, ladder).head : 'Nothing measured yet.';
  return (
    <>
      <Plot say={`${readings.length} readings on a chart of ${ladder.steps.length} values. ${said}`}>
        <LadderChart steps={ladder.steps} marked={step?.step ?? null} readings={readings} near={near ? step : null} />
      </Plot>
      <div className={styles.under}>
        {step && (
          <Choice type="checkbox" name="near" checked={near} onChange={(event) => setNear(event.target.checked)}>
            Close-up of value {step.step}
          </Choice>
        )}
        <details>
          <summary>As a table</summary>
          <div className={styles.table} tabIndex={0} role="region" aria-label="Values and their chances">
            <table>
              <thead>
                <tr>
                  <th scope="col">Value</th>
                  <th scope="col">Nominal</th>
                  <th scope="col">Window</th>
                  <th scope="col">Chance</th>
                  <th scope="col">Readings</th>
                </tr>
              </thead>
              <tbody>
                {ladder.steps.map((s) => {
                  const inside = readings.filter((r) => r >= s.low && r <= s.high).length;
                  return (
                    <tr key={s.step} data-marked={s.step === step?.step || undefined}>
                      <th scope="row">{s.step}</th>
                      <td className="mono">{formatOhms(s.nominal)}</td>
                      <td className="mono">
                        {formatOhms(s.low)} to {formatOhms(s.high)}
                      </td>
                      <td className="mono">{(pellet?.joint.steps.find((x) => x.step === s.step)?.p ?? 0).toFixed(3)}</td>
                      <td className="mono">{inside > 0 ? inside : ''}</td>
                    </tr>
                  );
                })}
                {pellet?.joint.others.map((o) => (
                  <tr key={o.verdict}>
                    <th scope="row">{otherWords[o.verdict]}</th>
                    <td />
                    <td />
                    <td className="mono">{o.p.toFixed(3)}</td>
                    <td />
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </details>
      </div>
    </>
  );
}
const otherWords = { between: 'no value', open: 'open', short: 'short', unstable: 'jumping' } as const;

/** The value with its uncertainty, the verdict and what is left to do. */
export function KeyVerdict({ found, place }: { found: KeyAssessed | null; place: Place }) {
  if (!found)
    return (
      <>
        <h2>Nothing measured yet</h2>
        <p className="quiet">Touch the tips together for the leads. Then measure the resistor chip five times and type each reading.</p>
      </>
    );
  const pellet = found.pellets.find((p) => p.side === sideOf(place)) ?? found.pellets[0]!;
  const { joint } = pellet;
  return (
    <>
      {joint.n > 0 && (
        <p className={styles.value}>
          <span className="mono">{formatOhms(joint.mean)}</span>
          <small className="mono">
            {formatUncertain(joint.mean, joint.expanded).replace(/^.*±/, '±')} {joint.mean >= 1000 ? 'kΩ' : 'Ω'} (95 %), {joint.n}{' '}
            {joint.n === 1 ? 'reading' : 'readings'}
          </small>
        </p>
      )}
      <h2>{found.head}</h2>
      <p className={styles.said}>{found.text}</p>
      {found.missing && <p className="quiet">{found.missing}</p>}
      <UncertaintyBudget found={joint} />
    </>
  );
}
