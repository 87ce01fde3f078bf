import { midSentence } from '../../core/words';
import { useUnits } from '../ui/clock';
import { here } from '../../server/http/requestContext';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import {
  changes,
  everyFamily,
  type Family,
  gates,
  lampMoments,
  moduleHolds,
  paramWords,
  resolveLamps,
  resolveParams,
  symptoms,
  valuesOf,
  withNumbers,
} from '../../core/library';
import { cautionsOf as cautionsOfProcedure, type Procedure } from '../../core/procedure';
import { dateWords, formatChance } from '../../core/units';
import { proceduresOf } from '../../server/library/procedures';
import { keptMinutes } from '../../server/library/times';
import { keptProfiles } from '../../server/library/profiles';
import { may } from '../../server/acts/rights';
import { momentWords } from '../bench/moments';
import { Lamp } from '../ui/Lamp';
import { notThere } from '../respond.server';
import { Drawing } from './Drawing';
import { notChecked } from './notChecked';
import type { Route } from './+types/family';
import styles from './library.module.css';

/** A feature recognises a family when it is found this many times as often there as in all families together. */
const telling = 1.5;

/** Ids of every caution that stands before a test or step of the family, in the order met; the service information first. */
function cautionsOf(f: Family, procedures: Procedure[]): string[] {
  const own = procedures.filter((p) => p.family === f.id);
  return [...new Set(['serviceFirst', 'highVoltage', ...f.tests.flatMap((t) => t.cautions), ...own.flatMap(cautionsOfProcedure)])];
}

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.title ?? 'Library'} · Bloodstone` }];
export const handle = { place: ({ title }: Route.ComponentProps['loaderData']) => ({ title: 'Library', detail: title }) };

/** Of a question, what is found on at least this share of the vehicles is drawn. */
const drawnShare = 0.15;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { library } = services;
  const f =
    library.families.get(params.familyId) ?? notThere('System type not found', `The library has no system type “${params.familyId.slice(0, 60)}”.`);
  const families = [...library.families.values()];
  return {
    id: f.id,
    version: f.version,
    title: f.title,
    text: f.text,
    source: f.source,
    checked: f.checked,
    chain: f.chain.map((l) => ({ id: l.id, title: l.title, how: l.how })),
    lamps: resolveLamps(f.lamps, resolveParams(f)),
    modules: Object.entries(f.modules).map(([id, m]) => ({ id, title: m.title, holds: m.holds.map((h) => moduleHolds[h]) })),
    seen: library.features.flatMap((q) => {
      const [usual] = Object.entries(f.features[q.id] ?? {}).sort((a, b) => b[1] - a[1]);
      if (q.lookedUp || !usual || usual[1] < 0.5) return [];
      // What most families share recognises none of them.
      const everywhere = families.reduce((sum, other) => sum + (other.features[q.id]?.[usual[0]] ?? 0), 0) / families.length;
      return usual[1] >= everywhere * telling ? [{ id: q.id, ask: q.ask, usual: q.values[usual[0]]! }] : [];
    }),
    faults: f.chain.flatMap((l) => {
      const all = f.faults ?? [];
      const total = all.reduce((n, x) => n + x.prior, 0) / (1 - (f.elsewhere?.prior ?? 0));
      const here = all.filter((x) => x.link === l.id).sort((a, b) => b.prior - a.prior);
      if (here.length === 0) return [];
      return [
        {
          link: l.title,
          faults: here.map(({ id, title, looks, cure, prove, prior, priorSource, lifts, perKey }) => ({
            id,
            title,
            looks,
            cure,
            prove: prove.say,
            perKey: perKey ?? false,
            share: prior / total,
            source: priorSource ?? null,
            lifts: Object.entries(lifts ?? {})
              .sort((a, b) => b[1] - a[1])
              .map(([what]) => (changes as Record<string, string>)[what] ?? (symptoms as Record<string, string>)[what] ?? what),
          })),
        },
      ];
    }),
    elsewhere: f.elsewhere?.prior ?? null,
    cautions: cautionsOf(f, [...library.procedures.values()]).flatMap((id) => library.cautions.get(id)?.say ?? []),
    drawn: ['keyKind', 'around'].flatMap((question) => {
      const values = library.features.find((q) => q.id === question)?.values ?? {};
      return Object.entries(f.features[question] ?? {})
        .filter(([, share]) => share >= drawnShare)
        .sort((a, b) => b[1] - a[1])
        .map(([kind, share]) => ({ kind, caption: values[kind]!, share }));
    }),
    mayEdit: may(session!.person, 'editLibrary'),
    params: Object.values(resolveParams(f)).map((p) => ({ name: p.name, label: p.label, value: p.value, unit: p.unit, usual: p.usual })),
    profiles: (await keptProfiles(services))
      .filter((p) => p.profile.family === f.id && !p.retired)
      .map(({ profile: p, origin }) => ({
        id: p.id,
        title: p.title,
        version: p.version,
        known: Object.keys(p.values).length,
        checked: p.checked,
        own: origin === 'shop',
      })),
    procedures: (await proceduresOf(services, f.id)).map((p) => ({
      id: p.id,
      title: p.title,
      text: p.text,
      version: p.version,
      minutes: keptMinutes(p, valuesOf(resolveParams(withNumbers(f, p)))).expectedMinutes,
      every: p.family === everyFamily,
    })),
  };
}

type Data = Route.ComponentProps['loaderData'];

/** What each light and message means, by the moment at which it is seen. */
function Lights({ f }: { f: Data }) {
  return (
    <>
      <h2>What light and cluster say</h2>
      {lampMoments
        .filter((moment) => f.lamps.some((l) => l.moment === moment))
        .map((moment) => (
          <section key={moment} aria-label={momentWords[moment]}>
            <h3>{momentWords[moment]}</h3>
            <ul className={styles.lamps}>
              {f.lamps
                .filter((l) => l.moment === moment)
                .map((l) => (
                  <li key={l.id}>
                    <Lamp pattern={l} />
                    <span>
                      <b>{l.title}.</b> {l.meaning} {l.act} <span className="quiet">Look for {l.decisiveS} s.</span>
                    </span>
                  </li>
                ))}
            </ul>
          </section>
        ))}
    </>
  );
}

/** What can be wrong, by the link of the chain. */
function Faults({ f }: { f: Data }) {
  return (
    <>
      {f.faults.length > 0 && (
        <>
          <h2>What can be wrong</h2>
          <p className="quiet">
            How often each one is the cause, compared with the others of this system type, before anything is tested. Estimates from general
            experience unless a source is given; your shop’s proven cases replace them.
            {f.elsewhere !== null && ` Something else: ${formatChance(f.elsewhere)}.`}
          </p>
          {f.faults.map((l) => (
            <section key={l.link} aria-label={`Faults: ${l.link}`}>
              <h3>{l.link}</h3>
              {l.faults.map((x) => (
                <details key={x.id} className={styles.fault}>
                  <summary>
                    {x.title} <span className="mono quiet">{formatChance(x.share)}</span>
                  </summary>
                  <p>{x.looks}</p>
                  {x.lifts.length > 0 && <p>More likely after or with: {x.lifts.map(midSentence).join(', ')}.</p>}
                  {x.perKey && <p>Only one key has it: with another key the vehicle works as it should.</p>}
                  <p>
                    <b>Repair</b> {x.cure.do}{' '}
                    <span className="quiet">
                      {x.cure.minutes} min{x.cure.effect ? `. ${gates[x.cure.effect].says}` : ''}
                    </span>
                  </p>
                  <p>
                    <b>Proven</b> {x.prove}
                  </p>
                  {x.source && <p className="quiet">{x.source}</p>}
                </details>
              ))}
            </section>
          ))}
        </>
      )}
    </>
  );
}

/** What tells this system type from others, seen from outside. */
function Recognized({ f }: { f: Data }) {
  return (
    <>
      <h2>How it is recognized</h2>
      <p className="quiet">What is usual; vehicles vary.</p>
      <dl className={styles.params}>
        {f.seen.map((q) => (
          <div key={q.id}>
            <dt>{q.ask}</dt>
            <dd>{q.usual}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

function Procedures({ list }: { list: Data['procedures'] }) {
  return (
    <ul>
      {list.map((p) => (
        <li key={p.id}>
          <Link to={`/library/procedures/${p.id}`}>{p.title}</Link>{' '}
          <span className="quiet">
            version {p.version}, about {Math.max(1, Math.round(p.minutes))} min.
          </span>{' '}
          {p.text}
        </li>
      ))}
    </ul>
  );
}

/** A family reads like a manual, from what it is to the advice for the owner. */
export default function FamilyPage({ loaderData: f }: Route.ComponentProps) {
  const units = useUnits();
  return (
    <div className={styles.page}>
      <article>
        <p>
          <Link to="/library">All system types</Link>
        </p>
        <h1>{f.title}</h1>
        <p className="quiet">
          System type {f.id}, version {f.version}. {f.checked ? `Checked by ${f.checked.by}, ${dateWords(f.checked.on, units.dates)}.` : notChecked}{' '}
          {f.source}
        </p>
        <p>{f.text.what}</p>
        <p>{f.text.how}</p>
        {f.drawn.length > 0 && (
          <div className={styles.drawings}>
            {f.drawn.map((d) => (
              <Drawing key={d.kind} kind={d.kind} caption={d.caption} note={d.share >= 0.85 ? '' : d.share >= 0.5 ? 'usual' : 'on some'} />
            ))}
          </div>
        )}
        <h2>The start chain</h2>
        <ol className={styles.chain}>
          {f.chain.map((l) => (
            <li key={l.id}>
              <b>{l.title}.</b> {l.how}
            </li>
          ))}
        </ol>
        <Lights f={f} />
        {f.text.misses.length > 0 && (
          <>
            <h2>Easy to miss</h2>
            <ul>
              {f.text.misses.map((m) => (
                <li key={m}>{m}</li>
              ))}
            </ul>
          </>
        )}
        <Faults f={f} />
        {f.seen.length > 0 && <Recognized f={f} />}
        {f.modules.length > 0 && (
          <>
            <h2>What the modules hold</h2>
            <p className="quiet">A replaced module no longer has it.</p>
            <ul>
              {f.modules.map((m) => (
                <li key={m.id}>
                  <b>{m.title}:</b> {m.holds.join(', ')}
                </li>
              ))}
            </ul>
          </>
        )}
        <h2>Cautions</h2>
        <ul>
          {f.cautions.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
        <h2>Procedures</h2>
        {f.procedures.length === 0 && <p>None has been written yet. Work from the service information.</p>}
        <Procedures list={f.procedures.filter((p) => !p.every)} />
        <h3>For every vehicle</h3>
        <Procedures list={f.procedures.filter((p) => p.every)} />
        {f.mayEdit && (
          <Button component={Link} to={`/library/procedures/new?family=${f.id}`} variant="outlined" sx={{ justifySelf: 'start' }}>
            Make a procedure from a text
          </Button>
        )}
        <h2>Numbers</h2>
        <p className="quiet">Typical for the system type. The number of a vehicle comes from its service information.</p>
        <dl className={styles.params}>
          {f.params.map((p) => (
            <div key={p.name}>
              <dt>{p.label}</dt>
              <dd className="mono">
                <span className="typical">{paramWords(p.value, p.unit)}</span> <span className="quiet">usual {p.usual}</span>
              </dd>
            </div>
          ))}
        </dl>
        <h2>Vehicles</h2>
        {f.mayEdit && (
          <Button component={Link} to={`/library/profiles/new?from=family:${f.id}`} variant="outlined" sx={{ justifySelf: 'start' }}>
            Copy to a shop profile
          </Button>
        )}
        <ul>
          {f.profiles.map((p) => (
            <li key={p.id}>
              <Link to={`/library/profiles/${p.id}`}>{p.title}</Link>{' '}
              <span className="quiet">
                {p.own && 'of this shop, '}version {p.version}, {p.known} numbers looked up,{' '}
                {p.checked ? `checked by ${p.checked.by}, ${dateWords(p.checked.on, units.dates)}` : 'not checked by a second person'}
              </span>
            </li>
          ))}
        </ul>
        <h2>Tell the owner</h2>
        <ul>
          {f.text.advice.map((a) => (
            <li key={a}>{a}</li>
          ))}
        </ul>
      </article>
    </div>
  );
}
