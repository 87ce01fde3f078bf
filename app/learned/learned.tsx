import Button from '@mui/material/Button';
import { useRef } from 'react';
import { Form, Link } from 'react-router';
import type { Difference, SaidTenth } from '../../core/learning';
import { formatChance } from '../../core/units';
import { may } from '../../server/acts/rights';
import { parseFile } from '../../server/base/fields';
import { importLearned, removeLearned } from '../../server/learning/elsewhere';
import { parseRemoveLearned } from '../../server/learning/forms';
import { readLearned } from '../../server/learning/view';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { ShopNav } from '../shop/ShopNav';
import { Asked } from '../ui/Asked';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/learned';
import styles from './learned.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'What we learned · Bloodstone' }];
export const handle = { place: () => ({ title: 'Shop', detail: 'what we learned' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  return { ...(await readLearned(services)), mayEdit: may(session!.person, 'editShop') };
}

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const { db } = services.database;
  return acting('/shop/learned', args, {
    importLearned: async ({ form, act }) => {
      const { shop } = await importLearned({ db, files: services.files }, act(), parseFile(form.file));
      return { said: `Imported from “${shop || 'a shop without a name'}”.` };
    },
    removeLearned: async ({ form, act }) => {
      await removeLearned(db, act(), parseRemoveLearned(form).id);
      return { said: 'Removed.' };
    },
  });
}

const kinds: Readonly<Record<string, string>> = {
  fix: 'Fixes',
  or: 'The other way of a fix',
  part: 'Replaced parts',
  key: 'Keys',
  sendOut: 'Handed on',
  test: 'Tested further first',
  own: 'Options of our own',
};

/** What closed cases have taught: where this shop differs from the content, what was missed, and how often it was right. */
export default function Learned({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>('learned');
  const different = d.families.filter((f) => f.differences.length > 0);
  const same = d.families.filter((f) => f.differences.length === 0);
  const agreed = d.families.flatMap((f) => f.options.map((o) => ({ ...o, family: f.title })));
  const asked = d.families.reduce((n, f) => n + f.asked, 0);
  const stayed = d.families.reduce((n, f) => n + f.stayed, 0);
  return (
    <div className={styles.page}>
      <h1 className="hidden">What we learned</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      {d.families.length === 0 ? (
        <p>
          Nothing yet. Every case that is closed with its cause teaches the next ones. From {d.from} proven cases of a system type on, its estimates
          change.
        </p>
      ) : (
        <p className="quiet">
          From closed cases with a proven cause, weighed together with the content. Below {d.from} cases of a system type nothing changes.
          {d.leftOut > 0 && ` ${d.leftOut === 1 ? 'One case is' : `${d.leftOut} cases are`} left out.`}
        </p>
      )}
      {d.generated && (
        <p className="quiet">The past of this demo shop was generated: 300 cases of two years by the simulation that tests the diagnosis.</p>
      )}
      {different.map((f) => (
        <section key={f.id} className={styles.section} aria-labelledby={`type-${f.id}`}>
          <h2 id={`type-${f.id}`}>
            <Link to={`/library/${f.id}`}>{f.title}</Link> <span className="quiet">{f.cases === 1 ? '1 case' : `${f.cases} cases`}</span>
          </h2>
          <Differences all={f.differences.filter((x) => !isTime(x))} />
          {f.differences.some(isTime) && (
            <details>
              <summary>Times that differ: {f.differences.filter(isTime).length}</summary>
              <Differences all={f.differences.filter(isTime)} />
            </details>
          )}
        </section>
      ))}
      {different.length > 0 && (
        <p className="quiet">
          Shown where the difference is more than chance: such limits are wrong for one system type in a hundred. The bar is what was counted here
          with its limits, the mark is what the content says.
        </p>
      )}
      {same.length > 0 && (
        <section className={styles.section} aria-labelledby="same">
          <h2 id="same">As the content says</h2>
          <p>{same.map((f) => `${f.title} (${f.cases})`).join(', ')}</p>
        </section>
      )}
      <Calibration said={d.said} />
      {d.missed.length > 0 && (
        <section className={styles.section} aria-labelledby="missed">
          <h2 id="missed">Missed</h2>
          <p className="quiet">A cause was called more likely than not, and the right one was not among the first three.</p>
          <ul className={styles.list}>
            {d.missed.map((m) => (
              <li key={m.id}>
                <Link to={`/cases/${m.id}`}>Case {m.number}</Link> {m.vehicle} <span className="quiet">{m.family}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {(agreed.length > 0 || asked > 0) && (
        <section className={styles.section} aria-labelledby="options">
          <h2 id="options">How options went</h2>
          <ul className={styles.list}>
            {agreed.map((o) => (
              <li key={`${o.family} ${o.kind}`}>
                {kinds[o.kind] ?? o.kind}, {o.family}: {o.within} of {o.n} bills within the price that was agreed
              </li>
            ))}
            {asked > 0 && (
              <li>
                Asked again in {asked === 1 ? 'one case' : `${asked} cases`}: {stayed} stayed fixed
              </li>
            )}
          </ul>
        </section>
      )}
      <Elsewhere d={d} act={act} />
    </div>
  );
}

type Data = Route.ComponentProps['loaderData'];

/** What came from other shops, and what goes to them. */
function Elsewhere({ d, act }: { d: Data; act: ReturnType<typeof useAct<typeof action>> }) {
  const { day } = useTimes();
  const file = useRef<HTMLInputElement>(null);
  return (
    <section className={styles.section} aria-labelledby="shops">
      <h2 id="shops">From other shops</h2>
      {d.elsewhere.length === 0 ? (
        <p>Nothing. A case of another shop counts a quarter as much as one of your own, and all of them together as twenty at most.</p>
      ) : (
        <ul className={styles.list}>
          {d.elsewhere.map((e) => (
            <li key={e.id}>
              <b>{e.shop || 'A shop without a name'}</b>: {e.cases} proven cases, imported {day(e.at)} by {e.by}
              {d.mayEdit && (
                <Asked
                  label="Remove"
                  aria-label={`Remove what came from ${e.shop}`}
                  ask={`Remove what came from “${e.shop}”?`}
                  lost="Cases that began with it keep what they began with; later ones begin without it."
                  yes="Remove it"
                  onYes={() => act.sendJson({ intent: 'removeLearned', id: e.id })}
                />
              )}
            </li>
          ))}
        </ul>
      )}
      {d.mayEdit && (
        <div className={styles.row}>
          <Button component="a" href="/shop/learned.json" download variant="outlined">
            Export for other shops
          </Button>
          <Button variant="outlined" loading={act.busy} onClick={() => file.current?.click()}>
            Import a file
          </Button>
          <Form
            onChange={(event) => event.currentTarget.requestSubmit()}
            onSubmit={(event) => {
              act.send('importLearned')(event);
              if (file.current) file.current.value = '';
            }}
          >
            <input
              ref={file}
              type="file"
              name="file"
              accept=".json,application/json"
              className="hidden"
              tabIndex={-1}
              aria-label="File of another shop"
            />
          </Form>
        </div>
      )}
      <p className="quiet">The file holds sums only: no name, no vehicle, no case.</p>
    </section>
  );
}

const isTime = ({ kind }: Difference) => kind === 'testMinutes' || kind === 'fixMinutes';

const Differences = ({ all }: { all: readonly Difference[] }) => (
  <ul>
    {all.map((x) => (
      <li key={`${x.kind} ${x.id}`}>
        <p>{x.say}</p>
        <Picture difference={x} />
      </li>
    ))}
  </ul>
);

/** What was counted here with its limits, beside what the content says, on one scale. */
function Picture({ difference: { kind, content, here, low, high } }: { difference: Difference }) {
  const share = kind === 'cause' || kind === 'slip';
  const most = share ? 1 : Math.max(content, high) * 1.1;
  const at = (x: number) => `${(Math.min(x, most) / most) * 100}%`;
  const say = (x: number) => (share ? formatChance(x) : `${Math.round(x * 10) / 10} min`);
  return (
    <div className={styles.picture}>
      <span className={styles.scale} aria-hidden="true">
        <i style={{ left: at(low), width: `calc(${at(high)} - ${at(low)})` }} />
        <b style={{ left: at(here) }} />
        <u style={{ left: at(content) }} />
      </span>
      <span className="quiet">
        Here {say(here)}, between {say(low)} and {say(high)}; content {say(content)}
      </span>
    </div>
  );
}

/** Of what was said with 80 to 90 %, how much was so. */
function Calibration({ said }: { said: SaidTenth[] }) {
  const shown = said.filter((t) => t.n > 0);
  if (shown.length === 0) return null;
  return (
    <section className={styles.section} aria-labelledby="said">
      <h2 id="said">How often predictions were right</h2>
      <div className={styles.wide} role="group" tabIndex={0} aria-label="How often predictions were right, scrollable">
        <table>
          <thead>
            <tr>
              <th scope="col">Predicted before the fix</th>
              <th scope="col">It was right</th>
              <th scope="col">With limits (95 %)</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((t) => (
              <tr key={t.from}>
                <th scope="row">
                  {t.from} to {t.to} %
                </th>
                <td>
                  {t.right} of {t.n}
                </td>
                <td>
                  <span className={styles.scale} aria-hidden="true">
                    <em style={{ left: `${t.from}%`, width: `${t.to - t.from}%` }} />
                    <i style={{ left: `${t.low * 100}%`, width: `${(t.high - t.low) * 100}%` }} />
                    <b style={{ left: `${(t.right / t.n) * 100}%` }} />
                  </span>
                  {formatChance(t.low)} to {formatChance(t.high)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
