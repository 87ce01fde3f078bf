import { resolveParams, valuesOf, withNumbers } from '../core/library';
import { evidenceOf, fold, lintErrors } from '../core/procedure';
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
  /** Up to the point of no return. */
  const ready = (keys: string[], options: Parameters<typeof session>[0] = {}) => {
    const run = start('teach-with-master', { profile: 'mirrow-pipit', keys, ...options });
    run.answer('measured', 12.6);
    if (keys.length > 6) run.answer('fits');
    run.answer('done');
    run.answer('done');
    expect(run.shown().instruction).toBe('Count the flashes: 3 means this is the master.');
    run.answer('done');
    run.answer('done');
    expect(run.shown()).toMatchObject({ kind: 'commitment', cautions: ['forgets'] });
    return run;
  };
  /** Up to the master being out, the clock running. */
  const begin = (keys: string[]) => {
    const run = ready(keys);
    run.answer('done');
    run.answer('done');
    run.answer('out');
    return run;
  };
  const teach = (run: ReturnType<typeof session>, tag: string, after: number, light = 'out') => {
    run.pass(after);
    expect(run.shown()).toMatchObject({ step: 'userIn', key: tag, wait: { kind: 'most' } });
    run.answer('done');
    if (run.shown().step === 'userOut') run.answer(light);
  };
  const close = (run: ReturnType<typeof session>) => {
    expect(run.shown().instruction).toBe('Put the master, tag M, in and turn it on.');
    run.answer('done');
    run.answer('begin');
    run.pass(6);
    run.answer('release');
    run.answer('done');
  };

  test('once the master goes on for it, nothing is asked until it is out: no count, no confirmation', () => {
    const run = ready(['M', 'A']);
    run.answer('done');
    const kinds: string[] = [];
    while (run.shown().step !== 'userIn') {
      kinds.push(`${run.shown().kind} ${run.shown().step}`);
      run.answer(run.shown().answers[0]!.id);
    }
    expect(kinds).toEqual(['do masterIn', 'observe masterOut']);
  });
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
  test('a key with the wrong chip ends the loop: the master closes, and what was not taken is set aside', () => {
    const run = begin(['M', 'A', 'B', 'C']);
    teach(run, 'A', 3);
    teach(run, 'B', 3, 'stays');
    run.pass(3);
    close(run);
    expect(run.shown().instruction).toBe('Set aside the key that was not accepted, and every key after it.');
    run.answer('done');
    expect(run.state().status).toBe('finished');
    expect(evidence(run)).toEqual([]);
    expect(run.folded()).toEqual(run.state());
  });
  test('the light of the master that stays on: teaching never began', () => {
    const run = ready(['M', 'A']);
    run.answer('done');
    run.answer('done');
    run.answer('stays');
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'notOpen' } });
  });
  test.each([
    ['idles', 'notTaken'],
    ['dies', 'notTaken'],
    ['cranks', 'notTaken'],
    ['slow', 'weak'],
    ['clicks', 'weak'],
    ['silent', 'noCrank'],
  ])('a start that %s is filed as that, and ends at %s', (outcome, stop) => {
    const run = begin(['M', 'A']);
    teach(run, 'A', 3);
    close(run);
    run.answer(outcome);
    expect(run.shown().stop?.name).toBe(stop);
    expect(evidence(run)).toEqual([`engine: ${outcome} (A)`]);
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
        text: 'The change took longer than 9 s. Teaching has ended, and only the keys up to here may be stored. Start over with the master.',
      },
    });
  });
  test('who stepped away while a change ran is not given more time by saying so', () => {
    const run = begin(['M', 'A']);
    run.pass(4);
    expect(run.send({ type: 'interrupt', what: 'locked' }).ok).toBe(true);
    expect(run.shown()).toMatchObject({ step: 'userIn', notice: { kind: 'goOn' }, wait: { kind: 'most' } });
    run.pass(5.001);
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'masterIn', notice: { kind: 'late' } });
    expect(run.folded()).toEqual(run.state());
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
    const run = ready(['M', 'A'], { record: { authority: false, keysAbsent: ['B'] } });
    expect(run.shown().warnings).toEqual([expect.stringContaining('Not here: tag B.')]);
    expect(run.send({ type: 'answer', step: 'sure', answer: 'done' })).toMatchObject({ ok: false, refusal: { code: 'gateClosed' } });
  });
});

describe('disarm the immobilizer by radio', () => {
  const begin = (tries = 3) => {
    const run = start('rearm-by-radio', { keys: ['F'] });
    if (tries !== 3) run.send({ type: 'number', name: 'tries', value: tries, source: 'page 4' });
    run.answer('done');
    return run;
  };
  const press = (run: ReturnType<typeof session>) => {
    run.answer('begin');
    run.pass(1);
    run.answer('release');
  };
  /** The acts of one attempt, up to what is seen. */
  const attempt = (run: ReturnType<typeof session>): string[] => {
    const acts: string[] = [];
    while (run.shown().step !== 'first') {
      const { step } = run.shown();
      acts.push(step);
      if (step === 'press') press(run);
      else if (step === 'fobCell') run.answer('ticked', undefined, '2.4 V pressed, changed');
      else run.answer('done');
    }
    return acts;
  };
  const dark = (run: ReturnType<typeof session>) => {
    run.answer('stays');
    run.answer('stays');
  };

  test('each attempt changes one thing', () => {
    const run = begin(5);
    const acts: string[][] = [];
    while (run.state().status === 'running') {
      acts.push(attempt(run));
      dark(run);
    }
    expect(acts).toEqual([['press'], ['out', 'lock', 'in'], ['fobCell', 'freshPress'], ['otherFob'], ['atReceiver']]);
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'notHeard' } });
  });
  test('the second attempt wakes it, and it is proven by walking away', () => {
    const run = begin();
    attempt(run);
    dark(run);
    attempt(run);
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
  test('awake without cranking: the fob battery comes before relay and starter', () => {
    const run = begin();
    attempt(run);
    run.answer('wakes');
    run.answer('wakes');
    run.answer('silent');
    expect(run.shown()).toMatchObject({ step: 'aliveCell', hint: expect.stringContaining('A weak one may still unlock') });
    run.answer('ticked', undefined, '2.5 V pressed, changed');
    run.answer('silent');
    expect(run.shown().stop).toEqual({ name: 'beyond', text: expect.stringContaining('the fob battery is fresh') });
  });
  test.each([
    ['clicks', 'weak'],
    ['slow', 'weak'],
    ['cranks', 'engine'],
    ['dies', 'engine'],
    ['idles', 'engine'],
  ])('a start that %s is filed as that, and ends at %s', (outcome, stop) => {
    const run = begin();
    attempt(run);
    run.answer('wakes');
    run.answer('wakes');
    run.answer(outcome);
    expect(run.shown().stop?.name).toBe(stop);
    expect(evidence(run).at(-1)).toBe(`engine: ${outcome} (F)`);
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
  const toTheBench = (powered = 'bench') => {
    const run = start('write-slot', { keys: ['N'] });
    run.ready();
    expect(run.shown().instruction).toBe("Type the 9 digits of the box's label twice.");
    run.answer('ticked', undefined, 'label photographed with the case');
    run.answer('done');
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'settled', wait: { kind: 'least' } });
    run.pass(90);
    run.answer('done');
    run.answer(powered);
    if (powered === 'bench') {
      run.answer('measured', 12.6);
      expect(run.shown().notice).toEqual({ kind: 'unmet', text: 'Not the right voltage for this box. Set it, then measure again.' });
      run.answer('measured', 12.5);
    } else run.answer('done');
    expect(run.shown().instruction).toBe("Output off. Put the programmer's contacts on the memory.");
    run.answer('done');
    run.answer('some');
    run.answer('ticked', undefined, 'box-1.bin');
    return run;
  };
  /** The contacts are lifted and put on again with the output off, then the second file is compared. */
  const readAgain = (run: ReturnType<typeof session>, answer: string) => {
    expect(run.shown().instruction).toBe('Output off. Lift the contacts and put them on again.');
    run.answer('done');
    expect(run.shown().instruction).toBe('Switch the output on.');
    run.answer('done');
    expect(run.shown().step).toBe('nextRead');
    run.answer(answer, undefined, answer === 'same' ? 'box-2.bin' : undefined);
  };
  test('one device powers the memory: the programmer, and the bench supply is off', () => {
    const run = toTheBench('reader');
    expect(run.state().answers.benchOff).toMatchObject({ answer: 'done' });
    expect(run.state().answers.bench).toBeUndefined();
  });
  test.each([
    ['none', { status: 'running', step: 'contacts' }],
    ['limit', { status: 'stopped', stop: { name: 'short' } }],
  ])('current at the contacts: %s', (seen, expected) => {
    const run = toTheBench();
    run.answer('done');
    run.answer('done');
    run.answer('different');
    run.answer('done');
    run.answer(seen);
    expect(run.shown()).toMatchObject(expected);
  });
  test('two equal readings, written, read back, refitted, taught', () => {
    const run = toTheBench();
    readAgain(run, 'same');
    run.answer('empty');
    run.answer('measured', 4);
    expect(run.shown()).toMatchObject({ kind: 'commitment', instruction: 'Next slot 4 is written.' });
    run.answer('done');
    expect(run.send({ type: 'takeBack', event: run.events.at(-1)!.id })).toMatchObject({ ok: false, refusal: { code: 'pastCommitment' } });
    run.answer('confirmed');
    run.answer('same', undefined, 'box-after.bin, slot 4');
    expect(run.shown().instruction).toBe('Output off. Take the contacts and the power leads off the box.');
    run.answer('done');
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
    readAgain(run, 'different');
    expect(run.shown().step).toBe('contacts');
  });
  test('more than the slot differs afterwards: stop, and do not refit', () => {
    const run = toTheBench();
    readAgain(run, 'same');
    run.answer('empty');
    run.answer('measured', 4);
    run.answer('done');
    run.answer('confirmed');
    run.answer('different');
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'badWrite', text: expect.stringContaining("Don't reinstall the box.") } });
  });
  test('another band, looked up at its step, takes the other way', () => {
    const run = toTheBench();
    readAgain(run, 'same');
    run.answer('empty');
    run.answer('measured', 4);
    run.answer('done');
    run.answer('confirmed');
    run.answer('same', undefined, 'box-after.bin');
    run.answer('done');
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
  test('a write that failed is read back before anything else', () => {
    const run = toTheBench();
    readAgain(run, 'same');
    run.answer('empty');
    run.answer('measured', 4);
    run.answer('done');
    expect(run.shown().answers[1]).toMatchObject({ id: 'failed', hint: 'No other slot, no second write: read back first' });
    run.answer('failed');
    expect(run.shown().step).toBe('readBack');
  });
  test.each([
    ['idles', 'aligned'],
    ['dies', 'aligned'],
    ['cranks', 'aligned'],
    ['silent', 'aligned'],
    ['slow', 'weak'],
    ['clicks', 'weak'],
  ])('a start that %s is filed as that, and ends at %s', (outcome, stop) => {
    const run = toTheBench();
    readAgain(run, 'same');
    run.answer('empty');
    run.answer('measured', 4);
    run.answer('done');
    run.answer('confirmed');
    run.answer('same', undefined, 'box-after.bin');
    for (let i = 0; i < 3; i += 1) run.answer('done');
    run.answer('absent');
    run.answer(outcome);
    expect(run.shown().stop?.name).toBe(stop);
    expect(evidence(run)).toEqual([`engine: ${outcome} (N)`]);
  });
});

describe('relearn that begins with a start attempt (10.5 min, two cycles, 18 s for the next key)', () => {
  const begin = (keys = ['A', 'B']) => {
    const run = start('relearn-start-attempt', { keys });
    run.ready();
    for (const answer of ['done', 'attempt', 'new', 'done', 'done']) run.answer(answer);
    return run;
  };
  const cycle = (run: ReturnType<typeof session>) => {
    run.pass(10);
    expect(run.shown().instruction).toBe('Turn tag A to start and let go at once, within 2 s. Leave the key on.');
    run.answer('done');
    run.answer('lit');
    // The time counts from the attempt.
    run.pass(629.999);
    expect(run.shown()).toMatchObject({ step: 'dwell', attention: 'none' });
    run.pass(0.001);
    expect(run.shown().attention).toBe('due');
    run.answer('lampOut');
    run.answer('done');
  };
  test('two cycles, the start, a second key in time', () => {
    const run = begin();
    cycle(run);
    cycle(run);
    run.pass(7);
    expect(run.shown()).toMatchObject({ kind: 'commitment', cautions: ['park', 'people', 'exhaust', 'forgets'] });
    run.answer('done');
    run.answer('runs');
    run.answer('done');
    run.answer('done');
    run.pass(18);
    run.answer('done');
    run.answer('out');
    expect(run.state().status).toBe('finished');
    expect(evidence(run)).toEqual(['engine: runs (A)', 'otherKey: accepted (B)']);
    expect(run.folded()).toEqual(run.state());
  });
  test('where the service information has no attempt, nothing is begun', () => {
    const run = start('relearn-start-attempt', { keys: ['A'] });
    run.ready();
    for (const answer of ['done', 'other']) run.answer(answer);
    expect(run.shown().stop).toEqual({ name: 'otherForm', text: expect.stringContaining('the sister system') });
  });
  test.each([
    ['dark', 'lampDark', ['lamp: dark (A)']],
    ['out', 'nothing', []],
    ['flashing', 'lampFlashes', ['lamp: refused (A)']],
  ])('the light after the attempt: %s', (seen, stop, filed) => {
    const run = begin();
    run.pass(10);
    run.answer('done');
    run.answer(seen);
    expect(run.shown().stop?.name).toBe(stop);
    expect(evidence(run)).toEqual(filed);
  });
  test('a key that slipped to off: the cycle again, with a new attempt', () => {
    const run = begin();
    run.pass(10);
    run.answer('done');
    run.answer('lit');
    run.pass(300);
    run.send({ type: 'interrupt', what: 'keyOff' });
    run.pass(7);
    expect(run.shown().step).toBe('attempt');
  });
});

describe('relearn of a lock cylinder', () => {
  test.each([
    ['a lock that drags', [['drags']], 'drags', []],
    ['a sensor line that stays flat', [['free'], ['measured', 5.2], ['flat']], 'sensor', ['sensorLine: flat (A)']],
  ] as [string, [string, number?][], string, string[]][])('%s is repaired before anything is learned', (_what, answers, stop, filed) => {
    const run = start('relearn-cylinder', { keys: ['A'] });
    run.ready();
    for (const [answer, value] of answers) run.answer(answer, value);
    expect(run.shown().stop?.name).toBe(stop);
    expect(evidence(run)).toEqual(filed);
  });
  test.each([
    [3.99, 'sensor'],
    [4, 'moves'],
    [6, 'moves'],
    [6.01, 'sensor'],
  ])('%d V at rest leads to %s', (volts, step) => {
    const run = start('relearn-cylinder', { keys: ['A'] });
    run.ready();
    run.answer('free');
    run.answer('measured', volts);
    expect(run.shown().step).toBe(step);
  });
  test('keys are not learned: no warning of forgotten keys, and authority all the same', () => {
    const run = start('relearn-cylinder', { keys: ['A', 'B'], record: { authority: false, keysAbsent: ['C'] } });
    run.ready();
    for (const [answer, value] of [['free'], ['measured', 5], ['steps'], ['new'], ['done'], ['done']] as [string, number?][])
      run.answer(answer, value);
    for (let i = 0; i < 2; i += 1) {
      run.pass(12);
      run.answer('done');
      run.answer('lit');
      run.pass(660);
      run.answer('lampOut');
      run.answer('done');
    }
    run.pass(9);
    expect(run.shown()).toMatchObject({ kind: 'commitment', warnings: [], cautions: ['park', 'people', 'exhaust'] });
    expect(run.send({ type: 'answer', step: run.shown().step, answer: 'done' })).toMatchObject({ ok: false, refusal: { code: 'gateClosed' } });
  });
});

describe('learn a key value (lockout 4 min)', () => {
  const begin = () => {
    const run = start('teach-key-value', { keys: ['A'] });
    run.answer('learns');
    run.answer('ticked', undefined, 'value 7, both ways around');
    run.answer('equal');
    run.ready();
    for (const answer of ['new', 'done', 'done']) run.answer(answer);
    run.pass(12);
    run.answer('done');
    return run;
  };
  test.each([
    ['fixed', undefined, 'fixed'],
    ['learns', 'differs', 'wiring'],
    ['learns', 'not', 'measure'],
  ])('%s, %s: nothing is learned', (learns, measured, stop) => {
    const run = start('teach-key-value', { keys: ['A'] });
    run.answer(learns);
    if (measured) {
      run.answer('ticked', undefined, 'value 7, both ways around');
      run.answer(measured);
    }
    expect(run.shown().stop?.name).toBe(stop);
  });
  test('refused: the whole lockout with the key off, once more, and no third time', () => {
    const run = begin();
    run.answer('flashing');
    run.pass(20);
    run.answer('done');
    run.pass(239.999);
    expect(run.shown()).toMatchObject({ step: 'locked', answers: [] });
    run.pass(0.001);
    expect(run.shown().instruction).toBe('The lockout has ended. Was this the first time that it was refused?');
    run.answer('first');
    expect(run.shown().step).toBe('begin');
    run.answer('done');
    run.pass(12);
    run.answer('done');
    run.answer('flashing');
    run.answer('done');
    run.pass(240);
    run.answer('again');
    expect(run.shown().stop?.name).toBe('refused');
    expect(run.folded()).toEqual(run.state());
  });
  test('one cycle of 11 minutes, then the start stores it', () => {
    const run = begin();
    run.answer('lit');
    run.pass(660);
    run.answer('lampOut');
    run.answer('done');
    run.pass(9);
    expect(run.shown().hint).toContain('keys of another value no longer start the vehicle');
    run.answer('done');
    run.answer('runs');
    expect(run.state().status).toBe('finished');
    expect(evidence(run)).toEqual(['engine: runs (A)']);
  });
});

describe('the search for a value (14 values, lockout 4 min)', () => {
  const begin = () => {
    const run = start('search-value', { keys: ['A', 'B'] });
    run.answer('unknown');
    expect(run.shown().instruction).toBe('Measure tag B, several times and both ways around.');
    run.answer('ticked', undefined, 'worn, near value 9');
    run.answer('measured', 12.6);
    expect(run.shown().instruction).toBe('In the worst case all 14 values are tried, each with a lockout of 4 min. Is there time for it?');
    run.answer('yes');
    run.answer('done');
    expect(run.shown()).toMatchObject({ kind: 'commitment', cautions: ['testOnly'] });
    run.answer('done');
    return run;
  };
  /** One value, from its number to what the light says. */
  const tryValue = (run: ReturnType<typeof session>, value: number, seen: string) => {
    run.answer('measured', value);
    expect(run.shown().instruction).toBe(`Put a resistor of value ${value} in place of the contacts. Key off meanwhile.`);
    run.answer('done');
    if (run.shown().step === 'lockedOut') run.pass(240);
    run.answer('done');
    run.pass(5);
    run.answer(seen);
  };
  test('the next resistor is put in while the lockout runs, and the key goes on only after the whole of it', () => {
    const run = begin();
    tryValue(run, 9, 'refused');
    run.answer('done');
    run.pass(60);
    run.answer('measured', 8);
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'lockedOut', answers: [] });
    run.pass(179.999);
    expect(run.shown().step).toBe('lockedOut');
    run.pass(0.001);
    expect(run.shown().step).toBe('on');
    run.answer('done');
    run.pass(5);
    run.answer('accepted');
    expect(run.shown().instruction).toBe('Key off. Take the resistor out, reconnect the connector and put the trim back, power off meanwhile.');
    run.answer('done');
    expect(run.shown().instruction).toBe('Have a key cut by code with value 8, and measure it before it is used.');
    run.answer('done');
    expect(run.state().status).toBe('finished');
    expect(run.folded()).toEqual(run.state());
  });
  test('all fourteen refused: it ends, and says where to measure', () => {
    const run = begin();
    for (let value = 1; value <= 14; value += 1) {
      expect(run.state().status).toBe('running');
      tryValue(run, value, 'refused');
      run.answer('done');
    }
    expect(run.shown().stop).toMatchObject({ name: 'none' });
  });
  test('it takes the place of the key: no authority, no resistor', () => {
    const run = start('search-value', { record: { authority: false, keysAbsent: [] } });
    run.answer('unknown');
    run.answer('ticked', undefined, 'worn');
    run.answer('measured', 12.6);
    run.answer('yes');
    run.answer('done');
    expect(run.send({ type: 'answer', step: 'sure', answer: 'done' })).toMatchObject({ ok: false });
  });
});

describe('procedures for every vehicle', () => {
  const every = [...shipped.procedures.values()].filter((p) => p.family === 'every');
  test('they are these', () => {
    expect(every.map((p) => p.id).sort()).toEqual([
      'change-cell',
      'check-new-key',
      'clean-contacts',
      'make-battery-ready',
      'repair-key',
      'swap-module',
      'teach-remote',
      'test-starter-circuit',
    ]);
  });
  test('a number of its own counts until the system type has one of the same name', () => {
    const settle = (id: string) => valuesOf(resolveParams(withNumbers(shipped.families.get(id)!, shipped.procedures.get('swap-module')!))).settle;
    expect([settle('ring'), settle('slot-store')]).toEqual([300, 90]);
  });
  test('each is whole in every system type, and one that names a number that only some have is refused', () => {
    const families = [...shipped.families.values()];
    const cautions = new Set(shipped.cautions.keys());
    for (const p of every) expect(lintErrors(p, families, cautions)).toEqual([]);
    const { numbers: _numbers, ...without } = shipped.procedures.get('swap-module')!;
    const messages = lintErrors(without, families, cautions).map((p) => p.message);
    expect(messages).toContainEqual(expect.stringContaining('System type "every" has no number "settle"'));
  });
  test('a module is not swapped before its power is measured, its number compared and its killer found', () => {
    for (const [path, stop] of [
      [['not'], 'notProven'],
      [['good', 12.6, 'all', 'differs'], 'mismatch'],
      [['good', 12.6, 'silent', 'superseded', 'open'], 'cause'],
    ] as const) {
      const run = start('swap-module');
      for (const one of path) run.answer(typeof one === 'number' ? 'measured' : one, typeof one === 'number' ? one : undefined);
      expect(run.shown().stop?.name).toBe(stop);
    }
  });
  test('while the negative cable is off, nothing is taken from the battery', () => {
    const { disconnected } = shipped.procedures.get('swap-module')!;
    expect(disconnected).toEqual({ from: 'negative', until: 'powered' });
  });
  test('turns that took longer than the vehicle gives begin again; its own count is asked for and counts at once', () => {
    const run = start('teach-remote', { keys: ['A', 'B'] });
    for (const answer of ['done', 'lower', 'equal', 'done', 'turns']) run.answer(answer);
    expect(run.shown()).toMatchObject({ instruction: 'Turn the key on and off 3 times. Don’t start.'.replace('’', "'") });
    run.send({ type: 'number', name: 'remoteTurns', value: 5, source: 'page 12' });
    expect(run.shown().instruction).toContain('5 times');
    run.answer('begin');
    run.pass(11);
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'turns', notice: { text: expect.stringContaining('Begin again with the key off.') } });
  });
  test('the starter circuit is not bridged on a high-voltage vehicle, nor without authority or a feed', () => {
    const run = start('test-starter-circuit');
    run.answer('yes');
    expect(run.shown().stop?.name).toBe('highVoltage');
    const other = start('test-starter-circuit', { record: { authority: false, keysAbsent: [] } });
    other.answer('no');
    other.answer('measured', 12.6);
    for (let i = 0; i < 4; i += 1) other.answer('done');
    other.answer('measured', 11.4);
    expect(other.shown()).toMatchObject({ step: 'feed', notice: { text: expect.stringContaining('No feed.') } });
    other.answer('measured', 12.4);
    expect(other.send({ type: 'answer', step: 'sure', answer: 'done' })).toMatchObject({ ok: false });
  });
});

/** Follows the good answers to the start; what it says there. */
function toStart(id: string): ReturnType<typeof session> {
  const run = start(id, { keys: ['A', 'B'] });
  for (let i = 0; i < 80 && run.shown().step !== 'start'; i += 1) {
    const shown = run.shown();
    expect(shown.status).toBe('running');
    const [first] = shown.answers;
    if (!first || ['release', 'lampOut'].includes(first.id)) run.pass(Math.max(0, (shown.wait!.until - run.now()) / 1000));
    if (!first) continue;
    const value = shown.value ? { value: shown.value.unit === 'V' ? 12.6 : 4 } : {};
    const decision = run.send({ type: 'answer', step: shown.step, answer: first.id, note: 'noted', ...value });
    expect(decision.ok || decision.refusal).toBe(true);
  }
  return run;
}

// Where one key is written or repaired, the vehicle is started with that one, and it is that key's evidence.
test.each(['write-sealed-key', 'check-infrared-key', 'match-infrared-part'])('%s starts with the key that was worked on', (id) => {
  const run = toStart(id);
  expect(run.shown().instruction).toBe('Start with tag A. What does the engine do?');
  run.answer('runs');
  expect(evidence(run).at(-1)).toBe('engine: runs (A)');
});
test.each(['learn-keys-status', 'teach-by-blade', 'learn-with-main', 'add-key-socket', 'add-key-ring'])(
  '%s starts with the key that was learned last',
  (id) => {
    const run = toStart(id);
    expect(run.shown().instruction).toBe('Start with tag B. What does the engine do?');
  },
);
