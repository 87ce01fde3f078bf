import { Link } from 'react-router';
import { useTimes } from '../ui/clock';

/** The versions of a document of the shop, the newest first, each as it was. Nothing where there is one only. */
export function Versions({ at, shown, versions }: { at: string; shown: number; versions: readonly { version: number; at: number; by: string }[] }) {
  const { day, hm } = useTimes();
  if (versions.length < 2) return null;
  return (
    <>
      <h2>Versions</h2>
      <ul>
        {versions.map((v) => (
          <li key={v.version}>
            {v.version === shown ? <b>Version {v.version}</b> : <Link to={`${at}?version=${v.version}`}>Version {v.version}</Link>}{' '}
            <span className="quiet">
              saved {v.by && `by ${v.by}, `}
              {day(v.at)}, {hm(v.at)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
