import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { authorityKinds } from '../../core/library';
import { inSentence } from '../../core/units';
import { later } from '../ui/later';
import { LinkDot } from '../ui/LinkGlyph';
import type { CasePage } from './page';
import styles from './Record.module.css';
import type { RowId } from './RecordRow';

const Row = later('RecordRow', () => import('./RecordRow'), <p className="quiet">One moment …</p>);

/** What is missing, in the words of its row. */
const missingWords: Readonly<Record<CasePage['missing'][number], string>> = {
  authority: 'none seen yet',
  sender: 'sender’s identity not seen yet',
  customer: 'customer not noted',
  vin: 'no VIN',
  countersBefore: 'not read before the work',
  countersAfter: 'not read again after the work',
  photos: 'none yet',
};

interface Entry {
  id: RowId;
  title: string;
  /** What this row lacks. */
  lacks: CasePage['missing'][number][];
  /** What it holds, in a few words. */
  holds: string;
}

/** Everything that is recorded beside the tests, in one list of rows to open; what is still missing stands first. */
export function Record({ page }: { page: CasePage }) {
  const { record } = page;
  const open = record.state === 'open';
  const { hash, key } = useLocation();
  const rows = useRef<HTMLDivElement>(null);
  /** Rows that have been opened: what they hold stays, so that nothing typed is lost when one is closed. */
  const [opened, setOpened] = useState<readonly RowId[]>([]);
  const show = (id: RowId) => setOpened((before) => (before.includes(id) ? before : [...before, id]));
  useEffect(() => {
    // Opened before the page was ready to hear of it.
    for (const row of rows.current?.querySelectorAll('details[open]') ?? []) show((row as HTMLElement).dataset.row as RowId);
  }, []);
  useEffect(() => {
    // Whoever was sent to one of the rows sees it open; browsers do so by themselves only where the address is loaded anew.
    const row = hash === '' ? null : document.getElementById(hash.slice(1))?.closest('details');
    if (row) row.open = true;
  }, [hash, key]);
  const lacks = (...of: Entry['lacks']) => page.missing.filter((m) => of.includes(m));
  const entries: Entry[] = [
    {
      id: 'authority',
      title: 'Authority',
      lacks: lacks('authority', 'sender'),
      holds: record.authority.map((a) => authorityKinds[a.kind as keyof typeof authorityKinds]).join(', ') || 'none seen',
    },
    ...(open
      ? [
          {
            id: 'owner',
            title: record.kind === 'parts' ? 'Sender' : 'Customer and VIN',
            lacks: lacks('customer', 'vin'),
            holds: [record.customer?.name, record.identification].filter(Boolean).join(', '),
          } satisfies Entry,
        ]
      : []),
    {
      id: 'counters',
      title: 'Counters',
      lacks: lacks('countersBefore', 'countersAfter'),
      holds: record.counters.length === 0 ? 'none read' : `${record.counters.length} read`,
    },
    {
      id: 'photos',
      title: 'Photos',
      lacks: lacks('photos'),
      holds: record.photos.length === 0 ? 'none' : String(record.photos.length),
    },
    ...(page.learnt.length > 0
      ? [
          {
            id: 'learnt',
            title: 'Looked up in this case',
            lacks: [],
            holds: `${page.learnt.length === 1 ? '1 number' : `${page.learnt.length} numbers`}${page.kept ? ', saved' : ''}`,
          } satisfies Entry,
        ]
      : []),
    ...(record.kind === 'vehicle'
      ? [
          {
            id: 'replaced',
            title: 'Replaced parts and trouble codes',
            lacks: [],
            holds: [
              page.planned && `step ${page.planned.number} of ${page.planned.of} of the plan`,
              record.changed.some((c) => ['ecm', 'immobilizerModule', 'otherModule'].includes(c.what)) && 'a module was replaced',
              record.scans.length > 0 && `${record.scans.length} ${record.scans.length === 1 ? 'scan' : 'scans'}`,
            ]
              .filter(Boolean)
              .join(', '),
          } satisfies Entry,
        ]
      : []),
    { id: 'vault', title: 'Vault', lacks: [], holds: '' },
    { id: 'exports', title: 'Labels and exports', lacks: [], holds: '' },
    ...(open ? [{ id: 'park', title: 'Park the case', lacks: [], holds: '' } satisfies Entry] : []),
  ];
  const ordered = [...entries.filter((e) => e.lacks.length > 0), ...entries.filter((e) => e.lacks.length === 0)];
  return (
    <section className={styles.record} aria-labelledby="record">
      <h2 id="record">Record</h2>
      <p className="quiet">
        {page.missing.length > 0
          ? `Still missing: ${ordered
              .filter((e) => e.lacks.length > 0)
              .map((e) => inSentence(e.title))
              .join(', ')}.`
          : open
            ? 'Nothing is missing.'
            : ''}
      </p>
      <div className={styles.rows} ref={rows}>
        {ordered.map((e) => (
          <details key={e.id} className={styles.row} data-row={e.id} onToggle={(event) => event.currentTarget.open && show(e.id)}>
            <summary>
              <LinkDot state={e.lacks.length > 0 ? 'unproven' : 'holds'} />
              <h3 id={`record-${e.id}`}>{e.title}</h3>
              <span className={e.lacks.length > 0 ? styles.lacks : 'quiet'}>
                {e.lacks.length > 0 ? e.lacks.map((m) => missingWords[m]).join(', ') : e.holds}
              </span>
            </summary>
            <section id={e.id} aria-labelledby={`record-${e.id}`} className={styles.body}>
              <Row shown={opened.includes(e.id)} id={e.id} page={page} />
            </section>
          </details>
        ))}
      </div>
    </section>
  );
}
