import { useMemo } from 'react';
import { Link, useLocation } from 'react-router';
import { here } from '../../server/http/requestContext';
import { resolveLamps, valuesOf } from '../../core/library';
import { compile, extraCycle, numbersGiven, paramsAt, type Procedure, reserveOf, sayReserve, view } from '../../core/procedure';
import { communicationCodes } from '../../core/codes';
import type { Ladder } from '../../core/ladder';
import { type CaseRecord, onRecord } from '../../server/record/cases';
import type { Layout } from '../../core/memory';
import { keptLayouts } from '../../server/library/layouts';
import { offeredLadders } from '../../server/library/ladders';
import type { Services } from '../../server/services/services';
import { parseRecordId } from '../../server/base/fields';
import { shopOdds } from '../../server/runs/odds';
import { foldRun, keptRun, programOf } from '../../server/runs/runs';
import { may } from '../../server/acts/rights';
import { memoryCase } from '../bench/memoryCase.server';
import { caseId } from '../cases/caseId.server';
import { notThere } from '../respond.server';
import { useNewest } from '../offline/kept';
import { useNow, useReadClock } from '../ui/clock';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/run';
import { Ended } from './Ended';
import styles from './run.module.css';
import { Reserve } from './Reserve';
import { Sequence } from './Sequence';
import type { Communication } from './Reads';
import { SignalBar } from './SignalBar';
import { Step } from './Step';
import { useCommands } from './useCommands';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.run.procedure.title ?? 'Run'} · Bloodstone` }];
export const handle = {
  place: ({ run, vehicle, bay, number, key }: Route.ComponentProps['loaderData']) => ({
    title: `${run.procedure.title}${bay ? `, ${bay.toLowerCase()}` : ''}`,
    detail: `${vehicle} · case ${number} · tag ${key} first`,
  }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const id = caseId(params.caseId);
  const none = () => notThere('Run not found', `Case ${params.caseId} has no run ${params.runId}. Open the case and choose the run there.`);
  const run = await keptRun(services, parseRecordId(params.runId) ?? none());
  if (!run || run.caseId !== id) return none();
  const record = (await services.cases.one(id))!;
  const family = await services.documents.family(record.family);
  const first = run.events[0]!;
  return {
    run,
    record: onRecord(record),
    vehicle: record.vehicle,
    bay: record.bay,
    number: record.number,
    closed: record.state === 'closed',
    key: first.type === 'started' ? (first.keys[0] ?? '') : '',
    odds: extraCycle(programOf(run.procedure), valuesOf(run.params), foldRun(run)) ? await shopOdds(services, run.procedure.id) : null,
    ladder: await ladderOf(services, record, run.procedure),
    layouts: await layoutsOf(services, family.id, run.procedure),
    memory: memoryCase(record, session!.person),
    actor: { id: session!.person.id, name: session!.person.name },
    mayWaive: may(session!.person, 'waivePrecondition'),
    communication: communicationOf(record),
    cautions: Object.fromEntries(services.library.cautions),
    lamps: resolveLamps(family.lamps, paramsAt(run.params, numbersGiven(run.events))),
  };
}

/** What the last scan of the case says of communication, for a step that reads it; null: none is saved. */
function communicationOf({ scans }: CaseRecord): Communication | null {
  const last = scans.at(-1);
  return last ? { codes: communicationCodes(last.found), at: last.at, cleared: last.cleared } : null;
}

/** Where the slots of this system type's memories stand, where a step of the run reads one. */
async function layoutsOf(services: Services, family: string, procedure: Procedure): Promise<Layout[]> {
  if (!compile(procedure).nodes.some((n) => n.op === 'leaf' && 'file' in n.step)) return [];
  return (await keptLayouts(services)).filter((l) => !l.retired && l.body.family === family).map((l) => l.body);
}

/** The vehicle's value chart, where a step of the run reads a resistor key. */
async function ladderOf(services: Services, record: CaseRecord, procedure: Procedure): Promise<Ladder | null> {
  if (!compile(procedure).nodes.some((n) => n.op === 'leaf' && 'reading' in n.step && n.step.reading === 'ladder')) return null;
  const profile = record.profile ? await services.documents.profile(record.profile) : undefined;
  const offered = await offeredLadders(services, profile?.ladder);
  return offered.find((l) => l.ladder.id === profile?.ladder)?.ladder ?? null;
}

/** The run is folded here from its definition and events, so that times go on without the server; the server decides. */
export default function Run({ loaderData: loaded }: Route.ComponentProps) {
  const loaderData = useNewest(loaded, (kept, shown) => kept.run.events.length > shown.run.events.length);
  const { run, record, actor, mayWaive } = loaderData;
  const { pathname } = useLocation();
  const now = useNow();
  const readClock = useReadClock();
  const program = useMemo(() => compile(run.procedure), [run.procedure]);
  const values = useMemo(() => valuesOf(run.params), [run.params]);
  const here = useMemo(
    () => ({ program, params: run.params, values, events: run.events, actor, record, mayWaive }),
    [program, values, run, actor, record, mayWaive],
  );
  const commands = useCommands(run.id, here, readClock);
  const { state } = commands;
  const shown = view({ program, params: run.params, values, record }, state, now);
  const reserve = useMemo(() => reserveOf(program, values, state), [program, values, state]);
  const battery = reserve && sayReserve(reserve, now);
  // What can't be gone back from is not begun on a battery that won't last it.
  if (shown.kind === 'commitment' && battery && battery.attention !== 'none') shown.warnings.push(battery.text);

  return (
    <div className={styles.page} data-attention={shown.attention}>
      <Sequence marks={shown.sequence} wait={shown.wait} now={now} />
      {reserve && battery && <Reserve reserve={reserve} said={battery} commands={commands} />}
      {commands.unsent && (
        <p className={styles.banner} role="alert">
          {commands.unsent === 'signedOut' ? (
            <>
              Not sent yet: you are signed out here. It is saved in this browser.{' '}
              <Link to={`/sign-in?to=${encodeURIComponent(pathname)}`}>Sign in</Link> and it is sent at once. Timers keep running.
            </>
          ) : commands.unsent === 'someoneElse' ? (
            'Not sent yet: somebody else answered here without a connection. It is saved in this browser and sent when that person signs in again.'
          ) : (
            `Not sent yet: no answer. ${commands.waiting > 1 ? `${commands.waiting} answers are saved here and sent in their order` : 'It is saved here and sent again automatically'}. Timers keep running.`
          )}
        </p>
      )}
      {commands.arriving > 0 && (
        <p className={styles.banner} role="status">
          The connection is back. Still to be sent: {commands.arriving === 1 ? 'one answer' : `${commands.arriving} answers`}.
        </p>
      )}
      {commands.problem && commands.problem.code !== 'unusual' && (
        <p className={styles.banner} role="alert">
          {commands.problem.message}
        </p>
      )}
      {shown.status === 'running' ? (
        <Step
          key={`${shown.step} ${shown.round ?? ''} ${shown.key}`}
          shown={shown}
          now={now}
          cautions={loaderData.cautions}
          lamps={loaderData.lamps}
          ladder={loaderData.ladder}
          odds={loaderData.odds}
          communication={loaderData.communication}
          commands={commands}
        />
      ) : (
        <Ended shown={shown} caseId={run.caseId} closed={loaderData.closed} commands={commands} />
      )}
      <div className={styles.foot}>
        <Link to={`/cases/${run.caseId}`}>Case {loaderData.number}</Link>
        <SignalBar shown={shown} now={now} alarm={battery?.alarm} />
      </div>
    </div>
  );
}
