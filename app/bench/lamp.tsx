import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { LaidLamp, LampMoment } from '../../core/library';
import { lampTimeline, resolveLamps, resolveParams } from '../../core/library';
import { listCases } from '../../server/cases/caseList';
import { loadCase } from '../../server/record/cases';
import { parseLook } from '../../server/ledger/forms';
import { systemsOf } from '../../server/diagnosis/identification';
import { lampsOf, recordLook } from '../../server/ledger/lamps';
import { currentProfile } from '../../server/library/profiles';
import { parseLampQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { Field } from '../intake/parts';
import { systemOptions } from '../intake/systemOptions';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { FlashStrip } from '../ui/FlashStrip';
import { Lamp } from '../ui/Lamp';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { useKept } from '../ui/useKept';
import type { Route } from './+types/lamp';
import styles from './bench.module.css';
import { Drawn, Said } from './Drawn';
import { FilePick } from './FilePick';
import { isAmong, type Look } from './look';
import { readKeptLook } from './keptLook';
import { momentWords } from './moments';
import { Shares } from './Shares';
import { TapArea } from './TapArea';
import { momentsOf, useLampReading } from './useLampReading';

/** Length of the examples of what a light can do, seconds. */
const stripS = 12;

export const meta: Route.MetaFunction = () => [{ title: 'Light · Bloodstone' }];
export const handle = {
  place: ({ chosen }: Route.ComponentProps['loaderData']) => ({
    title: 'Light',
    detail: chosen ? `case ${chosen.number} · ${chosen.vehicle}` : 'measured on the bench',
  }),
};

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { library, documents, database } = services;
  const { db } = database;
  const query = parseLampQuery(new URL(request.url).searchParams);
  const record = query.caseId === undefined ? undefined : await loadCase(db, query.caseId);
  const chosen = record?.kind === 'vehicle' && record.state === 'open' ? record : undefined;
  const { rows } = await listCases(db, { states: ['open'], kind: 'vehicle', text: '', sort: 'newest' });
  const systems = await systemsOf(services);
  const system = systems.find((s) => s.value === query.system)?.value ?? 'family:transponder-dwell';
  const [kind, name] = system.split(':') as ['family' | 'profile', string];
  const profile = kind === 'profile' ? (await currentProfile(db, name))?.profile : undefined;
  const family = library.families.get(profile?.family ?? name)!;
  const read = chosen ? await lampsOf(db, documents, chosen) : { family, profile, lamps: resolveLamps(family.lamps, resolveParams(family, profile)) };
  const keys = chosen ? chosen.keys.filter((k) => k.present).map((k) => k.tag) : [];
  return {
    systems,
    system,
    family: read.family.title,
    typical: read.profile === undefined,
    lamps: read.lamps,
    perKey: read.family.tests.filter((t) => t.perKey).map((t) => t.id),
    moment: query.moment as LampMoment | '',
    cases: rows.map((r) => ({ id: r.id, number: r.number, vehicle: r.vehicle })),
    chosen: chosen
      ? { id: chosen.id, number: chosen.number, vehicle: chosen.vehicle, keys, looks: chosen.looks.map(({ lit, lengthS }) => ({ lit, lengthS })) }
      : null,
    key: keys.includes(query.key) ? query.key : (keys[0] ?? ''),
  };
}

export async function action(args: Route.ActionArgs) {
  return acting('/bench/lamp', args, {
    add: async ({ form, services, act }) => {
      const { verdict, recorded } = await recordLook(services.database.db, services.documents, services.library, act(), parseLook(form));
      return { said: recorded ? 'Saved to the case.' : 'The observation is saved to the case. It doesn’t count as evidence.', verdict, recorded };
    },
  });
}

/** The lamp on the bench: tapped along, picked, or read from a file; read anew when the system changes. */
export default function LampBench({ loaderData: d }: Route.ComponentProps) {
  const moments = momentsOf(d.lamps);
  const [asked, setMoment] = useState<LampMoment | ''>(d.moment);
  const moment = asked !== '' && moments.includes(asked) ? asked : (moments.find((m) => m === 'ignition-on') ?? moments[0]);
  const navigate = useNavigate();
  const search = (to: Record<string, string>) =>
    void navigate(`?${new URLSearchParams({ ...(moment ? { moment } : {}), ...to })}`, { replace: true, preventScrollReset: true });
  return (
    <div className={styles.sheet}>
      <h1 className="hidden">Light</h1>
      <section className={styles.input} aria-label="Which light">
        <Field
          name="case"
          label="Case"
          value={d.chosen ? String(d.chosen.id) : ''}
          put={(id) => search(id === '' ? { system: d.system } : { case: id })}
          errors={{}}
          select
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">No case, just measuring</MenuItem>
          {d.cases.map((c) => (
            <MenuItem key={c.id} value={String(c.id)}>
              {c.number} {c.vehicle}
            </MenuItem>
          ))}
        </Field>
        {d.chosen ? (
          <p>
            <span className="label">System type</span>
            <br />
            {d.family}
            <br />
            <Link to={`/cases/${d.chosen.id}/identify`}>Check the system type again</Link>
          </p>
        ) : (
          <Field name="system" label="System type" value={d.system} put={(system) => search({ system })} errors={{}} select>
            {systemOptions(d.systems)}
          </Field>
        )}
        {d.typical && (
          <p className="quiet">
            Its times and counts are <span className="typical">typical</span>, not looked up for this vehicle.
          </p>
        )}
        {moments.length > 1 && (
          <fieldset className={styles.row}>
            <legend>Watched from</legend>
            {moments.map((m) => (
              <Choice key={m} type="radio" name="moment" value={m} checked={m === moment} onChange={() => setMoment(m)}>
                {momentWords[m]}
              </Choice>
            ))}
          </fieldset>
        )}
      </section>
      {moment === undefined ? (
        <section aria-label="No light">
          <h2>“{d.family}” has no security light.</h2>
          <p>Its cluster shows a message instead. Read it, and choose it in the case’s triage.</p>
          {d.chosen && (
            <p>
              <Link to={`/cases/${d.chosen.id}/triage`}>Go to triage, case {d.chosen.number}</Link>
            </p>
          )}
        </section>
      ) : (
        <Worksheet key={d.chosen?.id ?? 'none'} d={d} moment={moment} />
      )}
    </div>
  );
}

function Worksheet({ d, moment }: { d: Route.ComponentProps['loaderData']; moment: LampMoment }) {
  const [look, setLook] = useKept<Look | null>(`look.${d.chosen?.id ?? 'bench'}`, null, readKeptLook);
  const [seeing, setSeeing] = useState<Look | null>(null);
  const [picked, setPicked] = useState<string | null>(null);
  const [key, setKey] = useState(d.key);
  const act = useAct<typeof action>('lamp');
  const shown = seeing ?? look;
  const reading = useLampReading(d.lamps, moment, d.family, shown);
  const patterns = d.lamps.filter((l) => l.moment === moment);
  const byEye = picked === null ? undefined : (patterns.find((l) => l.id === picked) ?? 'none');
  const put = (to: Look | null) => {
    setPicked(null);
    setSeeing(null);
    setLook(to);
  };
  const [sent, setSent] = useState<unknown>(null);
  const shownNow = picked ?? look;
  const added = picked === null && isAmong(look, d.chosen?.looks ?? []);
  const taken = act.kept || (act.data !== undefined && !('problems' in act.data));
  const done = added || (!act.busy && sent !== null && sent === shownNow && taken);
  const send = (fields: Record<string, unknown>, where: string) => {
    setSent(shownNow);
    const say = `Case ${d.chosen!.number}: what the light does${picked === null || byEye === 'none' ? '' : `, ${byEye?.title}`}${key ? `, tag ${key}` : ''}`;
    act.sendJson(fields, where, { say });
  };
  const withKey = key ? { key } : {};
  const add = (seen: Look | { origin: 'eye' }) => send({ intent: 'add', case: d.chosen!.id, moment, ...withKey, ...seen }, '/bench/lamp');
  const addLook = () => look && add(look);
  const addPicked = () => {
    if (byEye === 'none') return add({ origin: 'eye' });
    // Where the lamp belongs to no key, the line of the ledger names none.
    if (byEye?.means) send({ intent: 'evidence', ...byEye.means, ...(d.perKey.includes(byEye.means.test) ? withKey : {}) }, `/cases/${d.chosen!.id}`);
  };
  return (
    <>
      <section aria-label="What the light does">
        <TapArea
          moment={moment}
          onSeen={(seen) => {
            setPicked(null);
            setSeeing(seen);
          }}
          onEnd={put}
        />
        {shown && <Drawn look={shown} reading={seeing ? null : reading} />}
        {!seeing && (
          <>
            <FilePick onRead={put} />
            <h2 className="label">Or pick what the light does</h2>
            <div className={styles.picks}>
              {patterns.map((l) => (
                <button key={l.id} type="button" className={styles.pick} aria-pressed={picked === l.id} onClick={() => setPicked(l.id)}>
                  <Lamp pattern={l} />
                  <span>{l.title}</span>
                </button>
              ))}
              <button type="button" className={styles.pick} aria-pressed={picked === 'none'} onClick={() => setPicked('none')}>
                None of these
              </button>
            </div>
          </>
        )}
      </section>
      <section className={styles.verdict} aria-label="Result" aria-live="polite">
        {byEye !== undefined ? (
          <Picked lamp={byEye} family={d.family} />
        ) : reading ? (
          <>
            <Said reading={reading} looking={seeing !== null} />
            {!seeing && <Shares reading={reading} lamps={d.lamps} />}
          </>
        ) : (
          <>
            <h2>Nothing watched yet</h2>
            <p className="quiet">
              Tap along for a few seconds, read a recording, or pick what the light does. These it can do, {stripS} seconds each:
            </p>
            <ul className={styles.strips} aria-label="What this light can do">
              {patterns.map((l) => (
                <li key={l.id}>
                  <span>{l.title}</span>
                  {l.segments ? <FlashStrip spans={lampTimeline(l.segments, stripS)} /> : <b>{l.message}</b>}
                </li>
              ))}
            </ul>
          </>
        )}
        <ProblemSummary errors={act.errors} />
        <div className={styles.foot}>
          {done && (
            <p role="status">
              {act.said || (added ? 'The case already has this observation.' : 'Saved to the case.')}{' '}
              <Link to={`/cases/${d.chosen?.id}`}>Go to case {d.chosen?.number}</Link>
            </p>
          )}
          {!seeing && (look || byEye !== undefined) && d.chosen && (
            <>
              {d.chosen.keys.length > 1 && (
                <fieldset className={styles.row}>
                  <legend>Seen with</legend>
                  {d.chosen.keys.map((tag) => (
                    <Choice key={tag} type="radio" name="key" value={tag} checked={key === tag} onChange={() => setKey(tag)}>
                      tag {tag}
                    </Choice>
                  ))}
                </fieldset>
              )}
              {byEye !== undefined ? (
                <Button variant="contained" size="large" loading={act.busy} onClick={addPicked} disabled={done || (byEye !== 'none' && !byEye.means)}>
                  Add to case {d.chosen.number}
                </Button>
              ) : (
                <Button variant={reading?.means ? 'contained' : 'outlined'} size="large" loading={act.busy} onClick={addLook} disabled={done}>
                  {reading?.means ? `Add to case ${d.chosen.number}` : `Save the observation to case ${d.chosen.number}`}
                </Button>
              )}
            </>
          )}
          {!seeing && look && !d.chosen && <p className="quiet">Choose the case to add this to.</p>}
          {!seeing && (look || picked) && (
            <Button variant="outlined" color="inherit" onClick={() => put(null)}>
              Watch again
            </Button>
          )}
        </div>
      </section>
    </>
  );
}

function Picked({ lamp, family }: { lamp: LaidLamp | 'none'; family: string }) {
  if (lamp === 'none')
    return (
      <>
        <h2>None of these</h2>
        <p className={styles.said}>The light does nothing that is listed for “{family}”. Check the system type.</p>
      </>
    );
  return (
    <>
      <h2>{lamp.title}</h2>
      <p className={styles.said}>
        In “{family}”: {lamp.meaning} {lamp.act}
      </p>
      <p className="quiet">Picked by eye. Watch for {lamp.decisiveS} s before you decide: a light that is lit may still go out.</p>
    </>
  );
}
