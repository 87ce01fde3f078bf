import { foldJob, type JobEntry, type Made, type PlanEntry, type Witnessed } from './job';
import type { PlanStep } from './plan';
import type { Variant } from './variant';

const step = (id: string, more: Partial<PlanStep> = {}): PlanStep => ({
  id,
  title: id,
  why: `Why ${id}.`,
  by: 'hand',
  back: 'checked',
  minutes: 5,
  attended: 5,
  money: 0,
  effect: 'none',
  stage: 'before',
  brings: [],
  after: [],
  ...more,
});
const plan = (steps: PlanStep[], more: Partial<PlanEntry> = {}): PlanEntry => ({
  kind: 'plan',
  replaced: { engine: 'new' },
  installed: [],
  unread: [],
  tools: [],
  byHand: false,
  steps,
  warnings: [],
  parts: [{ part: 'engine', title: 'ECM', save: ['identity', 'codes'], causes: [{ id: 'coils', say: 'Coils' }], otherwise: 'Send it out.' }],
  ...more,
});
/** Entries a second apart, from the first at 1000 ms. */
const made = (...entries: JobEntry[]): Made[] => entries.map((e, i) => ({ ...e, by: 'Ives Quarle', at: 1000 * (i + 1) }));
const nothing: Witnessed = { runs: [], scans: [], counters: [], keys: [] };
const states = (entries: Made[], seen: Partial<Witnessed> = {}) => foldJob(entries, { ...nothing, ...seen })?.steps.map((s) => s.state);
const next = (entries: Made[], seen: Partial<Witnessed> = {}) => foldJob(entries, { ...nothing, ...seen })!.next;
const answer = (id: string, say: 'done' | 'failed' | 'leftOut' | 'open', note = ''): JobEntry => ({ kind: 'step', step: id, answer: say, note });
const variant = (side: 'old' | 'new', told: Partial<Variant>): JobEntry => ({
  kind: 'variant',
  part: 'engine',
  side,
  checked: 'twice',
  variant: { part: '', hardware: '', software: '', digits: '', supplier: '', serial: '', warranty: '', ...told },
});

describe('the work after a replacement', () => {
  const two = plan([step('fit'), step('learn', { after: ['fit'] })]);

  test('no plan, a plan given up, and one made anew', () => {
    expect(foldJob([], nothing)).toBeNull();
    expect(foldJob(made(two, { kind: 'end', reason: 'other ECM ordered' }), nothing)).toBeNull();
    expect(states(made(two, answer('fit', 'done'), two))).toEqual(['open', 'open']);
  });

  test('the last answer counts; a failed step holds up what waits for it, one left out does not', () => {
    expect(next(made(two))).toBe('fit');
    expect(next(made(two, answer('fit', 'failed')))).toBe('fit');
    expect(states(made(two, answer('fit', 'failed'), answer('fit', 'done')))).toEqual(['done', 'open']);
    expect(next(made(two, answer('fit', 'leftOut', 'is in already')))).toBe('learn');
    expect(next(made(two, answer('fit', 'done'), answer('fit', 'open')))).toBe('fit');
    const over = foldJob(made(two, answer('fit', 'done'), answer('learn', 'done')), nothing)!;
    expect([over.next, over.settled]).toEqual([null, 2]);
    // Steps that nobody knows say nothing.
    expect(next(made(two, answer('constructor', 'done')))).toBe('fit');
  });

  test('a finished run settles one step, if it ended after what the step waits for', () => {
    const swap = { procedure: 'swap-module' };
    const both = plan([step('fit.a', swap), step('fit.b', { ...swap, after: ['fit.a'] })]);
    const run = (id: number, endedAt: number) => ({ id, procedure: 'swap-module', endedAt });
    expect(states(made(both), { runs: [run(1, 999)] })).toEqual(['open', 'open']);
    expect(states(made(both), { runs: [run(1, 1000)] })).toEqual(['done', 'open']);
    expect(states(made(both), { runs: [run(1, 1000), run(2, 1000)] })).toEqual(['done', 'done']);
    expect(states(made(both), { runs: [{ id: 1, procedure: 'other', endedAt: 5000 }] })).toEqual(['open', 'open']);
    // Opened again, the run of before counts no more.
    expect(states(made(both, answer('fit.a', 'open')), { runs: [run(1, 1500)] })).toEqual(['open', 'open']);
  });

  test('a scan settles a step after what it waits for; one of the network only without a communication code', () => {
    const scans = plan([step('clear', { place: 'scan', quiet: true }), step('last', { place: 'scan', after: ['clear'] })]);
    expect(states(made(scans), { scans: [{ at: 999, quiet: true }] })).toEqual(['open', 'open']);
    expect(states(made(scans), { scans: [{ at: 2000, quiet: false }] })).toEqual(['open', 'open']);
    expect(states(made(scans), { scans: [{ at: 2000, quiet: true }] })).toEqual(['done', 'open']);
    expect(
      states(made(scans), {
        scans: [
          { at: 2000, quiet: true },
          { at: 3000, quiet: false },
        ],
      }),
    ).toEqual(['done', 'done']);
  });

  test('numbers of both parts settle a step; a deciding difference stops it until somebody found it listed', () => {
    const compare = plan([step('compare.engine', { place: 'variant', part: 'engine' }), step('fit', { after: ['compare.engine'] })]);
    expect(states(made(compare, variant('old', { part: '1' })))).toEqual(['open', 'open']);
    expect(states(made(compare, variant('old', { part: '1' }), variant('new', { part: '1' })))).toEqual(['done', 'open']);
    const differ = [compare, variant('old', { part: '1' }), variant('new', { part: '2' })];
    expect(states(made(...differ))).toEqual(['stopped', 'open']);
    expect(next(made(...differ))).toBe('compare.engine');
    expect(states(made(...differ, { kind: 'fits', part: 'engine', reason: 'superseded' }))).toEqual(['done', 'open']);
    // The reason was for that part: numbers written down after it are compared again.
    expect(states(made(...differ, { kind: 'fits', part: 'engine', reason: 'superseded' }, variant('new', { part: '3' })))).toEqual([
      'stopped',
      'open',
    ]);
    // The old part's numbers stay when the plan is made anew, the new part may be another one.
    expect(states(made(...differ.slice(0, 2), compare, variant('new', { part: '1' })))).toEqual(['done', 'open']);
    expect(states(made(compare, variant('new', { part: '1' }), compare, variant('old', { part: '1' })))).toEqual(['open', 'open']);
  });

  test('what was saved and what damaged it: all answered settles, something bad stops', () => {
    const items = plan([step('read.engine', { place: 'saved', part: 'engine' }), step('cause.engine', { place: 'cause', part: 'engine' })]);
    const saved = (item: 'identity' | 'codes', say: 'saved' | 'unreadable'): JobEntry => ({
      kind: 'saved',
      part: 'engine',
      item,
      answer: say,
      note: '',
    });
    const cause = (say: 'good' | 'bad' | 'fixed' | 'notChecked'): JobEntry => ({
      kind: 'cause',
      part: 'engine',
      check: 'coils',
      answer: say,
      note: '',
    });
    expect(states(made(items, saved('identity', 'saved')))).toEqual(['open', 'open']);
    expect(states(made(items, saved('identity', 'saved'), saved('codes', 'unreadable'), cause('bad')))).toEqual(['done', 'stopped']);
    expect(states(made(items, cause('bad'), cause('fixed')))).toEqual(['open', 'done']);
    expect(states(made(items, cause('notChecked')))).toEqual(['open', 'done']);
    // What was saved stays saved; what damaged the last one may have come back.
    expect(states(made(items, saved('identity', 'saved'), saved('codes', 'saved'), cause('good'), items))).toEqual(['done', 'open']);
  });

  test('counters before and after, and every key', () => {
    const counting = plan([
      step('note', { place: 'counters' }),
      step('restore', { place: 'counters', stage: 'restore', after: ['note'] }),
      step('keys', { place: 'verify', stage: 'after', after: ['restore'] }),
    ]);
    const read = (counter: string, phase: 'before' | 'after', at: number) => ({ counter, phase, at });
    const before = [read('odometer', 'before', 500), read('oilLife', 'before', 500)];
    expect(states(made(counting))).toEqual(['open', 'open', 'open']);
    expect(states(made(counting), { counters: before })).toEqual(['done', 'open', 'open']);
    expect(states(made(counting), { counters: [...before, read('odometer', 'after', 2000)] })).toEqual(['done', 'open', 'open']);
    const all = [...before, read('odometer', 'after', 2000), read('oilLife', 'after', 2500)];
    expect(states(made(counting), { counters: all, keys: [{ tag: 'A', at: 2400 }] })).toEqual(['done', 'done', 'open']);
    expect(
      states(made(counting), {
        counters: all,
        keys: [
          { tag: 'A', at: 2600 },
          { tag: 'B', at: null },
        ],
      }),
    ).toEqual(['done', 'done', 'open']);
    expect(states(made(counting), { counters: all, keys: [{ tag: 'A', at: 2600 }] })).toEqual(['done', 'done', 'done']);
    expect(states(made(counting), { counters: all })).toEqual(['done', 'done', 'open']);
  });
});
