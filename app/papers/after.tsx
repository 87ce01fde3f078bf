import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Link, redirect } from 'react-router';
import type { Stayed } from '../../core/options';
import { lookBack } from '../../server/offers/acts';
import { parseLeaveOut, parseLookBackForm } from '../../server/offers/forms';
import { cameBack, cameBackAs } from '../../server/cases/cameBack';
import { parseCameBack } from '../../server/cases/forms';
import { leaveOut } from '../../server/learning/lessons';
import { lessonState } from '../../server/learning/view';
import { lookBackAfterMs } from '../../server/papers/files';
import { here } from '../../server/http/requestContext';
import { caseId, caseOf } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/after';
import styles from './after.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Look back${loaderData ? `, case ${loaderData.number}` : ''} · Bloodstone` }];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, look back`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    closed: record.state === 'closed',
    closedAt: record.closedAt,
    askAt: record.closedAt === null ? null : record.closedAt + lookBackAfterMs,
    keys: record.keys.map((k) => k.tag),
    heard: record.offers.filter((e) => e.kind === 'lookBack'),
    lesson: await lessonState(services.database.db, record.id),
    back: await cameBackAs(services.database.db, record.id),
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const { services } = args.context.get(here);
  const { db } = services.database;
  const answer = await acting('/cases/:caseId/after', args, {
    heard: async ({ form, act }): Promise<{ said: string; opened?: number }> => {
      await lookBack(db, services.documents, act(), id, parseLookBackForm(form));
      return { said: 'Saved to the case.' };
    },
    leaveOut: async ({ form, act }): Promise<{ said: string; opened?: number }> => {
      await leaveOut(db, act(), id, parseLeaveOut(form).reason);
      return { said: 'Left out.' };
    },
    learnAgain: async ({ act }): Promise<{ said: string; opened?: number }> => {
      await leaveOut(db, act(), id, null);
      return { said: 'It counts again.' };
    },
    cameBack: async ({ form, act }): Promise<{ said: string; opened?: number }> => {
      const { id: opened } = await cameBack(db, services.library, act(), id, parseCameBack(form));
      return { said: 'Opened.', opened };
    },
  });
  if ('opened' in answer.data && answer.data.opened !== undefined) throw redirect(`/cases/${answer.data.opened}`);
  return answer;
}

const stayedSays: Readonly<Record<Stayed, string>> = { fixed: 'It stayed fixed', back: 'The fault is back', unknown: 'Nobody was reached' };

/** Days after the hand-over: did it stay fixed? A vehicle that comes back gets a case of its own, linked to this one. */
export default function After({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>('after');
  const { day } = useTimes();
  const [stayed, setStayed] = useState<Stayed>('fixed');
  return (
    <div className={styles.page}>
      <p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </p>
      <h1>Did it stay fixed?</h1>
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      {!d.closed ? (
        <p>This case is not closed. Ask again some days after the hand-over.</p>
      ) : (
        <>
          <p>
            Handed over {d.closedAt !== null && day(d.closedAt)}.{' '}
            {d.askAt !== null && `Ask from ${day(d.askAt)} on: most faults that come back do so within a week.`}
          </p>
          <form
            className={styles.form}
            noValidate
            onSubmit={(event) => {
              event.preventDefault();
              const note = String(new FormData(event.currentTarget).get('note') ?? '');
              act.sendJson({ intent: 'heard', stayed, note });
            }}
          >
            <div role="radiogroup" aria-label="What the customer says" className={styles.row}>
              {(Object.keys(stayedSays) as Stayed[]).map((s) => (
                <Choice key={s} type="radio" name="stayed" checked={stayed === s} onChange={() => setStayed(s)}>
                  {stayedSays[s]}
                </Choice>
              ))}
            </div>
            <TextField
              name="note"
              label="What was said, without names"
              multiline
              error={'note' in act.errors}
              helperText={act.errors.note}
              slotProps={{ htmlInput: { maxLength: 300 } }}
            />
            <Button type="submit" variant="contained" loading={act.busy} sx={{ justifySelf: 'start' }}>
              Write it down
            </Button>
          </form>
          {d.back ? (
            <p>
              The vehicle came back: <Link to={`/cases/${d.back.id}`}>case {d.back.number}</Link>. The cause of this case no longer counts as proven
              for the shop.
            </p>
          ) : (
            <CameBack keys={d.keys} act={act} />
          )}
        </>
      )}
      {d.lesson && <Lesson leftOut={d.lesson.leftOut} act={act} />}
      {d.heard.length > 0 && (
        <section aria-labelledby="heard">
          <h2 id="heard">What was said so far</h2>
          <ul>
            {d.heard.map((h) => (
              <li key={h.at}>
                {day(h.at)}: {stayedSays[h.stayed]}
                {h.note && `. ${h.note}`} <span className="quiet">{h.by}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

type Act = ReturnType<typeof useAct<typeof action>>;

/** Whether the shop learns from the case; a person may leave it out, with a reason. */
function Lesson({ leftOut, act }: { leftOut: string | null; act: Act }) {
  return (
    <section className={styles.back} aria-labelledby="learning">
      <h2 id="learning">What the shop learns from it</h2>
      {leftOut === null ? (
        <form
          className={styles.form}
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            act.sendJson({ intent: 'leaveOut', reason: String(new FormData(event.currentTarget).get('reason') ?? '') });
          }}
        >
          <p>
            Its cause, answers and times count in the estimates of <Link to="/shop/learned">later cases</Link>.
          </p>
          <TextField
            name="reason"
            label="Don’t learn from this case, because"
            error={'reason' in act.errors}
            helperText={act.errors.reason ?? 'Without names.'}
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
          <Button type="submit" color="inherit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
            Leave it out
          </Button>
        </form>
      ) : (
        <>
          <p>Left out: {leftOut}</p>
          <Button variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }} onClick={() => act.sendJson({ intent: 'learnAgain' })}>
            Learn from it again
          </Button>
        </>
      )}
    </section>
  );
}

/** The vehicle is here again: a case of its own, linked to this one. */
function CameBack({ keys, act }: { keys: readonly string[]; act: Act }) {
  return (
    <section className={styles.back} aria-labelledby="back">
      <h2 id="back">The vehicle is here again</h2>
      <p>
        A new case opens with the vehicle, its system and its keys, linked to this one. What was proven here is withdrawn from what the shop has
        learned.
      </p>
      <form
        className={styles.form}
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          act.sendJson({ intent: 'cameBack', words: String(form.get('words') ?? ''), keys: form.getAll('keys').map(String) });
        }}
      >
        <TextField
          name="words"
          label="Customer concern"
          required
          multiline
          error={'words' in act.errors}
          helperText={act.errors.words ?? 'In the customer’s words.'}
          slotProps={{ htmlInput: { maxLength: 2000 } }}
        />
        {keys.length > 0 && (
          <fieldset className={styles.keys}>
            <legend>Keys that came with it</legend>
            {keys.map((tag) => (
              <Choice key={tag} type="checkbox" name="keys" value={tag} defaultChecked>
                tag {tag}
              </Choice>
            ))}
          </fieldset>
        )}
        <Button type="submit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
          Open the linked case
        </Button>
      </form>
    </section>
  );
}
