import { useUnits } from '../ui/clock';
import { dateWords } from '../../core/units';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { isUnusual, paramWords as words, resolveParams, usesLadder } from '../../core/library';
import { parseProfileForm } from '../../server/library/forms';
import { offeredLadders } from '../../server/library/ladders';
import { profileVersions, saveProfile } from '../../server/library/profiles';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import { isRetired, setRetired } from '../../server/library/shopDocuments';
import { acting, notThere } from '../respond.server';
import { Choice } from '../ui/Choice';
import { ProblemSummary } from '../ui/problems';
import { QuantityField } from '../ui/QuantityField';
import { useAct } from '../ui/useAct';
import { askedVersion } from './askedVersion';
import { Drawing } from './Drawing';
import { notChecked } from './notChecked';
import { Retire } from './Retire';
import { Versions } from './Versions';
import type { Route } from './+types/profile';
import styles from './library.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.profile.title ?? 'Profile'} · Bloodstone` }];
export const handle = { place: ({ profile }: Route.ComponentProps['loaderData']) => ({ title: 'Library', detail: profile.title }) };

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { library, database } = services;
  const versions = await profileVersions(database.db, params.profileId);
  const shown =
    askedVersion(versions, new URL(request.url).searchParams.get('version')) ??
    notThere('Profile not found', 'The library has no profile of this name in this version.');
  const { profile } = shown;
  const family = library.families.get(profile.family)!;
  const retired = await isRetired(database.db, 'profile', params.profileId);
  const newest = shown === versions[0];
  return {
    profile,
    origin: shown.origin,
    retired,
    newest,
    mayEdit: may(session!.person, 'editLibrary'),
    editable: newest && !retired && shown.origin === 'shop' && may(session!.person, 'editLibrary'),
    family: { id: family.id, title: family.title },
    /** What its keys may be compared with; null where the family has no resistor keys. */
    ladders: usesLadder(family)
      ? (await offeredLadders(services, profile.ladder)).map(({ ladder }) => ({ id: ladder.id, title: ladder.title }))
      : null,
    versions: versions.map((v) => ({ version: v.pin.version, at: v.enteredAt, by: v.by })),
    features: library.features.filter((f) => !f.lookedUp).map(({ id, ask, values }) => ({ id, ask, values })),
    seen: library.features.flatMap((f) => {
      const say = f.values[profile.seen?.[f.id] ?? ''];
      return say && !f.lookedUp ? [{ id: f.id, ask: f.ask, say }] : [];
    }),
    drawn: ['keyKind', 'around'].flatMap((question) => {
      const kind = profile.seen?.[question];
      const caption = library.features.find((f) => f.id === question)?.values[kind ?? ''];
      return kind && caption ? [{ kind, caption }] : [];
    }),
    params: Object.values(resolveParams(family, profile)).map((p) => {
      const param = family.params[p.name]!;
      return {
        name: p.name,
        label: p.label,
        unit: p.unit,
        usual: p.usual,
        oneOf: 'oneOf' in param ? param.oneOf : null,
        typical: param.default,
        known: profile.values[p.name],
        unusual: isUnusual(family, p.name, p.value),
      };
    }),
  };
}
type Data = Route.ComponentProps['loaderData'];

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const { db } = services.database;
  const id = args.params.profileId;
  return acting('/library/profiles/:profileId', args, {
    save: async ({ form, act }) => {
      const { version } = await saveProfile(db, services.library, act(), id, parseProfileForm(form));
      return { said: `Saved as version ${version}. Cases keep the version they started with.` };
    },
    retire: async ({ act }) => {
      await setRetired(db, act(), 'profile', id, true);
      return { said: 'No longer offered. Old cases keep it.' };
    },
    restore: async ({ act }) => {
      await setRetired(db, act(), 'profile', id, false);
      return { said: 'Offered again.' };
    },
  });
}

const help = (p: Data['params'][number]): string =>
  p.unusual && p.known ? `Outside the usual range (${p.usual}). Is it right?` : `Usual ${p.usual}, typical ${words(p.typical, p.unit)}`;

/** The numbers of one vehicle: each looked up with its source, or typical for the family. The shop's own are edited here. */
export default function ProfilePage({ loaderData: d }: Route.ComponentProps) {
  const units = useUnits();
  const act = useAct<typeof action>();
  const { profile, family } = d;
  const looked = d.params.filter((p) => p.known).length;
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link> · <Link to={`/library/${family.id}`}>{family.title}</Link>
      </p>
      <h1>{profile.title}</h1>
      <p className="quiet">
        {d.origin === 'shop' ? 'Profile of this shop' : 'Shipped with the app'}, version {profile.version}
        {d.newest ? '' : ' (an older one)'}. {looked} of {d.params.length} numbers looked up; the others are typical for the system type.{' '}
        {profile.checked ? `Checked by ${profile.checked.by}, ${dateWords(profile.checked.on, units.dates)}.` : notChecked}
        {d.retired && ' No longer offered for new cases.'}
      </p>
      <p role="status" className={act.said ? styles.said : undefined}>
        {act.said}
      </p>
      <div className={styles.tools}>
        {d.mayEdit && (
          <Button component={Link} to={`/library/profiles/new?from=profile:${profile.id}`} variant="outlined" color="inherit">
            {d.origin === 'shop' ? 'Copy' : 'Copy to a shop profile'}
          </Button>
        )}
        <Button
          component={Link}
          to={`/library/profiles/${profile.id}/compare?a=${d.versions[1] ? d.versions[1].version : ''}`}
          variant="outlined"
          color="inherit"
        >
          Compare
        </Button>
        <Button component="a" href={`/library/profiles/${profile.id}/export?version=${profile.version}`} variant="outlined" color="inherit">
          Export as YAML
        </Button>
        {d.mayEdit && d.newest && d.origin === 'shop' && <Retire retired={d.retired} act={act} />}
      </div>
      <Read d={d} />
      {profile.ladder && (
        <p>
          Its keys are compared with the value chart{' '}
          <Link to={`/library/ladders/${profile.ladder}`}>{d.ladders?.find((l) => l.id === profile.ladder)?.title ?? profile.ladder}</Link>.
        </p>
      )}
      {d.seen.length > 0 && (
        <section aria-labelledby="seen">
          <h2 id="seen">What you see on the vehicle</h2>
          <div className={styles.drawings}>
            {d.drawn.map((k) => (
              <Drawing key={k.kind} kind={k.kind} caption={k.caption} />
            ))}
          </div>
          <dl className={styles.params}>
            {d.seen.map((q) => (
              <div key={q.id}>
                <dt>{q.ask}</dt>
                <dd>{q.say}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
      {d.editable && (
        // A profile in which nothing has been looked up is there to be filled in.
        <details key={profile.version} className={styles.more} open={looked === 0 || undefined}>
          <summary>Change the numbers</summary>
          <Edit d={d} act={act} />
        </details>
      )}
      {d.origin === 'shop' && <Versions at={`/library/profiles/${profile.id}`} shown={profile.version} versions={d.versions} />}
    </div>
  );
}

function Read({ d }: { d: Data }) {
  return (
    <>
      <p>{d.profile.source}</p>
      <dl className={styles.params}>
        {d.params.map((p) => (
          <div key={p.name}>
            <dt>{p.label}</dt>
            <dd>
              {p.known ? (
                <>
                  <span className="mono">{words(p.known.value, p.unit)}</span>{' '}
                  <span className="quiet">
                    verified: {p.known.source}, {p.known.by}
                  </span>
                </>
              ) : (
                <>
                  <span className="mono typical">{words(p.typical, p.unit)}</span> <span className="quiet">typical, usual {p.usual}</span>
                </>
              )}
              {p.known && p.unusual && <span className={styles.unusual}> outside the usual {p.usual}</span>}
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}

function Edit({ d, act }: { d: Data; act: ReturnType<typeof useAct<typeof action>> }) {
  const { errors } = act;
  const { profile } = d;
  const names = Object.fromEntries([
    ['title', 'Vehicle'],
    ['ladder', 'Value chart of its resistor keys'],
    ...d.params.flatMap((p) => [
      [`values.${p.name}.value`, p.label],
      [`values.${p.name}.source`, `${p.label}, source`],
    ]),
  ]) as Record<string, string>;
  return (
    <Form method="post" className={styles.form} noValidate onSubmit={act.send('save')} aria-label="Numbers of this vehicle">
      <input type="hidden" name="from" value={profile.version} />
      <ProblemSummary errors={errors} names={names} />
      <TextField
        name="title"
        label="Vehicle"
        defaultValue={profile.title}
        error={'title' in errors}
        helperText={errors.title}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <TextField
        name="source"
        label="Where this profile comes from"
        defaultValue={profile.source}
        multiline
        error={'source' in errors}
        helperText={errors.source}
        slotProps={{ htmlInput: { maxLength: 600 } }}
      />
      <p className="quiet">What you leave empty stays typical. Each number needs its source: document, page, screen.</p>
      {d.params.map((p) => {
        const [value, source] = [`values.${p.name}.value`, `values.${p.name}.source`];
        return (
          <fieldset key={p.name} className={styles.number}>
            <legend>{p.label}</legend>
            {p.oneOf ? (
              <TextField
                name={value}
                label="Which"
                select
                defaultValue={p.known?.value ?? ''}
                error={value in errors}
                helperText={errors[value] ?? help(p)}
                slotProps={{ inputLabel: { shrink: true }, select: { native: true } }}
              >
                <option value="">typical: {words(p.typical, '')}</option>
                {p.oneOf.map((o) => (
                  <option key={o} value={o}>
                    {words(o, '')}
                  </option>
                ))}
              </TextField>
            ) : (
              <QuantityField
                quantity={{ unit: p.unit }}
                name={value}
                label={p.unit ? `Number, ${p.unit}` : 'Number'}
                defaultValue={p.known?.value ?? ''}
                problem={errors[value]}
                help={help(p)}
                slotProps={{ htmlInput: { className: 'mono' }, inputLabel: { shrink: true } }}
              />
            )}
            <TextField
              name={source}
              label="Source"
              defaultValue={p.known?.source ?? ''}
              error={source in errors}
              helperText={errors[source] ?? (p.known ? `looked up by ${p.known.by}` : ' ')}
              slotProps={{ htmlInput: { maxLength: 160 }, inputLabel: { shrink: true } }}
            />
          </fieldset>
        );
      })}
      {d.ladders && (
        <TextField
          name="ladder"
          label="Value chart of its resistor keys"
          select
          defaultValue={profile.ladder ?? ''}
          error={'ladder' in errors}
          helperText={errors.ladder ?? 'The bench then knows this vehicle’s values.'}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value="">not known</option>
          {d.ladders.map((l) => (
            <option key={l.id} value={l.id}>
              {l.title}
            </option>
          ))}
        </TextField>
      )}
      <details className={styles.more} open={d.features.some((f) => `seen.${f.id}` in errors) || undefined}>
        <summary>
          What you see on the vehicle: {d.seen.length} of {d.features.length} questions answered
        </summary>
        <p className="quiet">Answers to the identification questions. What nobody has checked stays open.</p>
        {d.features.map((f) => (
          <TextField
            key={f.id}
            name={`seen.${f.id}`}
            label={f.ask}
            select
            defaultValue={profile.seen?.[f.id] ?? ''}
            error={`seen.${f.id}` in errors}
            helperText={errors[`seen.${f.id}`]}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            <option value="">not known</option>
            {Object.entries(f.values).map(([id, say]) => (
              <option key={id} value={id}>
                {say}
              </option>
            ))}
          </TextField>
        ))}
      </details>
      <Choice type="checkbox" name="check">
        I have checked every number here against its source
      </Choice>
      <Button type="submit" variant="contained" size="large" loading={act.busy} sx={{ justifySelf: 'start' }}>
        Save as version {d.versions[0]!.version + 1}
      </Button>
    </Form>
  );
}
