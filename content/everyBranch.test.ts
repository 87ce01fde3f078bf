import { readFileSync } from 'node:fs';
import { branchesOf } from '../core/procedure';
import { kindOf } from '../core/procedure/definition';
import { generator } from '../core/units';
import { session, shipped } from './session.testing';

/** Answers that exist only after a number was looked up during the wait (core/procedure/heldWait.test.ts). */
const elsewhere = new Set(['timeOver']);

/**
 * Walks a procedure again and again, each time taking answers that no walk has taken before, until every answer of every step was given, each late
 * branch was met and every stop was reached; or until it has walked `most` times.
 */
function walkAll(id: string, most = 400) {
  const procedure = shipped.procedures.get(id)!;
  const { program } = session({ procedure, keys: ['A', 'B', 'C'] });
  const leaves = program.nodes.flatMap((n) => (n.op === 'leaf' ? [n.step] : []));
  const { answers, limits, stops } = branchesOf(procedure);
  const open = new Set<string>([...answers.filter((a) => !elsewhere.has(a.split(' ')[1]!)), ...limits, ...stops, 'finished']);
  // What a parameter decides is asked in one vehicle and not in the other: walked with each of its values.
  const decided = leaves.flatMap((s) =>
    'choice' in s && s.choice.param ? [{ param: s.choice.param, names: Object.keys(s.cases), step: s.id }] : [],
  );
  for (const { step, names } of decided) for (const name of names) open.delete(`${step} ${name}`);
  const random = generator(20261128);
  for (let walk = 0; walk < most && open.size > 0; walk += 1) {
    const run = session({ procedure, keys: ['A', 'B', 'C', 'D', 'E', 'F', 'G'].slice(0, [3, 1, 7][walk % 3]) });
    for (const { param, names } of decided) run.send({ type: 'number', name: param, value: names[walk % names.length]!, source: 'page 1' });
    if ('tries' in run.values) run.send({ type: 'number', name: 'tries', value: 5, source: 'page 1' });
    // The further a walk goes before it leaves the good way, the deeper the branches that it can meet.
    let good = walk % 40;
    const habits: Record<string, string> = {};
    for (let i = 0; i < 400 && run.state().status === 'running'; i += 1) {
      const shown = run.shown();
      const { step } = shown;
      if (shown.interruptions.some((x) => x.policy === 'measure') && procedure.measure && walk % 5 === 0 && i === 6)
        run.send({ type: 'interrupt', what: 'supplyLow' });
      const here = run.shown();
      if (here.step !== step) continue;
      const seconds = (moment: number) => Math.max(0, (moment - run.now()) / 1000);
      if (here.answers.length === 0) {
        run.pass(seconds(here.wait!.until));
        continue;
      }
      const lit = here.answers.some((a) => a.id === 'lampOut');
      const limited = here.wait?.kind === 'most';
      const fresh = here.answers.filter((a) => open.has(`${step} ${a.id}`));
      good -= 1;
      // What has been taken before is taken alike through all rounds of a walk.
      const again = (habits[step] ??= here.answers[random() < 0.5 ? 0 : Math.floor(random() * here.answers.length)]!.id);
      let answer = good >= 0 ? here.answers[0]!.id : (fresh[Math.floor(random() * fresh.length)]?.id ?? again);
      if (!here.answers.some((a) => a.id === answer)) answer = here.answers[0]!.id;
      if (lit) {
        if (answer === 'stillOn' && here.wait!.redAt !== undefined) run.pass(seconds(here.wait!.redAt));
        else {
          answer = 'lampOut';
          run.pass(seconds(here.wait!.until));
        }
      } else if (limited && walk % 7 === 3 && good < 0) run.pass(seconds(here.wait!.until) + 1);
      else if (answer === 'release') run.pass(here.wait ? seconds(here.wait.until) : 0);
      else run.pass(1);
      const value = here.value ? { value: good < 0 && walk % 3 === 0 ? here.value.min : needed(run, step) } : {};
      const before = run.state();
      const decision = run.send({ type: 'answer', step, answer, ...value, note: 'noted' });
      if (!decision.ok) throw new Error(`${id}, ${step}, ${answer}: ${decision.refusal.message}`);
      const remark = (run.events.at(-1) as { remark?: string }).remark;
      if (remark === 'late' || remark === 'over')
        for (const name of [...open]) if (name.endsWith(' late') && lateOf(before.step, step, name)) open.delete(name);
      if (remark !== 'late') open.delete(`${step} ${answer}`);
    }
    const { status, stop } = run.state();
    if (status === 'finished') open.delete('finished');
    if (stop?.name) open.delete(`stop.${stop.name}`);
  }
  return [...open];
}

/** A late branch belongs to the wait that the run stood at, or to the act itself. */
const lateOf = (at: string, step: string, name: string): boolean => name === `${at} late` || name === `${step} late`;

/** A value that is enough for the step. */
function needed(run: ReturnType<typeof session>, id: string): number {
  const node = run.program.nodes[run.program.at.get(id)!];
  if (node?.op !== 'leaf' || !('value' in node.step)) return 0;
  const { atLeast, min, max } = node.step.value;
  const low = typeof atLeast === 'string' ? /^\$(\w+)(?:\s*-\s*([\d.]+))?/.exec(atLeast) : null;
  const from = low ? Number(run.values[low[1]!]) - Number(low[2] ?? 0) : typeof atLeast === 'number' ? atLeast : (min + max) / 2;
  return node.step.value.whole ? Math.ceil(from) : from + 0.1;
}

test('there are procedures, of several kinds of step', () => {
  const kinds = new Set(
    [...shipped.procedures.values()].flatMap((p) =>
      session({ procedure: p }).program.nodes.flatMap((n) => (n.op === 'leaf' ? [kindOf(n.step)] : [])),
    ),
  );
  expect(shipped.procedures.size).toBeGreaterThanOrEqual(7);
  expect(kinds.size).toBeGreaterThanOrEqual(10);
});

test.each([...shipped.procedures.keys()])(
  '%s: every answer of every step is given, every limit passed, every stop reached, and it can be finished',
  (id) => {
    expect(walkAll(id)).toEqual([]);
  },
);

test('docs/procedures.md has one line for each procedure, and every branch that it counts is walked here', () => {
  const rows = readFileSync('docs/procedures.md', 'utf8')
    .split('\n')
    .filter((line) => /^\| [a-z-]+ \| `/.test(line));
  expect(rows.map((line) => /`([^`]+)`/.exec(line)![1]).sort()).toEqual([...shipped.procedures.keys()].sort());
});
