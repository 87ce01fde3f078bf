import Button from '@mui/material/Button';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { Link, redirect, useNavigate } from 'react-router';
import { type Combination, formatOhms, inWords, seriesValues } from '../../core/ladder';
import { formatChance, formatDuration, formatLeft } from '../../core/units';
import { keptDrawer } from '../../server/shop/drawer';
import { Refused } from '../../server/base/expected';
import { offeredLadders } from '../../server/library/ladders';
import { parseBenchQuery, parseSeconds } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { parseTakeBack, parseTry, readSearch, recordTry, takeBackTry, usualTryS } from '../../server/ledger/stepSearch';
import { Field } from '../intake/parts';
import { acting, notThere } from '../respond.server';
import { WaitColumn } from '../run/WaitColumn';
import { Cautions, useCautions } from '../ui/Cautions';
import { useNow, useTimes } from '../ui/clock';
import { useKeys } from '../ui/keys';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/steps';
import bench from './bench.module.css';
import { Schematic } from './ladder/Schematic';
import { useSubstitutes } from './ladder/useSubstitutes';
import styles from './steps.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Find the value · Bloodstone' }];
export const handle = {
  place: ({ record }: Route.ComponentProps['loaderData']) => ({ title: 'Find the value', detail: `case ${record.number} · ${record.vehicle}` }),
};

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { library, documents } = services;
  const params = new URL(request.url).searchParams;
  const query = parseBenchQuery(params);
  if (query.caseId === undefined) throw redirect('/bench');
  const record = await services.cases.one(query.caseId);
  if (!record || record.kind !== 'vehicle')
    return notThere('Case not found', 'Values are tried on the vehicle of an open case. Choose a case on the bench.');
  const profile = record.profile ? await documents.profile(record.profile) : undefined;
  const ladders = await offeredLadders(services, profile?.ladder);
  const ladder = ladders.find((l) => l.ladder.id === (query.ladder || profile?.ladder)) ?? ladders[0];
  if (!ladder) throw redirect('/library/ladders');
  const tryS = parseSeconds(params, 'try') ?? usualTryS;
  try {
    return {
      record: { id: record.id, number: record.number, vehicle: record.vehicle, open: record.state === 'open' },
      search: await readSearch(services, record, ladder.ladder.id, tryS),
      ladders: ladders.map((l) => ({ id: l.ladder.id, title: l.ladder.title })),
      drawer: await keptDrawer(services),
      cautions: Object.fromEntries(['supplyOff', 'testOnly'].flatMap((id) => (library.cautions.has(id) ? [[id, library.cautions.get(id)!]] : []))),
    };
  } catch (error) {
    if (error instanceof Refused) return notThere('Not possible', error.message);
    throw error;
  }
}

export async function action(args: Route.ActionArgs) {
  return acting('/bench/steps', args, {
    try: async ({ form, services, act }) => {
      await recordTry(services, act(), parseTry(form));
      return { said: 'Recorded.' };
    },
    takeBack: async ({ form, services, act }) => {
      await takeBackTry(services.database.db, act(), parseTakeBack(form));
      return { said: 'Undone.' };
    },
  });
}

/** What is put in place of each value, from the drawer or a standard series; looked for in the background. */
function useBuilt({ search: s, drawer: { resistors, senseVolts } }: Route.ComponentProps['loaderData']) {
  const { state, search: find } = useSubstitutes();
  const build = useEffectEvent(() => {
    const stock = resistors.length > 0 ? resistors : seriesValues('E24', 0.05);
    find({ stock, wanted: s.ladder.steps.map((x) => ({ targetOhms: x.nominal, window: { low: x.low, high: x.high }, limit: 1, senseVolts })) });
  });
  useEffect(() => build(), [s.ladder.id]);
  /** What is built for a step; undefined while it is looked for, and where nothing makes it. */
  const builtFor = (number: number) =>
    state !== null && 'each' in state ? state.each[s.ladder.steps.findIndex((x) => x.step === number)]?.[0] : undefined;
  return { builtFor, looking: state === null || 'share' in state };
}

/** Steps tried one after the other, the likeliest first, with the lockout between; what was refused is crossed out, and all of it survives a closed page. */
export default function Steps({ loaderData: d }: Route.ComponentProps) {
  const { search: s, record } = d;
  const now = useNow();
  const navigate = useNavigate();
  const act = useAct<typeof action>('steps');
  const cautions = useCautions(Object.keys(d.cautions), d.cautions);
  const next = s.accepted ? undefined : s.plan?.order[0];
  const step = s.ladder.steps.find((x) => x.step === next);
  const [tryText, setTryText] = useState(String(s.tryS));
  const locked = s.lockedUntil !== null && now < s.lockedUntil;
  const { resistors } = d.drawer;
  const { builtFor, looking } = useBuilt(d);
  const wordsFor = (number: number) => {
    const made = builtFor(number);
    return made ? inWords(made) : formatOhms(s.ladder.steps.find((x) => x.step === number)!.nominal);
  };
  const built = next === undefined ? undefined : builtFor(next);
  const shut = s.shut.length > 0 || !record.open;
  /** What the last act brought is not shown yet: whatever is pressed now was meant for that. */
  const triesAtAct = useRef(-1);
  const unseen = () => act.busy && s.tries.length === triesAtAct.current;
  const answer = (result: 'refused' | 'accepted') => {
    if (!step || locked || shut || !cautions.clear || unseen()) return;
    triesAtAct.current = s.tries.length;
    const resistor = built ? `${inWords(built)} (${formatOhms(built.nominal)})` : formatOhms(step.nominal);
    act.sendJson({ intent: 'try', case: record.id, ladder: s.ladder.id, step: step.step, resistor, result });
  };
  const last = s.tries.at(-1);
  const back = () => {
    if (!last || unseen()) return;
    triesAtAct.current = s.tries.length;
    act.sendJson({ intent: 'takeBack', case: record.id, try: last.id });
  };
  useKeys([
    ...(step && !locked
      ? [
          { keys: '1', shown: '1', say: 'light goes out', act: () => answer('accepted') },
          { keys: '2', shown: '2', say: 'light stays on or flashes', act: () => answer('refused') },
        ]
      : []),
    ...(last ? [{ keys: 'u', shown: 'u', say: 'undo the last try', act: back }] : []),
  ]);
  const put = (to: Record<string, string>) =>
    void navigate(`?${new URLSearchParams({ case: String(record.id), ladder: s.ladder.id, try: tryText, ...to })}`, {
      replace: true,
      preventScrollReset: true,
    });
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Find the value</h1>
      <section className={bench.input} aria-label="Order of the values">
        <p>
          <span className="label">{s.ladder.title}</span>
          <br />
          <small className="quiet">{weighedBy(s.history, s.reading)}</small>
        </p>
        <Order s={s} wordsFor={wordsFor} />
        <Field
          name="try"
          label="One try takes (seconds, or m:ss)"
          value={tryText}
          put={setTryText}
          errors={{}}
          size="small"
          quantity={{ unit: 's', min: 1, max: 86_400 }}
          slotProps={{ htmlInput: { onBlur: () => put({}) } }}
        />
        <LockoutLine s={s} />
      </section>
      <section className={bench.first} aria-label="Value to try">
        <WhatNow s={s} step={step} locked={locked} now={now} />
        {step && !s.accepted && <Built built={built} step={step} looking={looking} fromDrawer={resistors.length > 0} />}
        {step && !s.accepted && !locked && (
          <>
            <Cautions state={cautions} />
            <div className={styles.answers}>
              <button type="button" disabled={shut || !cautions.clear || act.busy} onClick={() => answer('accepted')}>
                <span className="keycap" aria-hidden="true">
                  1
                </span>
                Goes out
              </button>
              <button type="button" disabled={shut || !cautions.clear || act.busy} onClick={() => answer('refused')}>
                <span className="keycap" aria-hidden="true">
                  2
                </span>
                Stays on or flashes
              </button>
            </div>
          </>
        )}
      </section>
      <section className={bench.verdict} aria-label="How long it takes" aria-live="polite">
        {s.shut.length > 0 && (
          <p className={bench.shut} role="status">
            <b>Locked.</b> {s.shut.join(' ')} <Link to={`/cases/${record.id}#authority`}>Record it in the case</Link>
          </p>
        )}
        {s.plan && !s.accepted && <HowLong plan={s.plan} />}
        <p className="quiet">Only as a test, on the owner’s vehicle, with authority on record.</p>
        <ProblemSummary errors={act.errors} />
        <div className={bench.foot}>
          {last && (
            <Button variant="outlined" color="inherit" onClick={back} disabled={!record.open}>
              Undo the last try
            </Button>
          )}
          <Link to={`/cases/${record.id}`}>Go to case {record.number}</Link>
        </div>
      </section>
    </div>
  );
}

type Search = Route.ComponentProps['loaderData']['search'];

/** How long the immobilizer locks out after a wrong value, and whether anybody looked that up. */
function LockoutLine({ s }: { s: Search }) {
  return (
    <small className="quiet">
      Lockout after a wrong value: <span className={s.lockoutKnown ? undefined : 'typical'}>{formatDuration(s.lockoutS)}</span>
      {s.lockoutKnown ? '' : ', typical: look it up'}.
    </small>
  );
}

/** What was tried is crossed out, and what comes is in its order. */
function Order({ s, wordsFor }: { s: Search; wordsFor: (step: number) => string }) {
  const { hm } = useTimes();
  return (
    <ol className={styles.order} aria-label="Values in the order in which they are tried">
      {s.tries.map((t) => (
        <li key={t.id} data-done={t.result}>
          <span>
            value {t.step} <small>{t.result === 'refused' ? 'refused' : 'accepted'}</small>
          </span>
          <span className="mono">{hm(t.at)}</span>
        </li>
      ))}
      {!s.accepted &&
        s.plan?.order.map((number, i) => (
          <li key={number} aria-current={i === 0 ? 'step' : undefined}>
            <span>
              value {number} <small>{wordsFor(number)}</small>
            </span>
            <span className="mono">{formatChance(s.plan!.chances[i]!)}</span>
          </li>
        ))}
    </ol>
  );
}

/** What is put in place of the key's contacts. */
function Built({
  built,
  step,
  looking,
  fromDrawer,
}: {
  built: Combination | undefined;
  step: Search['ladder']['steps'][number];
  looking: boolean;
  fromDrawer: boolean;
}) {
  return (
    <div className={styles.built}>
      {built ? (
        <>
          <Schematic combination={built} />
          <p>
            <b>{inWords(built)}</b>, {formatOhms(built.worstLow)} to {formatOhms(built.worstHigh)}; window {formatOhms(step.low)} to{' '}
            {formatOhms(step.high)}
            {built.inside === false ? '. It may be outside: measure what you built.' : '.'}{' '}
            <small className="quiet">{fromDrawer ? 'From the drawer.' : 'From E24, 5 %; the drawer is empty.'}</small>
          </p>
        </>
      ) : (
        <p className="quiet">
          {looking ? 'Looking for resistors …' : 'Nothing in the drawer makes this value. Add resistors to the drawer, or use a standard series.'}
        </p>
      )}
    </div>
  );
}

/** What trying the rest takes. */
function HowLong({ plan }: { plan: NonNullable<Search['plan']> }) {
  return (
    <>
      <h2>{plan.order.length === 1 ? 'One value is left.' : `${plan.order.length} values are left.`}</h2>
      <dl className={bench.figures}>
        <div>
          <dt>Expected</dt>
          <dd className="mono">{formatDuration(plan.expectedSeconds)}</dd>
        </div>
        <div>
          <dt>At worst</dt>
          <dd className="mono">{formatDuration(plan.worstSeconds)}</dd>
        </div>
      </dl>
      <p className="quiet">Most likely values first, so it takes the least time on average. You can stop at any time and continue another day.</p>
    </>
  );
}

/** What is to be done now: put in the next value, wait, or nothing more. */
function WhatNow({ s, step, locked, now }: { s: Search; step: Search['ladder']['steps'][number] | undefined; locked: boolean; now: number }) {
  return s.accepted ? (
    <>
      <h2 className={styles.big}>Value {s.accepted.step} is accepted.</h2>
      <p className={bench.said}>
        Take the resistor out again. Order and cut the key by this value. Write it in the vehicle’s papers, not on the key ring.
      </p>
    </>
  ) : !step ? (
    <>
      <h2 className={styles.big}>No values are left.</h2>
      <p className={bench.said}>
        Every value of this chart was refused. Is it the right chart and the right connector? Measure at the connector; if both are right, suspect the
        immobilizer.
      </p>
    </>
  ) : locked ? (
    <div className={styles.locked}>
      <WaitColumn wait={{ startedAt: s.tries.at(-1)!.at, until: s.lockedUntil!, kind: 'least' } as never} now={now} attention="none" />
      <div>
        <h2 className={styles.big}>Wait for the lockout to end.</h2>
        <p className={styles.left} role="timer" aria-label="Lockout left">
          <span className="mono">{formatLeft(s.lockedUntil! - now)}</span>
        </p>
        <p className={bench.said}>Ignition as the service information says. Meanwhile, build the next one: value {step.step}.</p>
      </div>
    </div>
  ) : (
    <h2 className={styles.big}>Put in value {step.step}. Turn the ignition on. What does the security light do?</h2>
  );
}

/** What the order rests on, in a sentence. */
function weighedBy(history: number, reading: boolean): string {
  const keys = `${history} ${history === 1 ? 'key' : 'keys'} that this shop measured`;
  if (reading)
    return history > 0
      ? `Weighted by ${keys} and by the reading of a key of this case.`
      : 'Based on the key measured in this case; this shop has measured no other key of this chart.';
  return history > 0 ? `Weighted by ${keys}.` : 'This shop has measured no key of this chart yet, so every value counts the same.';
}
