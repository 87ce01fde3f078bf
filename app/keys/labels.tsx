import Button from '@mui/material/Button';
import { QRCodeSVG } from 'qrcode.react';
import { Link } from 'react-router';
import { keyRoles } from '../../core/library';
import { here } from '../../server/http/requestContext';
import { keptShop } from '../../server/shop/shop';
import { caseId, caseOf } from '../cases/caseId.server';
import type { Route } from './+types/labels';
import styles from './labels.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Labels ${loaderData?.number ?? ''} · Bloodstone` }];

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const { name: shop, phone } = await keptShop(services);
  return {
    shop: [shop, phone].filter(Boolean).join(', '),
    id: caseId(params.caseId),
    number: record.number,
    vehicle: record.vehicle,
    plate: record.plate,
    address: services.address ?? new URL(request.url).origin,
    keys: record.keys.map(({ tag, code, role, marks }) => ({ tag, code, role, marks })),
  };
}

/** A sheet of labels, one for each key: its tag, its case, and a code that opens the key's page. Made for A4, cut along the lines. */
export default function Labels({ loaderData: d }: Route.ComponentProps) {
  return (
    <div className={styles.desk}>
      <nav className={styles.tools} aria-label="Labels">
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
      </nav>
      <main className={styles.sheet}>
        <h1 className="hidden">Labels of case {d.number}</h1>
        {d.keys.length === 0 && <p>No key belongs to this case yet.</p>}
        <ul className={styles.labels}>
          {d.keys.map((k) => (
            <li key={k.tag}>
              <QRCodeSVG value={`${d.address}/keys/${k.code}`} size={112} level="M" title={`Opens tag ${k.tag} of case ${d.number}`} />
              <div>
                <p className={styles.tag}>{k.tag}</p>
                <p>Case {d.number}</p>
                <p>{d.plate || d.vehicle}</p>
                <p className="quiet">{keyRoles[k.role as keyof typeof keyRoles]}</p>
                <p className="mono">{k.code}</p>
                {d.shop && <p className="quiet">If found: {d.shop}</p>}
              </div>
            </li>
          ))}
        </ul>
      </main>
    </div>
  );
}
