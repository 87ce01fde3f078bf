import { moneyWords } from '../../core/units';
import Button from '@mui/material/Button';
import { randomUUID } from 'node:crypto';
import { useContext, useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { Link, redirect, useFetcher, useNavigate, useSearchParams } from 'react-router';
import { authorityKinds, counterQuantity, counters, partKinds } from '../../core/library';
import { findDraft } from '../../server/cases/drafts';
import { parseDraftId } from '../../server/cases/forms';
import { parseNewCase } from '../../server/cases/forms';
import { createCase } from '../../server/cases/openCase';
import { systemsOf } from '../../server/diagnosis/identification';
import { here } from '../../server/http/requestContext';
import { baysInUse, keptShop } from '../../server/shop/shop';
import { acting } from '../respond.server';
import { Asked } from '../ui/Asked';
import { Choice } from '../ui/Choice';
import { newCommandId } from '../ui/commandId';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { LaterActs, Sending } from '../ui/sending';
import { useUnits } from '../ui/clock';
import { useActIds } from '../ui/useActIds';
import type { Route } from './+types/new';
import { ComplaintPart } from './ComplaintPart';
import { type Intake, intakeForm, restoreIntake } from './fields';
import { Identify } from './Identify';
import styles from './intake.module.css';
import { KeyPart } from './KeyPart';
import { Field, Pick } from './parts';
import { firstWrong, nextStep, NextStep, oneAtATime, type StepId, Steps, stepOf } from './Steps';
import { draftBox, forgetDraft, unconfirmedDraft, useDraft } from './useDraft';
import { ConditionPart, VehiclePart } from './VehiclePart';

export const meta: Route.MetaFunction = () => [{ title: 'New case · Bloodstone' }];
export const handle = { place: () => ({ title: 'New case', detail: 'what came in' }) };

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const asked = new URL(request.url).searchParams.get('draft');
  // The address names the draft, so that a reload or another device finds it again.
  if (asked === null || !/^[A-Za-z0-9-]{8,64}$/.test(asked)) throw redirect(`/cases/new?draft=${randomUUID()}`);
  const { library } = services;
  const shop = await keptShop(services);
  return {
    draft: asked,
    stored: (await findDraft(db, session!.person, asked))?.fields ?? null,
    bays: await baysInUse(db),
    labour: shop.labourRate > 0 ? `, at ${moneyWords(shop.labourRate, shop.currency)} an hour` : '',
    features: library.features,
    candidates: [...library.families.values()].map(({ id, title, features }) => ({ id, title, features })),
    systems: await systemsOf(services),
  };
}
/** Drafts are kept while one types; the page must not be loaded again for it. */
export const shouldRevalidate = () => false;

export async function action(args: Route.ActionArgs) {
  const answer = await acting('/cases/new', args, {
    open: async ({ form, services, act }) => {
      const { draft, ...fields } = form;
      return createCase(services.database.db, services.library, act(), parseNewCase(fields), draft === undefined ? undefined : parseDraftId(draft));
    },
  });
  if ('id' in answer.data) throw redirect(`/cases/${answer.data.id}`);
  return answer;
}

export default function NewCase({ loaderData }: Route.ComponentProps) {
  const asked = useSearchParams()[0].get('draft');
  // A page that was kept for when there is no connection shows another intake than the address names, or is asked for a new one.
  const [fresh] = useState(newCommandId);
  const draft = asked ?? fresh;
  return <IntakeForm key={draft} {...loaderData} draft={draft} stored={draft === loaderData.draft ? loaderData.stored : null} />;
}

function IntakeForm({ draft, stored, bays, systems, labour, features, candidates }: Route.ComponentProps['loaderData']) {
  const { distance } = useUnits();
  const [f, setF] = useState<Intake>(() => restoreIntake(stored, distance));
  const [changed, setChanged] = useState(false);
  const put = <K extends keyof Intake>(name: K, value: Intake[K]) => {
    setF((before) => ({ ...before, [name]: value }));
    setChanged(true);
  };
  const fetcher = useFetcher<typeof action>();
  const navigate = useNavigate();
  const busy = fetcher.state !== 'idle';
  const errors = errorsByPath(fetcher.data && 'problems' in fetcher.data ? (fetcher.data.problems ?? []) : []);
  const summary = useRef<HTMLDivElement>(null);
  const one = useActIds(fetcher);
  const { discard } = useContext(Sending);
  const acts = useContext(LaterActs);
  const waits = acts.waiting.some((act) => act.id === draft);
  const arrived = acts.arrived.find((act) => act.id === draft);
  const kept = useDraft(draft, f, changed && !busy && !waits && !arrived);
  useEffect(() => {
    // What this browser kept and could not send is newer than what the server has.
    const left = unconfirmedDraft(draft);
    if (left !== null)
      queueMicrotask(() => {
        setF(restoreIntake(left, distance));
        setChanged(true);
      });
  }, [draft, distance]);
  const parts = f.kind === 'parts';
  const [step, setStep] = useState<StepId>('complaint');
  const [answer, setAnswer] = useState(fetcher.data);
  if (answer !== fetcher.data) {
    setAnswer(fetcher.data);
    // On a phone, where one step is shown at a time, the first one with something wrong in it.
    setStep(firstWrong(errors) ?? step);
  }
  useEffect(() => {
    if (fetcher.data) summary.current?.focus();
  }, [fetcher.data]);
  const section = { value: f, put, errors };
  /** What a section needs to be a step on a phone. */
  const at = (id: StepId) => ({ className: styles.section, 'aria-labelledby': id, 'data-step': step === id ? 'now' : 'other' });
  const go = (id: StepId) => {
    setStep(id);
    window.scrollTo({ top: 0 });
  };
  const needs = systems.find((s) => s.value === f.system)?.needs ?? { family: null, profile: undefined };
  if (waits || arrived)
    return (
      <div className={styles.form} role="status">
        <h1>{arrived ? 'The case is open' : 'Not sent yet'}</h1>
        {arrived ? (
          <p>
            <Link to={arrived.at}>{arrived.say}</Link>
          </p>
        ) : (
          <>
            <p>This case is saved on this device. It opens, and gets its number, when the connection is back.</p>
            <Button variant="outlined" onClick={() => discard(draft)}>
              Change it
            </Button>
          </>
        )}
        <p>
          <a href="/cases/new">Another new case</a>
        </p>
      </div>
    );
  return (
    <form
      className={styles.form}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        // Enter in a field of a phone's earlier step goes on; the case is opened from the last one.
        const following = nextStep(parts, step);
        if (following && window.matchMedia(oneAtATime).matches) return go(following);
        const fields = JSON.parse(JSON.stringify({ intent: 'open', draft, ...intakeForm(f) })) as Record<string, unknown>;
        const send = (commandId: string) => {
          forgetDraft(draft);
          void fetcher.submit({ ...fields, commandId } as never, { method: 'post', encType: 'application/json' });
        };
        // The draft's own id is the act's: however often it is sent, the case is opened once.
        const say = `New case: ${[f.vehicle, f.plate].filter((part) => part !== '').join(', ') || 'no vehicle named'}`;
        const act = { address: '/cases/new', page: `/cases/new?draft=${draft}`, fields, subject: draft, say };
        one(draft, send, { id: draft, later: { act, kept: () => localStorage.setItem(draftBox(draft), JSON.stringify(f)) } });
      }}
    >
      <h1 className="hidden">New case</h1>
      <ProblemSummary ref={summary} errors={errors} reveal={(name) => flushSync(() => setStep(stepOf(name)))} />
      <Steps parts={parts} now={step} errors={errors} onGo={go} />
      <div data-step={step === 'complaint' ? 'now' : 'other'} className={styles.kind} role="radiogroup" aria-label="Kind of case">
        <Choice type="radio" name="kind" checked={!parts} onChange={() => put('kind', 'vehicle')}>
          A vehicle
        </Choice>
        <Choice type="radio" name="kind" checked={parts} onChange={() => put('kind', 'parts')}>
          Parts without a vehicle
        </Choice>
      </div>

      <section {...at('complaint')}>
        <h2 id="complaint">{parts ? 'What needs to be done' : 'What the customer says'}</h2>
        <Field
          name="words"
          label={parts ? 'Task' : 'Customer concern'}
          value={f.words}
          put={(v) => put('words', v)}
          errors={errors}
          help={parts ? 'What the sender asks for.' : 'In the customer’s own words.'}
          multiline
          minRows={2}
          required
          autoFocus
          max={2000}
        />
        {!parts && <ComplaintPart {...section} />}
      </section>

      <section {...at('vehicle')}>
        <h2 id="vehicle">{parts ? 'Sender and vehicle' : 'Vehicle'}</h2>
        <VehiclePart {...section} bays={bays} systems={systems}>
          <Identify
            features={features}
            families={candidates}
            seen={f.seen}
            put={(seen) => put('seen', seen)}
            choose={(family) => put('system', `family:${family}`)}
          />
        </VehiclePart>
      </section>

      {!parts && (
        <section {...at('condition')}>
          <h2 id="condition">Condition on arrival</h2>
          <ConditionPart {...section} />
          <div className={styles.three}>
            {f.counters.map((c, i) => (
              <div key={c.counter} className={styles.counter}>
                <Field
                  name={`counters.${i}.value`}
                  label={counters[c.counter as keyof typeof counters].say}
                  value={c.value}
                  put={(value) =>
                    put(
                      'counters',
                      f.counters.map((x, n) => (n === i ? { ...x, value } : x)),
                    )
                  }
                  errors={errors}
                  quantity={counterQuantity(c.unit)}
                  slotProps={{ htmlInput: { className: 'mono' } }}
                />
                <Pick
                  name={`counters.${i}.unit`}
                  label="Unit"
                  value={c.unit}
                  put={(unit) =>
                    put(
                      'counters',
                      f.counters.map((x, n) => (n === i ? { ...x, unit } : x)),
                    )
                  }
                  errors={errors}
                  options={Object.fromEntries(counters[c.counter as keyof typeof counters].units.map((u) => [u, u]))}
                />
              </div>
            ))}
          </div>
          <p className="quiet">Counters a replaced module may lose. They are read again after the work.</p>
        </section>
      )}

      <section {...at('keys')}>
        <h2 id="keys">{parts ? 'What came in' : 'Keys'}</h2>
        <p className="quiet">
          {parts
            ? 'Every part and key gets a tag, and who holds it is on record from here to its return.'
            : 'Every key gets a tag. Ask for all of them now, and list the ones that exist but are not here.'}
        </p>
        {parts && (
          <ul className={styles.keys}>
            {f.parts.map((p, i) => {
              const bound = (name: 'tag' | 'what' | 'label' | 'note') => ({
                name: `parts.${i}.${name}`,
                value: p[name],
                put: (v: string) =>
                  put(
                    'parts',
                    f.parts.map((x, n) => (n === i ? { ...x, [name]: v } : x)),
                  ),
                errors,
              });
              return (
                <li key={i} className={styles.part}>
                  <Field {...bound('tag')} label="Tag" max={3} slotProps={{ htmlInput: { className: 'mono' } }} />
                  <Pick {...bound('what')} label="What it is" options={partKinds} />
                  <Field {...bound('label')} label="Numbers on its label" max={120} slotProps={{ htmlInput: { className: 'mono' } }} />
                  <Field {...bound('note')} label="Condition" max={300} />
                  <Button
                    onClick={() =>
                      put(
                        'parts',
                        f.parts.filter((_, n) => n !== i),
                      )
                    }
                    aria-label={`Remove part ${p.tag}`}
                  >
                    Remove
                  </Button>
                </li>
              );
            })}
          </ul>
        )}
        <KeyPart {...section} needs={needs} labour={labour} />
      </section>

      <section {...at('authority')}>
        <h2 id="authority">Authority</h2>
        <p className="quiet">
          What you saw that proves the right to have keys and immobilizer worked on. Until it is on record, learning, writing and bypassing stay
          locked. No copy is needed, and no name in the note.
        </p>
        <div className={styles.two}>
          <Pick
            name="authority.0.kind"
            label="Seen"
            value={f.authority.kind}
            put={(kind) => put('authority', { ...f.authority, kind })}
            errors={errors}
            options={Object.fromEntries(Object.entries(authorityKinds).filter(([id]) => id !== 'sender'))}
            none="Not seen yet"
          />
          <Field
            name="authority.0.note"
            label="Note"
            value={f.authority.note}
            put={(note) => put('authority', { ...f.authority, note })}
            errors={errors}
            max={300}
          />
        </div>
        {parts && (
          <Field
            name="authority.1.note"
            label="How the sender’s identity was seen"
            value={f.sender}
            put={(v) => put('sender', v)}
            errors={errors}
            max={300}
            help="Parts without a vehicle need both: the right to the vehicle, and who sent them."
          />
        )}
      </section>
      <div className={styles.act} data-more={step !== 'authority' || undefined}>
        <NextStep parts={parts} now={step} onGo={go} />
        <Button type="submit" variant="contained" size="large" loading={busy}>
          Open the case
        </Button>
        <div className={styles.later}>
          <Button variant="outlined" onClick={() => void navigate('/cases')}>
            Finish later
          </Button>
          <Asked
            label="Discard"
            ask="Discard this intake?"
            lost="What was typed here is deleted, on every device. It can’t be brought back."
            yes="Discard it"
            onYes={() => {
              forgetDraft(draft);
              void fetcher.submit({ intent: 'discardDraft', draft }, { method: 'post', action: '/cases/drafts' });
            }}
          />
        </div>
        <span className="quiet" role="status">
          {{ unchanged: '', here: 'Saved in this browser.', kept: 'Saved.' }[kept]}
        </span>
      </div>
    </form>
  );
}
