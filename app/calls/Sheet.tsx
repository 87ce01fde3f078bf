import { formatChance, moneyWords } from '../../core/units';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { adviseWith, type CallAdvice, soundsWords, toldCaller, questionsFor } from '../../core/call';
import type { LampMoment } from '../../core/library';
import type { CallForm } from '../../server/calls/forms';
import { Drawn, Said } from '../bench/Drawn';
import { type Look, recordingOfLook } from '../bench/look';
import { momentWords } from '../bench/moments';
import { TapArea } from '../bench/TapArea';
import { momentsOf, useLampReading } from '../bench/useLampReading';
import { Field } from '../intake/parts';
import { systemOptions } from '../intake/systemOptions';
import { Asked } from '../ui/Asked';
import { Choice } from '../ui/Choice';
import { Lamp } from '../ui/Lamp';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { useKept } from '../ui/useKept';
import type { callData } from './callData.server';
import styles from './calls.module.css';
import { emptyCall, readKeptCall } from './keptCall';

type Data = Awaited<ReturnType<typeof callData>>;

/**
 * The questions at the left, what follows from the answers at the right, worked out with each of them.
 * @param name of this version of this call: what this tab keeps of it, until it is sent, stands under that name
 */
export function Sheet({ d, call, name }: { d: Data; call: CallForm | null; name: string }) {
  const [kept, setKept] = useKept<CallForm | null>(`call.${name}`, null, readKeptCall);
  const form: CallForm = { ...(kept ?? call ?? emptyCall), system: d.system };
  const put = (change: Partial<CallForm>) => setKept({ ...form, ...change });
  const [, setSearch] = useSearchParams();
  const act = useAct<unknown>();
  const film = useMemo(() => form.film && { moment: form.film.moment, recording: recordingOfLook(form.film) }, [form.film]);
  const { known } = d;
  // A pattern of another system is no answer in this one.
  const answers = Object.fromEntries(
    Object.entries(form.answers).filter(([id, v]) => id !== 'lamp' || known?.lamps.some((l) => l.id === v) || Object.hasOwn(lampWords(d), v)),
  );
  const advice = adviseWith(d.sheet, known, answers, film);
  const send = (intent: string) => {
    const { customer, phone, vehicle, plate, words, system } = form;
    if (intent === 'discard') return act.sendJson({ intent });
    const say = `Call: ${[form.vehicle, form.plate, form.customer].filter((part) => part !== '').join(', ') || 'no vehicle named'}`;
    const later = intent === 'keep' ? { say, subject: 'keep' } : undefined;
    act.sendJson({ intent, customer, phone, vehicle, plate, words, system, answers, film: form.film }, undefined, later);
  };
  const field = (name: 'customer' | 'phone' | 'vehicle' | 'plate' | 'words') => ({
    name,
    value: form[name],
    put: (value: string) => put({ [name]: value }),
    errors: act.errors,
  });
  const answer = (id: string) => (value: string) => {
    const { [id]: before, ...others } = form.answers;
    put({ answers: before === value ? others : { ...others, [id]: value } });
  };
  return (
    <div className={styles.page}>
      <form className={styles.sheet} noValidate onSubmit={(event) => event.preventDefault()}>
        <h1 className="hidden">{call ? 'Call' : 'New call'}</h1>
        <ProblemSummary errors={act.errors} />
        <div className={styles.fields}>
          <Field
            {...field('words')}
            label="What the caller says"
            multiline
            minRows={2}
            max={2000}
            autoFocus={call === null}
            sx={{ gridColumn: '1 / -1' }}
          />
          <Field {...field('vehicle')} label="Vehicle" max={120} />
          <Field
            name="system"
            label="System type, if the caller or you know it"
            value={d.system}
            put={(system) => setSearch((before) => ({ ...Object.fromEntries(before), system }), { replace: true, preventScrollReset: true })}
            errors={act.errors}
            select
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          >
            <MenuItem value="">Not known</MenuItem>
            {systemOptions(d.systems)}
          </Field>
        </div>
        {questionsFor(d.sheet, known?.family).map((q) =>
          q.id === 'lamp' && known ? (
            <KnownLamp key={q.id} d={d} known={known} form={form} put={put} answer={answer('lamp')} />
          ) : (
            <fieldset key={q.id} className={styles.question}>
              <legend>{q.ask}</legend>
              {Object.entries(q.values).map(([id, v]) => (
                <Choice key={id} type="checkbox" checked={form.answers[q.id] === id} onChange={() => answer(q.id)(id)}>
                  {v.say}
                </Choice>
              ))}
            </fieldset>
          ),
        )}
        <div className={styles.fields}>
          <Field {...field('customer')} label="Name" max={80} />
          <Field {...field('phone')} label="Phone" max={40} />
          <Field {...field('plate')} label="Plate" max={16} />
        </div>
      </form>
      <Answer d={d} advice={advice} answered={Object.keys(answers).length > 0 || film !== null}>
        {act.kept && <p role="status">{act.said}</p>}
        <div className={styles.acts}>
          <Button variant="contained" size="large" loading={act.busy} onClick={() => send('takeIn')}>
            Start intake
          </Button>
          <Button variant="outlined" size="large" disabled={act.busy} onClick={() => send('keep')}>
            Save call
          </Button>
          {call && (
            <Asked
              label="Discard the call"
              ask="Discard this call?"
              lost="The call and what was told is deleted. It can’t be brought back."
              yes="Discard it"
              disabled={act.busy}
              onYes={() => send('discard')}
            />
          )}
          <Link to="/calls">All calls</Link>
        </div>
      </Answer>
    </div>
  );
}

const lampWords = (d: Data) => d.sheet.questions.find((q) => q.id === 'lamp')?.values ?? {};

/** The lamp of a system that is known: described by its own patterns, or watched in a film and tapped along. */
function KnownLamp({
  d,
  known,
  form,
  put,
  answer,
}: {
  d: Data;
  known: NonNullable<Data['known']>;
  form: CallForm;
  put: (change: Partial<CallForm>) => void;
  answer: (value: string) => void;
}) {
  const moments = momentsOf(known.lamps);
  const [open, setOpen] = useState(false);
  const [chosen, setMoment] = useState<LampMoment | null>(null);
  const moment = form.film?.moment ?? chosen ?? moments.find((m) => m === 'ignition-on') ?? moments[0];
  const [seeing, setSeeing] = useState<Look | null>(null);
  const watched: Look | null = form.film ? { ...form.film, origin: 'tapped', file: '' } : null;
  const shown = seeing ?? watched;
  const reading = useLampReading(known.lamps, moment ?? 'ignition-on', known.title, shown);
  return (
    <fieldset className={styles.question}>
      <legend>{moments.length > 0 ? d.sheet.questions.find((q) => q.id === 'lamp')!.ask : 'What does the cluster show?'}</legend>
      {known.lamps
        .filter((l) => known.tells[l.id])
        .map((l) => (
          <Choice key={l.id} type="checkbox" checked={form.answers.lamp === l.id} disabled={form.film !== null} onChange={() => answer(l.id)}>
            <span className={styles.pattern}>
              <Lamp pattern={l} /> {l.title}
            </span>
          </Choice>
        ))}
      {moment !== undefined && (
        <div className={styles.film}>
          {!open && !form.film && (
            <Button variant="outlined" onClick={() => setOpen(true)}>
              Watch a video and tap along
            </Button>
          )}
          {(open || form.film) && (
            <>
              {moments.length > 1 && !form.film && (
                <div className={styles.moments}>
                  {moments.map((m) => (
                    <Choice key={m} type="radio" name="moment" checked={m === moment} onChange={() => setMoment(m)}>
                      {momentWords[m]}
                    </Choice>
                  ))}
                </div>
              )}
              {!form.film && (
                <TapArea
                  moment={moment}
                  act="Let the video run to that moment at zero."
                  onSeen={setSeeing}
                  onEnd={({ lit, litAtEnd, lengthS }) => {
                    setSeeing(null);
                    put({ film: { moment, lit, litAtEnd, lengthS } });
                  }}
                />
              )}
              {shown && <Drawn look={shown} reading={seeing ? null : reading} />}
              {reading && <Said reading={reading} looking={seeing !== null} />}
              <Button
                variant="outlined"
                color="inherit"
                onClick={() => {
                  setOpen(form.film !== null);
                  put({ film: null });
                }}
              >
                {form.film ? 'Watch it again' : 'Describe it instead'}
              </Button>
            </>
          )}
        </div>
      )}
    </fieldset>
  );
}

/** What it sounds like, and what follows. */
function Answer({ d, advice, answered, children }: { d: Data; advice: CallAdvice; answered: boolean; children: React.ReactNode }) {
  const told = toldCaller(advice, d.shop);
  // Less than a deciban moves nobody.
  const speaks = advice.speaks.filter((x) => Math.abs(x.decibans) >= 1).slice(0, 3);
  return (
    <section className={styles.answer} aria-label="What this means">
      <div aria-live="polite">
        <h2>{answered ? soundsWords[advice.sounds] : 'Ask, and tap the answer'}</h2>
        {answered && (
          <ul className={styles.beliefs} aria-label="How sure">
            {advice.beliefs.map((b) => (
              <li key={b.cause}>
                <span>{{ refused: 'immobilizer', power: 'no power', beyond: 'not the immobilizer' }[b.cause]}</span>
                <span className={styles.bar} aria-hidden="true">
                  <span style={{ width: `${b.p * 100}%` }} />
                </span>
                <span className="mono">{formatChance(b.p)}</span>
              </li>
            ))}
          </ul>
        )}
        {speaks.length > 0 && (
          <ul className={styles.speaks} aria-label="What points to it, and away from it">
            {speaks.map((x) => (
              <li key={x.ask}>
                <span className="label">{x.decibans > 0 ? 'for' : 'against'}</span>
                <span>
                  {x.ask} <b>{x.say}</b>
                </span>
              </li>
            ))}
          </ul>
        )}
        {answered && <p className={styles.visit}>{advice.visit.say}</p>}
      </div>
      {children}
      <h3>The caller can try</h3>
      <ul className={styles.lines}>
        {advice.tries.map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      <h3>Have ready</h3>
      <ul className={styles.lines}>
        {advice.bring.caller.map((b) => (
          <li key={b}>
            <span className="label">Caller</span> {b}
          </li>
        ))}
        {advice.bring.us.map((b) => (
          <li key={b}>
            <span className="label">Shop</span> {b}
          </li>
        ))}
      </ul>
      <h3>First price range</h3>
      <p>
        {told.price ? (
          <b className="mono">{told.price}</b>
        ) : (
          <>
            No labor rate is set. <Link to="/shop">Set it in the shop’s data</Link>
          </>
        )}
      </p>
      <ul className={styles.jobs}>
        {advice.jobs.map((j) => (
          <li key={j.title}>
            <span>{j.title}</span>
            <span className="mono">
              {j.minutes[0]} to {j.minutes[1]} min
            </span>
          </li>
        ))}
      </ul>
      <p className="quiet">
        {d.shop.labourRate > 0 ? `At ${moneyWords(d.shop.labourRate, d.shop.currency)} an hour. ` : ''}
        {d.sheet.checked ? '' : 'Not checked against a source: '}
        {d.sheet.source}
      </p>
    </section>
  );
}
