import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Link } from 'react-router';
import { writePaper } from '../../server/offers/acts';
import { parsePaperForm } from '../../server/offers/forms';
import { type PaperKind, readPapers } from '../../server/papers/view';
import { here } from '../../server/http/requestContext';
import { pictureSize, readShop } from '../../server/shop/shop';
import { caseId, caseOf } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { Letterhead } from '../ui/Letterhead';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/papers';
import { Blocks } from './Blocks';
import styles from './papers.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Papers${loaderData ? `, case ${loaderData.number}` : ''} · Bloodstone` }];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, papers`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const { sections, papers } = await readPapers(services, record, timeZone);
  const { name, address, phone } = await readShop(services.database.db);
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    closed: record.state === 'closed',
    shop: { name, address, phone, picture: await pictureSize(services.database.db) },
    sections,
    papers,
    demo: services.demo,
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/cases/:caseId/papers', args, {
    write: async ({ form, act }) => {
      await writePaper(db, act(), caseId(args.params.caseId), parsePaperForm(form));
      return { said: 'Saved.' };
    },
  });
}

const kindSays: Readonly<Record<PaperKind, string>> = { customer: 'For the customer', file: 'For the file' };

/** Both papers as they are printed, and their sentences to be changed. */
export default function Papers({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>('papers');
  const [kind, setKind] = useState<PaperKind>('customer');
  const [edited, edit] = useState<string | null>(null);
  const pdf = (size: string) => `/cases/${d.id}/papers.pdf?paper=${kind}&size=${size}`;
  return (
    <div className={styles.page}>
      <div className={styles.tools}>
        <p>
          <Link to={`/cases/${d.id}`}>Back to the case</Link>
        </p>
        <h1>Papers</h1>
        <div role="radiogroup" aria-label="Paper" className={styles.row}>
          {(Object.keys(kindSays) as PaperKind[]).map((k) => (
            <Choice key={k} type="radio" name="paper" checked={kind === k} onChange={() => setKind(k)}>
              {kindSays[k]}
            </Choice>
          ))}
        </div>
        <div className={styles.row}>
          <Button variant="contained" component="a" href={pdf('LETTER')} download>
            PDF, Letter
          </Button>
          <Button variant="outlined" component="a" href={pdf('A4')} download>
            PDF, A4
          </Button>
          <Button variant="outlined" onClick={() => window.print()}>
            Print
          </Button>
        </div>
        <ul className={styles.links}>
          <li>
            <a href={`/cases/${d.id}/bill.csv`} download>
              Bill as CSV
            </a>
          </li>
          <li>
            <a href={`/cases/${d.id}/calendar.ics`} download>
              Waits and dates for a calendar
            </a>
          </li>
          <li>
            <a href={`/cases/${d.id}/export`} download>
              Whole case as ZIP
            </a>
          </li>
          <li>
            <Link to={`/cases/${d.id}/report`}>Full report</Link>
          </li>
          {d.closed && (
            <li>
              <Link to={`/cases/${d.id}/after`}>Did it stay fixed?</Link>
            </li>
          )}
        </ul>
        <ProblemSummary errors={act.errors} />
        <p role="status" className="quiet">
          {act.said}
        </p>
        <h2>Sentences</h2>
        <p className="quiet">They follow from the record. What you write takes their place on both papers.</p>
        {d.sections.map((s) => (
          <Section
            key={`${s.section} ${s.lines.join('|')}`}
            section={s}
            act={act}
            open={edited === s.section}
            toggle={(on) => edit(on ? s.section : null)}
          />
        ))}
      </div>
      <article className={styles.sheet} aria-label={kindSays[kind]}>
        <Letterhead shop={d.shop}>
          <p className={styles.title}>{kind === 'customer' ? 'What was found and done' : 'File copy'}</p>
          <p>
            Case {d.number}: {d.vehicle}
            {d.demo && ' · demo data, nothing here is real'}
          </p>
        </Letterhead>
        <Blocks blocks={d.papers[kind]} />
      </article>
    </div>
  );
}

type SectionData = Route.ComponentProps['loaderData']['sections'][number];

function Section({
  section,
  act,
  open,
  toggle,
}: {
  section: SectionData;
  act: ReturnType<typeof useAct<typeof action>>;
  open: boolean;
  toggle: (on: boolean) => void;
}) {
  const [lines, setLines] = useState(section.lines.join('\n'));
  return (
    <details className={styles.section} open={open} onToggle={(e) => e.currentTarget.open !== open && toggle(e.currentTarget.open)}>
      <summary>
        {section.heading}
        {section.written && <span className="quiet"> · written here</span>}
      </summary>
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          act.sendJson({ intent: 'write', section: section.section, lines });
        }}
      >
        <TextField
          name="lines"
          label={`${section.heading}, one sentence a line`}
          value={lines}
          onChange={(e) => setLines(e.target.value)}
          multiline
          minRows={3}
          fullWidth
          error={open && 'lines' in act.errors}
          helperText={open ? act.errors.lines : undefined}
          slotProps={{ htmlInput: { maxLength: 13_000 } }}
        />
        <Button type="submit" variant="outlined" loading={act.busy}>
          Save these sentences
        </Button>
      </form>
    </details>
  );
}
