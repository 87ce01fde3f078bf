import MenuItem from '@mui/material/MenuItem';
import { useNavigate } from 'react-router';
import type { Layout, MemoryLook } from '../../core/memory';
import { parseBenchQuery } from '../../server/cases/queries';
import { keptLayouts } from '../../server/library/layouts';
import { here } from '../../server/http/requestContext';
import { parseMeasurement } from '../../server/ledger/measurements/form';
import { recordMeasurement } from '../../server/ledger/measurements/record';
import { Field } from '../intake/parts';
import { acting } from '../respond.server';
import type { Route } from './+types/memory';
import { benchCase } from './benchCase.server';
import bench from './bench.module.css';
import { CasePick } from './CasePick';
import { memoryCase } from './memoryCase.server';
import { Reads, SimulatedBox } from './memory/Reads';
import { type MemoryCase, SaveSlots } from './memory/SaveSlots';
import { Slots } from './memory/Slots';
import { type Memory, useMemory, useSimulatedReader } from './memory/useMemory';
import { WriteSlot } from './memory/WriteSlot';

export const meta: Route.MetaFunction = () => [{ title: 'Key memory · Bloodstone' }];
export const handle = {
  place: ({ chosen }: Route.ComponentProps['loaderData']) => ({
    title: 'Key memory',
    detail: chosen ? `case ${chosen.number} · ${chosen.vehicle}` : 'files with key slots',
  }),
};

/** The layouts that are offered; those of the case's system type come first. No byte of a memory ever comes here. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const asked = parseBenchQuery(new URL(request.url).searchParams);
  const { record, cases } = await benchCase(services, asked.caseId);
  const layouts = (await keptLayouts(services)).filter((l) => !l.retired).map((l) => l.body);
  const own = layouts.filter((l) => l.family === record?.family.id);
  return {
    cases,
    chosen: record ? { ...memoryCase(record, session!.person), vehicle: record.vehicle } : null,
    layouts: [...own, ...layouts.filter((l) => !own.includes(l))],
    layout: layouts.find((l) => l.id === asked.layout)?.id ?? own[0]?.id ?? '',
  };
}

export async function action(args: Route.ActionArgs) {
  return acting('/bench/memory', args, {
    measure: async ({ form, services, act }) => {
      const { say } = await recordMeasurement(services, act(), parseMeasurement(form));
      return { said: `Saved to the case. ${say}` };
    },
  });
}

/** Memory files on the bench: read twice and compared, slots seen, one written, read back. The bytes stay in this page. */
export default function MemoryBench({ loaderData: d }: Route.ComponentProps) {
  const navigate = useNavigate();
  const go = (caseId: string, layout: string) => {
    const query = new URLSearchParams({ ...(caseId && { case: caseId }), ...(layout && { layout }) });
    void navigate(`?${query}`, { replace: true });
  };
  const layout = d.layouts.find((l) => l.id === d.layout);
  const caseId = d.chosen ? String(d.chosen.id) : '';
  const picks = (
    <>
      <CasePick cases={d.cases} chosen={d.chosen?.id ?? null} onPick={(id) => go(id, '')} />
      <Field name="layout" label="Layout of the memory" value={d.layout} put={(id) => go(caseId, id)} errors={{}} select>
        {d.layouts.map((l) => (
          <MenuItem key={l.id} value={l.id}>
            {l.title}
          </MenuItem>
        ))}
      </Field>
    </>
  );
  if (layout) return <Sheet key={layout.id} layout={layout} picks={picks} chosen={d.chosen} />;
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Key memory</h1>
      <section className={bench.input} aria-label="Reads">
        {picks}
      </section>
      <section className={bench.first} aria-label="Slots">
        <p>Choose the layout of the memory first: it says where the slots are.</p>
      </section>
      <section className={bench.verdict} aria-label="Result" />
    </div>
  );
}

function Sheet({ layout, picks, chosen }: { layout: Layout; picks: React.ReactNode; chosen: MemoryCase | null }) {
  const m = useMemory(layout);
  const sim = useSimulatedReader(layout);
  const { look, wanted } = m;
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Key memory</h1>
      <section className={bench.input} aria-label="Memory">
        {picks}
        <SimulatedBox sim={sim} />
        <p className="quiet">The bytes are neither saved nor sent. They are gone when you leave this page.</p>
      </section>
      <section className={bench.first} aria-label="Reads and slots">
        <Reads m={m} sim={sim} />
        <h2>{layout.title}</h2>
        {look?.slots ? (
          <Slots layout={layout} look={look} marked={wanted?.slot ?? look.nextSlot} inHand={chosen === null} />
        ) : (
          <p>Read the memory twice: raw (.bin), Intel HEX (.hex) or S-record (.s19). Lift the contacts and put them on again in between.</p>
        )}
      </section>
      <section className={bench.verdict} aria-label="Result" aria-live="polite">
        {look?.slots ? <Said layout={layout} look={look} m={m} /> : <h2>Not read yet</h2>}
        {look?.proven && <WriteSlot layout={layout} m={m} sim={sim} />}
        {chosen && <SaveSlots key={chosen.id} to={chosen} layout={layout} m={m} />}
      </section>
    </div>
  );
}

const heads = {
  same: 'Both reads are equal, byte for byte.',
  length: 'The reads differ in length.',
  shift: 'The second read is shifted.',
  line: 'One data line is stuck.',
  together: 'The reads differ in one place.',
  scattered: 'The reads differ.',
} as const;

function Said({ layout, look, m }: { layout: Layout; look: MemoryLook; m: Memory }) {
  const { compared, slots, proven, nextSlot, judged, lost, problems } = look;
  const all = [...slots!.problems, ...problems];
  return (
    <>
      <h2>{judged ? (judged.fine ? 'The write is good.' : 'The write is not good.') : compared ? heads[compared.says] : 'Read once'}</h2>
      {judged && (
        <>
          <p className={bench.said}>{judged.text}</p>
          <Lines label="What else changed" lines={judged.unexpected} />
        </>
      )}
      {!judged && compared?.says !== 'same' && (
        <p className={bench.said}>{compared ? compared.text : 'One bad pin makes a wrong file that seems right. Read it a second time.'}</p>
      )}
      {!judged && proven && nextSlot !== null && !m.wanted && (
        <p>
          Next slot: <b>{nextSlot}</b>, empty in every byte of both reads.
        </p>
      )}
      {m.wanted && !judged && m.reads.after === undefined && <p className="quiet">Not read back yet.</p>}
      {!judged && <Lines label="Problems in the memory" lines={all.map((p) => [p.path, p.message].filter(Boolean).join(': '))} />}
      {lost && (
        <>
          <h3>If the older file is written back</h3>
          {lost.length === 0 ? <p>Nothing is lost: slots and counters are the same.</p> : <Lines label="What would be lost" lines={lost} />}
        </>
      )}
      {look.diff && !judged && look.diff.changes.length > 0 && (
        <Lines
          label="What changed"
          lines={look.diff.changes.map((c) => `Slot ${c.slot}, ${titleOf(layout, c.field)}: ${c.before} before, ${c.after} now`)}
        />
      )}
    </>
  );
}

const titleOf = ({ fields, checksums }: Layout, id: string | null) =>
  [...fields, ...checksums].find((f) => f.id === id)?.title ?? (id === null ? 'bytes without a name' : id);

function Lines({ label, lines }: { label: string; lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <ul aria-label={label}>
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}
