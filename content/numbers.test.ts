import { resolveParams } from '../core/library';
import { numbersGiven, paramsAt, tell } from '../core/procedure';
import { session, shipped } from './session.testing';

/** A relearn of a vehicle that no library knows: all numbers typical. */
const begin = () => session({ profile: 'none', keys: ['A', 'B'] });
const family = shipped.families.get('transponder-dwell')!;
const typical = resolveParams(family);
const give = (run: ReturnType<typeof begin>, name: string, value: number | string, source = 'folder 2, page 7') =>
  run.send({ type: 'number', name, value, source });
const names = (run: ReturnType<typeof begin>) => run.shown().numbers.map((n) => `${n.name} ${n.status}`);
const toDwell = (run: ReturnType<typeof begin>) => {
  run.prepare();
  run.pass(typical.offMin!.value as number);
  run.answer('done');
  run.answer('lit');
};

describe('a number is asked for at the step that needs it', () => {
  test('each step names its own; a loop says how many rounds at its first step, once', () => {
    const run = begin();
    expect(names(run)).toEqual(['restedMin typical']);
    run.prepare();
    expect(run.shown().step).toBe('rest');
    expect(names(run).sort()).toEqual(['cycleMax typical', 'cycles typical', 'offMax typical', 'offMin typical']);
    run.pass(typical.offMin!.value as number);
    run.answer('done');
    expect(names(run)).toEqual([]);
    run.answer('lit');
    expect(names(run).sort()).toEqual(['dwell typical', 'earlyWindow typical', 'firstLimit typical', 'secondLimit typical']);
  });

  test('a given number counts at once, is verified with its source, and stays when the round begins again', () => {
    const run = begin();
    toDwell(run);
    const { wait } = run.shown();
    expect(give(run, 'dwell', 480).ok).toBe(true);
    expect(run.shown().wait!.until - wait!.until).toBe((480 - (typical.dwell!.value as number)) * 1000);
    expect(run.shown().numbers.find((n) => n.name === 'dwell')).toMatchObject({
      value: 480,
      status: 'verified',
      source: 'folder 2, page 7 (Ines Marrow)',
    });
    run.send({ type: 'interrupt', what: 'keyOff' });
    expect(run.shown().step).toBe('rest');
    run.pass(typical.offMin!.value as number);
    run.answer('done');
    run.answer('lit');
    run.pass(479);
    expect(run.shown().attention).toBe('none');
    run.pass(1);
    expect(run.shown().attention).toBe('due');
    expect(run.folded()).toEqual(run.state());
  });

  test('what lies behind is judged by the number of its time', () => {
    const run = begin();
    toDwell(run);
    run.pass(typical.dwell!.value as number);
    run.answer('lampOut');
    expect(run.shown().step).toBe('off');
    // A longer time that is read now does not undo the round that counted.
    give(run, 'dwell', 900);
    expect(run.shown().step).toBe('off');
    expect(run.folded()).toEqual(run.state());
  });

  test('it can be taken back, and the typical one counts again', () => {
    const run = begin();
    give(run, 'restedMin', 12.6);
    expect(run.shown().value!.required).toBe('at least 12.6 V');
    run.send({ type: 'takeBack', event: run.events.at(-1)!.id });
    expect(run.shown().value!.required).toBe(`at least ${typical.restedMin!.value} V`);
    expect(numbersGiven(run.events)).toEqual({});
  });

  test.each([
    ['gone', 3, 'page', /^"gone" is not a number of this procedure\. Use one of: /],
    ['dwell', 480, '  ', /^Name document and page that the number comes from/],
    ['dwell', 480, 'x'.repeat(501), /^Name document and page/],
  ])('%s, %s, %j is refused', (name, value, source, message) => {
    const decision = give(begin(), name, value, source);
    expect(decision).toMatchObject({ ok: false, refusal: { message: expect.stringMatching(message) } });
  });

  test('the report tells it with name, unit and source; the next run begins with it', () => {
    const run = begin();
    give(run, 'dwell', 480);
    give(run, 'cut', 'fuelAndStarter');
    expect(tell(run.program, typical, run.events).map((t) => `${t.instruction}: ${t.said}`)).toEqual([
      ': Run started',
      `${family.params.dwell!.label}: 8:00`,
    ]);
    const next = paramsAt(typical, numbersGiven(run.events));
    expect(next.dwell).toMatchObject({ value: 480, status: 'verified' });
    expect(next.offMin).toBe(typical.offMin);
  });
});
