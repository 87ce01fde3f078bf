import { evidenceOf, fold } from '../core/procedure';
import { session, shipped } from './session.testing';

const start = (id: string, options: Parameters<typeof session>[0] = {}) => session({ procedure: shipped.procedures.get(id)!, ...options });

/** Evidence that the whole run left, test: outcome. */
function evidence(run: ReturnType<typeof session>): string[] {
  return run.events.slice(1).flatMap((event, i) => {
    const [before, after] = [0, 1].map((more) => fold(run.program, run.values, run.events.slice(0, i + 1 + more)));
    return evidenceOf(run.program, before!, after!, event).map((e) => `${e.test}: ${e.outcome} (${e.key})`);
  });
}

describe('teach keys with the master (Mirrow Pipit: 3 flashes for the master, 9 s for a change)', () => {
  const begin = (keys: string[]) => {
    const run = start('teach-with-master', { profile: 'mirrow-pipit', keys });
    run.answer('measured', 12.6);
    if (keys.length > 6) run.answer('fits');
    run.answer('done');
    run.answer('done');
    expect(run.shown().instruction).toBe('Count the flashes: 3 means this is the master.');
    run.answer('done');
    expect(run.shown()).toMatchObject({ kind: 'commitment', cautions: ['forgets'] });
    run.answer('done');
    run.answer('done');
    return run;
  };
  const teach = (run: ReturnType<typeof session>, tag: string, after: number) => {
    run.pass(after);
    expect(run.shown()).toMatchObject({ step: 'userIn', key: tag, wait: { kind: 'most' } });
    run.answer('done');
    if (run.shown().step !== 'userFlashes') return;
    run.answer('done');
    run.answer('done');
  };

  test('two user keys in time, the master closes, proven by a start', () => {
    const run = begin(['M', 'A', 'B']);
    teach(run, 'A', 9);
    teach(run, 'B', 4);
    run.pass(8.9);
    expect(run.shown().instruction).toBe('Put the master, tag M, in and turn it on.');
    run.answer('done');
    run.answer('begin');
    run.pass(5.9);
    run.answer('release');
    expect(run.shown()).toMatchObject({ step: 'closed', notice: { kind: 'short' } });
    run.answer('begin');
    run.pass(6);
    run.answer('release');
    run.answer('done');
    // Not the master: the start proves a key that was taught.
    expect(run.shown().instruction).toBe('Start with tag B. What does the engine do?');
    run.answer('runs');
    expect(run.state().status).toBe('finished');
    expect(evidence(run)).toEqual(['engine: runs (B)']);
    expect(run.folded()).toEqual(run.state());
  });
  test('a change of 9.001 s has closed the teaching: back to the master, and it says which keys may be stored', () => {
    const run = begin(['M', 'A', 'B']);
    teach(run, 'A', 2);
    run.pass(9.001);
    run.answer('done');
    expect(run.shown()).toMatchObject({
      step: 'masterIn',
      notice: {
        kind: 'late',
        text: 'The swap took longer than 9 s. Teaching has ended, and only the keys up to here may be stored. Start over with the master.',
      },
    });
  });
  test('another count than the master’s stops before anything is lost', () => {
    const run = start('teach-with-master', { profile: 'mirrow-pipit', keys: ['A', 'B'] });
    run.answer('measured', 12.3);
    run.answer('done');
    run.answer('done');
    run.answer('other', undefined, '7, twice');
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'noMaster' } });
  });
  test.each([
    [6, false],
    [7, true],
  ])('%s keys with room for five and the master: asked about it %s', (keys, asked) => {
    const run = start('teach-with-master', { profile: 'mirrow-pipit', keys: Array.from({ length: keys }, (_, i) => `K${i}`) });
    run.answer('measured', 12.6);
    expect(run.shown().step === 'tooMany').toBe(asked);
    if (!asked) return;
    expect(run.shown().instruction).toContain('usually holds: 5 and the master');
    run.answer('over');
    expect(run.shown().stop?.name).toBe('tooMany');
  });
  test('without authority it stands at the point of no return', () => {
    const run = start('teach-with-master', { profile: 'mirrow-pipit', keys: ['M', 'A'], record: { authority: false, keysAbsent: ['B'] } });
    run.answer('measured', 12.6);
    for (let i = 0; i < 3; i += 1) run.answer('done');
    expect(run.shown().warnings).toEqual([expect.stringContaining('Not here: tag B.')]);
    expect(run.send({ type: 'answer', step: 'sure', answer: 'done' })).toMatchObject({ ok: false, refusal: { code: 'gateClosed' } });
  });
});

describe('set the immobilizer free by radio', () => {
  const begin = () => {
    const run = start('rearm-by-radio', { keys: ['F'] });
    run.answer('ticked', undefined, 'type of cell read off, 2.4 V pressed, changed');
    run.answer('done');
    return run;
  };
  const press = (run: ReturnType<typeof session>) => {
    run.answer('begin');
    run.pass(1);
    run.answer('release');
  };
  test('the second round wakes it, and it is proven by walking away', () => {
    const run = begin();
    press(run);
    run.answer('stays');
    for (let i = 0; i < 3; i += 1) run.answer('done');
    run.answer('stays');
    expect(run.shown()).toMatchObject({ step: 'press', round: 'Cycle 2' });
    press(run);
    run.answer('wakes');
    expect(run.shown().step).toBe('awake');
    run.answer('wakes');
    run.answer('runs');
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'arming', wait: { kind: 'least' } });
    run.pass(89.9);
    expect(run.send({ type: 'answer', step: 'back', answer: 'wakes' })).toMatchObject({ ok: false, refusal: { code: 'wrongStep' } });
    run.pass(0.1);
    run.answer('wakes');
    expect(run.state().status).toBe('finished');
    expect(evidence(run)).toEqual([
      'unlockPress: stays (F)',
      'lamp: lockedDown (F)',
      'unlockPress: wakes (F)',
      'lamp: awake (F)',
      'engine: runs (F)',
      'lamp: awake (F)',
    ]);
    expect(run.folded()).toEqual(run.state());
  });
  test('three rounds in the dark end it with what to look at', () => {
    const run = begin();
    for (let round = 0; round < 3; round += 1) {
      press(run);
      run.answer('stays');
      for (let i = 0; i < 3; i += 1) run.answer('done');
      run.answer('stays');
    }
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'notHeard' } });
  });
  test('a tap is no press', () => {
    const run = begin();
    run.answer('begin');
    run.pass(0.9);
    run.answer('release');
    expect(run.shown()).toMatchObject({ step: 'press', notice: { kind: 'short' } });
  });
});

describe('write a key into an empty slot', () => {
  const toTheBench = () => {
    const run = start('write-slot', { keys: ['N'] });
    run.answer('measured', 12.6);
    run.answer('done');
    run.answer('measured', 12.2);
    run.answer('done');
    expect(run.shown().instruction).toBe("Type the 9 digits of the box's label twice.");
    run.answer('ticked', undefined, 'label photographed with the case');
    run.answer('done');
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'settled', wait: { kind: 'least' } });
    run.pass(90);
    run.answer('done');
    run.answer('measured', 12.6);
    expect(run.shown().notice).toEqual({ kind: 'unmet', text: 'Not the right voltage for this box. Set it, then measure again.' });
    run.answer('measured', 12.5);
    run.answer('done');
    run.answer('ticked', undefined, 'box-1.bin');
    return run;
  };
  test('two equal readings, written, read back, refitted, taught', () => {
    const run = toTheBench();
    expect(run.shown().step).toBe('nextRead');
    run.answer('same', undefined, 'box-2.bin');
    run.answer('empty');
    expect(run.shown()).toMatchObject({ kind: 'commitment' });
    run.answer('done');
    expect(run.send({ type: 'takeBack', event: run.events.at(-1)!.id })).toMatchObject({ ok: false, refusal: { code: 'pastCommitment' } });
    run.answer('done');
    run.answer('same', undefined, 'box-after.bin, slot 4');
    run.answer('done');
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'word', lamp: 'noKey' });
    run.answer('absent');
    run.answer('runs');
    expect(run.shown()).toMatchObject({
      step: 'band',
      instruction: 'Look up the band of the remote: upper.',
      numbers: [{ name: 'band', status: 'typical' }],
    });
    run.answer('done');
    expect(run.shown().step).toBe('upperFit');
    run.answer('done');
    run.answer('begin');
    run.pass(35.1);
    run.answer('done');
    expect(run.shown().notice).toMatchObject({ kind: 'over', text: 'Longer than 35 s. Learning has ended; start the turns again.' });
    run.answer('begin');
    run.pass(20);
    run.answer('done');
    run.answer('begin');
    run.pass(3);
    run.answer('release');
    run.answer('follow');
    expect(run.state().status).toBe('finished');
    expect(evidence(run)).toEqual(['engine: runs (N)']);
    expect(run.folded()).toEqual(run.state());
  });
  test('readings that differ begin again at the contacts; nothing was written', () => {
    const run = toTheBench();
    run.answer('different');
    expect(run.shown().step).toBe('contacts');
  });
  test('more than the slot differs afterwards: stop, and do not refit', () => {
    const run = toTheBench();
    run.answer('same', undefined, 'box-2.bin');
    run.answer('empty');
    run.answer('done');
    run.answer('done');
    run.answer('different');
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'badWrite', text: expect.stringContaining("Don't reinstall the box.") } });
  });
  test('another band, looked up at its step, takes the other way', () => {
    const run = toTheBench();
    run.answer('same', undefined, 'box-2.bin');
    run.answer('empty');
    run.answer('done');
    run.answer('done');
    run.answer('same', undefined, 'box-after.bin');
    run.answer('done');
    run.answer('done');
    run.answer('absent');
    run.answer('runs');
    run.send({ type: 'number', name: 'band', value: 'lower', source: 'label of the receiver' });
    expect(run.shown().instruction).toBe('Look up the band of the remote: lower.');
    run.answer('done');
    expect(run.shown().step).toBe('lowerFit');
    expect(run.folded()).toEqual(run.state());
  });
});
