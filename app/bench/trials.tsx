import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { parseMeasurement } from '../../server/ledger/measurements/form';
import { recordMeasurement, testsOf } from '../../server/ledger/measurements/record';
import { parseBenchQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { Field } from '../intake/parts';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { useKeys } from '../ui/keys';
import { later } from '../ui/later';
import type { Route } from './+types/trials';
import { benchCase } from './benchCase.server';
import { AddToCase, useAddToCase } from './AddToCase';
import bench from './bench.module.css';
import { CasePick } from './CasePick';
import styles from './trials.module.css';
import { useTrials } from './useTrials';

export const meta: Route.MetaFunction = () => [{ title: 'Repeat test · Bloodstone' }];
export const handle = {
  place: ({ chosen }: Route.ComponentProps['loaderData']) => ({
    title: 'Repeat test',
    detail: chosen ? `case ${chosen.number} · ${chosen.vehicle}` : 'counted on the bench',
  }),
};

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const query = parseBenchQuery(new URL(request.url).searchParams);
  const { record, cases, keys } = await benchCase(services, query.caseId);
  const family = record ? await services.documents.family(record.family) : undefined;
  return {
    cases,
    keys,
    chosen: record ? { id: record.id, number: record.number, vehicle: record.vehicle } : null,
    tests: (family ? testsOf(family, 'trials') : []).map((t) => ({
      id: t.id,
      title: t.title,
      do: t.do,
      hit: t.instrument!.hit!,
      atLeast: t.instrument!.atLeast!,
    })),
  };
}

export async function action(args: Route.ActionArgs) {
  return acting('/bench/trials', args, {
    measure: async ({ form, services, act }) => {
      const { answered } = await recordMeasurement(services, act(), parseMeasurement(form));
      return {
        said: answered.length > 0 ? `Saved to the case: ${answered.join(', ')}.` : 'Saved to the case. The checks answer no test yet.',
      };
    },
  });
}

const targets = { '0.1': 'one in ten', '0.05': 'one in twenty', '0.01': 'one in a hundred' } as const;

/** With it come the statistics. */
const Verdict = later('TrialsVerdict', () => import('./TrialsVerdict'));

/** A look with two answers, made again and again: how often, and what so many still allow. */
export default function TrialsBench({ loaderData: d }: Route.ComponentProps) {
  return <Counter key={d.chosen?.id ?? 'bench'} d={d} />;
}

function Counter({ d }: { d: Route.ComponentProps['loaderData'] }) {
  const { counted, setCounted, groups, made, hits, look: add, back } = useTrials(d.chosen?.id ?? null, d.tests.length > 0);
  const [key, setKey] = useState<string | null>(d.keys[0] ?? null);
  const [chip, setChip] = useState('');
  const [target, setTarget] = useState<keyof typeof targets>('0.05');
  const navigate = useNavigate();
  const adding = useAddToCase('trials', JSON.stringify(counted));
  const test = d.tests[0];
  const hit = test?.hit ?? (counted.hit || 'yes');
  const look = (isHit: boolean) => add(isHit, key, chip.trim());
  useKeys([
    { keys: '1', shown: '1', say: hit, act: () => look(true) },
    { keys: '2', shown: '2', say: 'does not', act: () => look(false) },
    ...(counted.looks.length > 0 ? [{ keys: 'u', shown: 'u', say: 'undo the last check', act: back }] : []),
  ]);
  const chips = [...new Set(counted.looks.map((l) => l.note).filter(Boolean))];
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Repeat test</h1>
      <section className={bench.input} aria-label="What you are checking">
        <CasePick cases={d.cases} chosen={d.chosen?.id ?? null} onPick={(id) => void navigate(id === '' ? '?' : `?case=${id}`, { replace: true })} />
        {test ? (
          <p>
            <span className="label">{test.title}</span>
            <br />
            {test.do}
          </p>
        ) : (
          <>
            <Field
              name="what"
              label="What you are checking"
              value={counted.what}
              put={(what) => setCounted({ ...counted, what })}
              errors={{}}
              max={120}
            />
            <Field
              name="hit"
              label="One word for yes"
              value={counted.hit}
              put={(word) => setCounted({ ...counted, hit: word })}
              errors={{}}
              max={40}
              help="Such as signal, start, click."
            />
            {d.chosen && <p className="quiet">Its system type has no test for this: the checks are saved to the case but don’t answer one.</p>}
          </>
        )}
        {d.keys.length > 0 && (
          <fieldset className={bench.row}>
            <legend>Key used</legend>
            {d.keys.map((tag) => (
              <Choice key={tag} type="radio" name="key" value={tag} checked={key === tag} onChange={() => setKey(tag)}>
                tag {tag}
              </Choice>
            ))}
            <Choice type="radio" name="key" value="" checked={key === null} onChange={() => setKey(null)}>
              a key without a tag, or none
            </Choice>
          </fieldset>
        )}
        <Field name="chip" label="Chip kind, if the detector names one" value={chip} put={setChip} errors={{}} max={80} size="small" />
        <Field
          name="target"
          label="Rule out misses of more than"
          value={target}
          put={(v) => setTarget(v as keyof typeof targets)}
          errors={{}}
          select
          size="small"
        >
          {Object.entries(targets).map(([value, say]) => (
            <MenuItem key={value} value={value}>
              {say}
            </MenuItem>
          ))}
        </Field>
      </section>
      <section className={bench.first} aria-label="Checks">
        <div className={styles.answers} data-rapid>
          <button type="button" onClick={() => look(true)}>
            <span className="keycap" aria-hidden="true">
              1
            </span>
            <b className={styles.capital}>{hit || 'yes'}</b>
          </button>
          <button type="button" onClick={() => look(false)}>
            <span className="keycap" aria-hidden="true">
              2
            </span>
            <b>No {hit || 'hit'}</b>
          </button>
        </div>
        <p className={styles.count} role="status" aria-label="Count">
          <span className="mono">
            {hits} of {made}
          </span>
        </p>
        {groups.map((g) => (
          <div key={g.name} className={styles.group}>
            <h2 className="label">
              {g.name}: {g.hits} of {g.trials}
            </h2>
            <ol className={styles.tally} aria-label={`Checks with ${g.name}`}>
              {counted.looks
                .filter((l) => (l.key === null ? 'no tag' : `tag ${l.key}`) === g.name)
                .slice(-120)
                .map((l, i) => (
                  <li key={i} data-hit={l.hit || undefined}>
                    <span className="hidden">{l.hit ? hit : 'does not'}</span>
                  </li>
                ))}
            </ol>
          </div>
        ))}
        {counted.looks.length > 0 && (
          <div className={bench.row}>
            <Button variant="outlined" color="inherit" onClick={back}>
              Undo the last
            </Button>
            <Button variant="text" color="inherit" onClick={() => setCounted({ ...counted, looks: [] })}>
              Start over
            </Button>
          </div>
        )}
      </section>
      <section className={bench.verdict} aria-label="Result" aria-live="polite">
        <Verdict groups={groups} hit={hit} target={Number(target)} atLeast={test?.atLeast} />
        {chips.length > 0 && <p>Named by the detector: {chips.join(', ')}.</p>}
        <p className="quiet">
          An antenna coil that transmits may still not receive. Whether something answers shows in its{' '}
          <Link to={`/bench/bursts${d.chosen ? `?case=${d.chosen.id}` : ''}`}>bursts</Link>.
        </p>
        <AddToCase
          adding={adding}
          chosen={d.chosen}
          ready={made > 0}
          onAdd={() =>
            adding.add({
              kind: 'trials',
              case: d.chosen!.id,
              raw: { what: test?.title || counted.what || 'Repeat test', hit, looks: counted.looks },
            })
          }
        />
      </section>
    </div>
  );
}
