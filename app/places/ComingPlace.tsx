import { Link } from 'react-router';

/** A place of the rail that is not built yet says so, and what it will be for. */
export function ComingPlace({ title, say }: { title: string; say: string }) {
  return (
    <div style={{ padding: 32, maxWidth: 640, display: 'grid', gap: 16 }}>
      <h1 style={{ fontSize: 32 }}>{title} is not built yet</h1>
      <p>{say}</p>
      <p>
        <Link to="/">Go to the Floor</Link>
      </p>
    </div>
  );
}
