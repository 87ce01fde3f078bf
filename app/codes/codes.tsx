import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import { Form, Link } from 'react-router';
import {
  codesReadTest,
  type Coverage,
  coverageNoteWords,
  coverages,
  coverageWords,
  findCodes,
  noneShare,
  mostScanText,
  type ScannedModule,
  scannedWords,
} from '../../core/codes';
import type { Family } from '../../core/library';
import { parseLiveData, recordLiveData, viewLiveData } from '../../server/ledger/liveData';
import { modulesToAsk, parseScan, recordScan, viewScans } from '../../server/cases/scans';
import { here } from '../../server/http/requestContext';
import { caseId, caseOf } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/codes';
import { CodeGroups, whereWords } from './CodeGroups';
import { Guesses } from './Guesses';
import { LiveData } from './LiveData';
import styles from './codes.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Trouble codes${loaderData ? `, case ${loaderData.number}` : ''} · Bloodstone` },
];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, trouble codes`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  const content = services.library.replacements.get(family.id);
  const tests = new Map(family.tests.map((t) => [t.id, t.title] as const));
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    open: record.state === 'open',
    worked: record.runs.length > 0 || record.repairActions.some((d) => d.kind === 'repair' && d.result !== null),
    modules: modulesToAsk(content),
    nothing: nothingShare(family),
    live: viewLiveData(record, family),
    cautions: Object.fromEntries(services.library.cautions),
    ...viewScans(record.scans, content, services.library.codes, { ...(record.profile ? { profile: record.profile.id } : {}), tests }),
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const { database, documents, library } = args.context.get(here).services;
  return acting('/cases/:caseId/codes', args, {
    scan: async ({ form, act }) => {
      const answered = await recordScan({ db: database.db, documents, library }, act(), id, parseScan(form));
      return { said: answered.length === 0 ? 'Saved to the case.' : `Saved to the case, and it answers: ${answered.join('; ')}.` };
    },
    live: async ({ form, act }) => {
      const titles = await recordLiveData(database.db, documents, act(), id, parseLiveData(form));
      return { said: `Saved to the record: ${titles.join('; ')}.` };
    },
  });
}

/** In how many of a hundred scans nothing that matters is seen, over the faults of a system type. */
function nothingShare(family: Family): { least: number; most: number } | null {
  const test = family.tests.find((t) => t.id === codesReadTest);
  if (!test?.p || !family.faults) return null;
  const { least, most } = noneShare(
    test.p,
    family.faults.map((f) => f.id),
  );
  return { least: Math.round(least * 100), most: Math.round(most * 100) };
}

type Shown = Route.ComponentProps['loaderData'];

/** The scans of a case: what was found before the work and after it, which modules were heard, and what it means. */
export default function CaseCodes({ loaderData: d }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </p>
      <h1>Trouble codes and live data</h1>
      {d.compared && <Compared compared={d.compared} />}
      {d.open ? <ScanForm key={d.scans.length} page={d} /> : <p className="quiet">This case is not open: nothing more can be recorded.</p>}
      {d.open && <LiveData live={d.live} cautions={d.cautions} />}
      {d.scans.length === 0 ? (
        <p className={styles.empty}>No scan is recorded yet.</p>
      ) : (
        <>
          {d.scans.map((scan, i) => (
            <OneScan key={scan.id} number={d.scans.length - i} scan={scan} nothing={d.nothing} />
          ))}
          <p className={styles.exports}>
            <a href={`/cases/${d.id}/codes/export`}>Export as CSV</a>
            <a href={`/cases/${d.id}/codes/export?as=json`}>Export as JSON</a>
          </p>
        </>
      )}
    </div>
  );
}

/** A report to paste, and who was heard: what was not scanned is not silent. */
function ScanForm({ page }: { page: Shown }) {
  const act = useAct<typeof action>();
  const [text, setText] = useState('');
  const found = useMemo(() => findCodes(text.slice(0, mostScanText)), [text]);
  // Of a file with fields, who was heard; and a module whose codes were read has answered.
  const heard = new Map<ScannedModule, Coverage>(Object.entries(found.coverage ?? {}) as [ScannedModule, Coverage][]);
  for (const { module } of found.codes) if (module !== undefined) heard.set(module, 'answered');
  const modules = [...new Set<ScannedModule>([...page.modules, ...heard.keys()])];
  return (
    <Form className={styles.form} onSubmit={act.send('scan')} noValidate>
      <ProblemSummary errors={act.errors} />
      <TextField
        label="Scan report"
        name="text"
        multiline
        minRows={4}
        maxRows={12}
        value={text}
        onChange={(event) => setText(event.target.value)}
        error={'text' in act.errors}
        helperText={act.errors.text ?? 'Paste it as it is: text, CSV or JSON. Trouble codes are saved, the rest is not.'}
        slotProps={{ htmlInput: { maxLength: mostScanText, spellCheck: false } }}
      />
      <p role="status" className={styles.count}>
        {found.codes.length === 0 ? (text.trim() === '' ? 'No text yet.' : 'No trouble code found in this text.') : `${found.codes.length} found.`}
      </p>
      <Guesses guesses={found.guesses} onConfirm={(g) => setText(`${text.slice(0, g.at)}${g.code}${text.slice(g.at + g.text.length)}`)} />
      <div className={styles.coverage}>
        {modules.map((module) => (
          <fieldset key={module}>
            <legend>{scannedWords[module]}</legend>
            {coverages.map((coverage) => (
              <Choice
                key={`${coverage} ${heard.get(module)}`}
                type="radio"
                name={`coverage.${module}`}
                value={coverage}
                defaultChecked={coverage === (heard.get(module) ?? 'notAsked')}
              >
                {coverageWords[coverage]}
              </Choice>
            ))}
          </fieldset>
        ))}
      </div>
      <fieldset className={styles.phase}>
        <legend>When</legend>
        <Choice type="radio" name="phase" value="before" defaultChecked={!page.worked}>
          before the work
        </Choice>
        <Choice type="radio" name="phase" value="after" defaultChecked={page.worked}>
          after the work
        </Choice>
      </fieldset>
      <FormControlLabel control={<Checkbox name="cleared" />} label="The trouble codes were cleared after this scan" />
      {'cleared' in act.errors && <FormControlLabel control={<Checkbox name="knowing" />} label="They were cleared anyway" />}
      <p className="quiet">Clear them only after this is saved, and only where the service information allows it: what returns is real.</p>
      <TextField label="Note, without names" name="note" size="small" slotProps={{ htmlInput: { maxLength: 300 } }} />
      <Button type="submit" variant="contained" loading={act.busy} sx={{ minHeight: 56, justifySelf: 'start' }}>
        Save the scan
      </Button>
      {act.said && <p role="status">{act.said}</p>}
    </Form>
  );
}

type ScanShown = Shown['scans'][number];
const shownCodes = (codes: ScanShown['codes']) => codes.map((c) => ({ ...c, where: whereWords(c.module, c.status) }));

function OneScan({ number, scan, nothing }: { number: number; scan: ScanShown; nothing: Shown['nothing'] }) {
  const { day, hm } = useTimes();
  const id = `scan-${scan.id}`;
  return (
    <section aria-labelledby={id} className={styles.scan}>
      <h2 id={id}>
        Scan {number}, {scan.phase} the work
      </h2>
      <p className="quiet">
        {day(scan.at)}, {hm(scan.at)}, by {scan.by}. {scan.cleared ? 'Cleared afterward. ' : ''}
        {scan.note}
      </p>
      <p className={styles.heard}>{scan.coverage.map((c) => `${c.module}: ${coverageWords[c.coverage]}`).join(' · ')}</p>
      {scan.notes
        .filter((note) => !(nothing && scan.shows === 'none' && note === 'noCodes'))
        .map((note) => (
          <p key={note} className={styles.note}>
            {coverageNoteWords[note]}
          </p>
        ))}
      {nothing && scan.shows === 'none' && (
        <p className={styles.note}>
          No code that matters for a start. That says little, and a dead key sets none: depending on the fault, {nothing.least} to {nothing.most} of
          100 scans of this system type look like this.
        </p>
      )}
      <CodeGroups codes={shownCodes(scan.codes)} level="h3" name={`${scan.id}-`} />
    </section>
  );
}

const sides = [
  ['still', 'Still there'],
  ['added', 'New'],
  ['unknown', 'Not known: the module was not heard again'],
  ['gone', 'Gone'],
] as const;

/** The last scan after the work against the last one before it. */
function Compared({ compared }: { compared: NonNullable<Shown['compared']> }) {
  return (
    <section aria-labelledby="compared" className={styles.compared}>
      <h2 id="compared">Before and after</h2>
      <dl>
        {sides.map(([side, title]) => (
          <div key={side}>
            <dt>{title}</dt>
            <dd>{compared[side].length === 0 ? 'none' : compared[side].map((c) => `${c.code} ${c.text}`).join('; ')}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
