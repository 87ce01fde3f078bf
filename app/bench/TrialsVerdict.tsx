import { type TrialGroup, trialsVerdict } from '../../core/trials';
import { formatChance } from '../../core/units';
import bench from './bench.module.css';

/** What so many checks say, and how sure that is. @param atLeast of the case's test: it is answered by no fewer */
export default function TrialsVerdict({
  groups,
  hit,
  target,
  atLeast,
}: {
  groups: readonly TrialGroup[];
  hit: string;
  target: number;
  atLeast: number | undefined;
}) {
  const said = trialsVerdict(groups, hit, { target });
  return (
    <>
      <h2>{said.head}</h2>
      <p className={bench.said}>{said.text}</p>
      {said.trials > 0 && (
        <dl className={bench.figures}>
          <div>
            <dt>Rate</dt>
            <dd className="mono">{formatChance(said.rate!)}</dd>
          </div>
          <div>
            <dt>True rate, 95 %</dt>
            <dd className="mono">
              {formatChance(said.low)} to {formatChance(said.high)}
            </dd>
          </div>
          <div>
            <dt>Misses at most, 95 %</dt>
            <dd className="mono">{formatChance(said.missUpper)}</dd>
          </div>
        </dl>
      )}
      {atLeast !== undefined && said.trials > 0 && said.state !== 'sometimes' && said.trials < atLeast && (
        <p className="quiet">{atLeast - said.trials} more checks before it answers the test of the case.</p>
      )}
    </>
  );
}
