import { resolveParams, valuesOf } from '../core/library';
import { compile, evidenceOf, fold, outline } from '../core/procedure';
import { inDwell, session, shipped } from './session.testing';

const refusal = (decision: ReturnType<ReturnType<typeof session>['send']>) => (decision.ok ? 'accepted' : decision.refusal);

describe('a relearn from beginning to end', () => {
  test('three rounds, start, a second key in time: finished, and the fold from scratch is the same', () => {
    const run = session({ keys: ['A', 'B'] });
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    expect(run.shown().kind).toBe('commitment');
    expect(run.shown().cautions).toEqual(['park', 'people', 'exhaust', 'forgets']);
    run.answer('done');
    run.pass(5);
    run.answer('runs');
    expect(run.shown().instruction).toBe('Let the engine run on a learned key for a few seconds.');
    run.answer('done');
    run.answer('done');
    run.pass(14);
    expect(run.shown()).toMatchObject({ step: 'present', key: 'B', wait: { kind: 'most' } });
    run.answer('done');
    run.answer('out');
    expect(run.state().status).toBe('finished');
    expect(run.folded()).toEqual(run.state());
  });

  test('a second key one second too late is not learned, and the round of that key begins again', () => {
    const run = session({ keys: ['A', 'B'] });
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    run.answer('done');
    run.answer('runs');
    run.answer('done');
    run.answer('done');
    run.pass(14.001);
    expect(run.shown()).toMatchObject({ attention: 'red' });
    run.answer('done');
    expect(run.shown()).toMatchObject({
      step: 'running',
      notice: { kind: 'late', text: 'The swap took longer than 14 s. Tag B was not learned. Start once more on a learned key.' },
    });
    expect(run.events.at(-1)).toMatchObject({ type: 'answered', remark: 'late' });
    expect(run.folded()).toEqual(run.state());
  });

  /** Up to the first start. */
  const toStart = (options: Parameters<typeof session>[0] = {}) => {
    const run = session(options);
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    run.answer('done');
    return run;
  };

  test('no start after three rounds: the key is turned off first, up to two more cycles, then it stops', () => {
    const run = toStart();
    run.answer('cranks');
    expect(run.shown()).toMatchObject({ step: 'offAgain', instruction: 'Turn the key off.' });
    run.pass(30);
    run.answer('done');
    expect(run.shown()).toMatchObject({ step: 'rest', round: 'Cycle 4', status: 'running' });
    // The off time counts from the key being off, not from the start before.
    expect(run.shown().wait).toMatchObject({ startedAt: run.now() });
    run.round();
    run.pass(8);
    run.answer('done');
    run.answer('dies');
    run.answer('done');
    expect(run.shown().round).toBe('Cycle 5');
    run.round();
    run.pass(8);
    run.answer('done');
    run.answer('idles');
    run.answer('done');
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'noStart' } });
    expect(refusal(run.send({ type: 'answer', step: 'start', answer: 'runs' }))).toEqual({
      code: 'notRunning',
      message: 'This run was stopped. Start a new run to try again.',
    });
  });

  test.each([
    ['runs', 'finished', undefined],
    ['dies', 'running', undefined],
    ['idles', 'running', undefined],
    ['cranks', 'running', undefined],
    ['slow', 'stopped', 'weak'],
    ['clicks', 'stopped', 'weak'],
    ['silent', 'running', undefined],
  ])('a start that %s is filed as that and as nothing else', (outcome, status, stop) => {
    const run = toStart();
    run.answer(outcome);
    expect({ status: run.state().status, stop: run.state().stop?.name }).toEqual({ status, stop });
    const [before, after] = [0, 1].map((more) => fold(run.program, run.values, run.events.slice(0, run.events.length - 1 + more)));
    expect(evidenceOf(run.program, before!, after!, run.events.at(-1)!)).toEqual([{ test: 'engine', outcome, key: 'A' }]);
  });

  test('no crank means not learned only where the starter is cut as well', () => {
    const cut = toStart();
    cut.answer('silent');
    expect(cut.shown().instruction).toBe("Does this vehicle's immobilizer cut the starter too?");
    cut.answer('cut');
    expect(cut.shown().step).toBe('offAgain');
    const not = toStart();
    not.answer('silent');
    not.answer('not');
    expect(not.shown()).toMatchObject({ status: 'stopped', stop: { name: 'noCrank' } });
  });

  test('a used ECM meets no scan tool before it has learned, unless its service information says so', () => {
    const donor = (scan: string) => {
      const run = session();
      run.ready();
      for (const answer of ['done', 'donor', 'done']) run.answer(answer);
      expect(run.shown()).toMatchObject({ step: 'scanDonor', kind: 'choice' });
      run.answer(scan);
      return run.shown().step;
    };
    expect(donor('off')).toBe('noScanDonor');
    expect(donor('clear')).toBe('codesDonor');
  });
});

describe('the end of a dwell, both sides of each limit', () => {
  test.each([
    ['long before the window', 499.999, 'lampOut', { remark: 'questioned' }],
    ['at the window', 500, 'lampOut', { remark: 'early' }],
    ['just before the time', 559.999, 'lampOut', { remark: 'early' }],
    ['when the time is over', 560, 'lampOut', {}],
    ['past the first limit', 621, 'lampOut', {}],
    ['just before the second limit', 709.999, 'lampOut', {}],
    ['past the second limit', 710, 'lampOut', { remark: 'momentUnseen' }],
  ])('lamp out %s (%d s)', (_when, seconds, answer, expected) => {
    const run = inDwell();
    run.pass(seconds);
    run.answer(answer);
    const { remark } = run.events.at(-1) as { remark?: string };
    expect({ ...(remark ? { remark } : {}) }).toEqual(expected);
  });

  test.each([
    [559.999, 'none'],
    [560, 'due'],
    [619.999, 'due'],
    [620, 'amber'],
    [709.999, 'amber'],
    [710, 'red'],
  ])('after %d s the attention is %s', (seconds, attention) => {
    const run = inDwell();
    run.pass(seconds);
    expect(run.shown().attention).toBe(attention);
  });

  test('still on before the second limit goes on waiting, at it the run stops and names the immobilizer', () => {
    const run = inDwell();
    run.pass(709.999);
    run.answer('stillOn');
    expect(run.state().status).toBe('running');
    run.pass(0.001);
    expect(run.shown().warning).toBe(
      'Still on past the stop time. That points to the immobilizer, the cluster, their power or the wiring, not to the new ECM.',
    );
    run.answer('stillOn');
    expect(run.shown()).toMatchObject({ status: 'stopped', stop: { name: 'neverOut' } });
  });

  test('a questioned lamp is asked again; confirmed, it is noted, and the wait ends with the time', () => {
    const run = inDwell();
    run.pass(200);
    run.answer('lampOut');
    expect(run.shown()).toMatchObject({ step: 'dwell', notice: { kind: 'questioned' }, wait: { lampNoted: false } });
    run.pass(5);
    run.answer('lampOut');
    expect(run.shown()).toMatchObject({ step: 'dwell', notice: { kind: 'early' }, wait: { lampNoted: true } });
    run.pass(354.999);
    expect(run.shown().step).toBe('dwell');
    run.pass(0.001);
    expect(run.shown().step).toBe('off');
  });

  test('a questioned lamp that is lit after all leaves no trace in the wait', () => {
    const run = inDwell();
    run.pass(200);
    run.answer('lampOut');
    run.answer('stillOn');
    run.pass(360);
    expect(run.shown()).toMatchObject({ step: 'dwell', attention: 'due' });
  });
});

describe('off times', () => {
  test('before the least time nothing can be answered, at it the next act is shown by itself', () => {
    const run = session();
    run.prepare();
    run.pass(2.999);
    expect(run.shown()).toMatchObject({ step: 'rest', wait: { kind: 'least' }, answers: [] });
    expect(refusal(run.send({ type: 'answer', step: 'on', answer: 'done' }))).toMatchObject({
      code: 'wrongStep',
      message: 'That answer belongs to another step. It is now at: Leave the key off. Check, then answer.'.replace(' Check, then answer.', ''),
    });
    run.pass(0.001);
    expect(run.shown()).toMatchObject({ step: 'on', instruction: 'Turn tag A on. Do not start.', wait: { kind: 'most' } });
  });

  test.each([
    [75, 'lit'],
    [75.001, 'begin'],
  ])('key on %d s after off leads to %s', (seconds, step) => {
    const run = session();
    run.prepare();
    run.pass(seconds - 5);
    run.answer('done');
    expect(run.shown().step).toBe(step);
  });
});

describe('interruptions', () => {
  test.each([
    ['keyOff', 'rest', { rounds: 2 }],
    ['supplyLost', 'begin', {}],
    ['started', 'begin', {}],
    ['left', 'dwell', { rounds: 2 }],
  ] as const)('%s in the second dwell leads to %s', (what, step, counters) => {
    const run = session();
    run.prepare();
    run.round();
    run.pass(8);
    run.answer('done');
    run.answer('lit');
    run.pass(100);
    expect(run.send({ type: 'interrupt', what }).ok).toBe(true);
    expect(run.state()).toMatchObject({ status: 'running', step, counters });
    expect(run.folded()).toEqual(run.state());
  });

  test('after the key went off in a dwell the off time counts from the interruption', () => {
    const run = inDwell();
    run.pass(100);
    run.send({ type: 'interrupt', what: 'keyOff' });
    const { wait } = run.shown();
    expect(wait).toMatchObject({ startedAt: run.now(), until: run.now() + 8000 });
  });
});

describe('a battery that gets low', () => {
  test('is measured now, while the wait goes on; enough: the run is where it was', () => {
    const run = inDwell();
    const { until } = run.shown().wait!;
    run.pass(100);
    expect(run.send({ type: 'interrupt', what: 'supplyLow' }).ok).toBe(true);
    expect(run.shown()).toMatchObject({
      step: 'supply',
      round: 'Cycle 1',
      notice: { kind: 'measure', text: 'Noted. Measure now; timers keep running.' },
      wait: { until, kind: 'least' },
      value: { required: expect.stringContaining('at least 12 V') },
    });
    expect(
      run
        .shown()
        .sequence.filter((m) => m.place === 'now')
        .map((m) => m.label),
    ).toEqual(['Wait 1']);
    run.pass(60);
    run.answer('measured', 11.2);
    expect(run.shown()).toMatchObject({ step: 'supply', notice: { kind: 'unmet' } });
    run.pass(120);
    run.answer('measured', 12.9);
    expect(run.shown()).toMatchObject({ step: 'dwell', wait: { until } });
    expect(run.folded()).toEqual(run.state());
    run.pass(280);
    run.answer('lampOut');
    expect(run.shown().step).toBe('off');
    expect(run.folded()).toEqual(run.state());
  });

  test('told twice it is one measurement; a lost supply meanwhile starts over', () => {
    const run = inDwell();
    run.send({ type: 'interrupt', what: 'supplyLow' });
    run.send({ type: 'interrupt', what: 'supplyLow' });
    run.answer('measured', 12.4);
    expect(run.shown().step).toBe('dwell');
    run.send({ type: 'interrupt', what: 'supplyLow' });
    run.send({ type: 'interrupt', what: 'supplyLost' });
    expect(run.shown().step).toBe('begin');
    expect(run.state().left).toBeUndefined();
  });

  test('a lead may waive it, and it can be undone', () => {
    const run = inDwell();
    run.send({ type: 'interrupt', what: 'supplyLow' });
    expect(run.send({ type: 'waive', step: 'supply', reason: 'maintainer connected' }).ok).toBe(true);
    expect(run.shown().step).toBe('dwell');
    run.send({ type: 'takeBack', event: run.events.at(-1)!.id });
    expect(run.shown().step).toBe('supply');
    run.send({ type: 'takeBack', event: run.shown().takeBack!.event });
    expect(run.shown().step).toBe('dwell');
    expect(run.folded()).toEqual(run.state());
  });

  test('a wait that ends while it is measured has ended, and the time until the next act counts from then', () => {
    const run = session();
    run.prepare();
    run.send({ type: 'interrupt', what: 'supplyLow' });
    run.pass(70.001);
    run.answer('measured', 12.4);
    expect(run.shown()).toMatchObject({ step: 'on', attention: 'red' });
  });

  test('a number looked up meanwhile does not end the wait that was left', () => {
    const run = inDwell();
    run.pass(300);
    run.send({ type: 'interrupt', what: 'supplyLow' });
    run.send({ type: 'number', name: 'dwell', value: 301, source: 'page 7' });
    run.pass(60);
    run.answer('measured', 12.4);
    expect(run.shown().answers.map((a) => a.id)).toContain('timeOver');
    expect(run.folded()).toEqual(run.state());
  });
});

describe('taking back', () => {
  test('the last act is taken back, the one before it stands', () => {
    const run = inDwell();
    const { takeBack } = run.shown();
    expect(takeBack?.say).toBe('Light is lit');
    expect(run.send({ type: 'takeBack', event: takeBack!.event }).ok).toBe(true);
    expect(run.shown()).toMatchObject({ step: 'lit', takeBack: { say: 'Key is on' } });
    expect(run.folded()).toEqual(run.state());
  });

  test('never past the point of no return', () => {
    const run = session();
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    run.answer('done');
    expect(run.shown().takeBack).toBeUndefined();
    const last = run.events.at(-1)!;
    expect(refusal(run.send({ type: 'takeBack', event: last.id }))).toEqual({
      code: 'pastCommitment',
      message: 'The last entry was before the point of no return. It happened and stays on record.',
    });
  });

  test('an older act cannot be taken back', () => {
    const run = inDwell();
    expect(refusal(run.send({ type: 'takeBack', event: run.events[2]!.id }))).toMatchObject({ code: 'stale' });
  });

  test('at the very start there is nothing', () => {
    expect(refusal(session().send({ type: 'takeBack', event: 'c0' }))).toMatchObject({ code: 'nothingToTakeBack' });
  });
});

describe('refusals', () => {
  test('a second browser was faster', () => {
    const run = inDwell();
    expect(refusal(run.send({ type: 'answer', step: 'dwell', answer: 'stillOn' }, { expectedSeq: run.state().seq - 1 }))).toEqual({
      code: 'stale',
      message:
        "Someone was faster: the run has moved on since this screen was shown. It is now at: Leave the key on. Don't start. Watch the light. Check, then answer.",
    });
  });

  test.each([
    ['too small to be meant', 5.99, { code: 'badValue', message: '5.99 V is not possible here. Type a value from 6 V to 16 V.' }],
    ['the lowest that can be meant', 6, 'accepted'],
    ['the highest that can be meant', 16, 'accepted'],
    ['too large to be meant', 16.01, { code: 'badValue', message: '16.01 V is not possible here. Type a value from 6 V to 16 V.' }],
    ['nothing', undefined, { code: 'badValue', message: 'Type the measured value in V, for example 11.' }],
    ['not a number', Number.NaN, { code: 'badValue', message: 'Type the measured value in V, for example 11.' }],
  ])('a voltage that is %s', (_what, value, expected) => {
    const run = session();
    const decision = run.send({ type: 'answer', step: 'rested', answer: 'measured', ...(value === undefined ? {} : { value }) });
    expect(refusal(decision)).toEqual(expected);
  });

  test.each([
    [12.39, 'rested', 'unmet'],
    [12.4, 'loads', undefined],
  ])('%d V rested leads to %s', (volts, step, notice) => {
    const run = session();
    run.answer('measured', volts);
    expect(run.shown().step).toBe(step);
    expect(run.shown().notice?.kind).toBe(notice);
  });

  test('a low battery may be waived by a lead with a reason, by nobody else', () => {
    const technician = session({ mayWaive: false });
    technician.answer('measured', 12.1);
    expect(refusal(technician.send({ type: 'waive', step: 'rested', reason: 'supply connected' }))).toEqual({
      code: 'notAllowed',
      message: 'Only a lead may waive a precondition. Ask the lead to sign it.',
    });
    const lead = session();
    lead.answer('measured', 12.1);
    expect(refusal(lead.send({ type: 'waive', step: 'rested', reason: '  ' }))).toMatchObject({ code: 'reasonMissing' });
    expect(lead.send({ type: 'waive', step: 'rested', reason: 'supply connected' }).ok).toBe(true);
    expect(lead.shown()).toMatchObject({ step: 'loads', notice: { kind: 'waived' } });
  });

  test('an observation cannot be waived', () => {
    const run = inDwell();
    expect(refusal(run.send({ type: 'waive', step: 'dwell', reason: 'in a hurry' }))).toMatchObject({ code: 'notAllowed' });
  });

  test('the point of no return asks for authority again', () => {
    const run = session({ record: { authority: false, keysAbsent: [] } });
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    expect(refusal(run.send({ type: 'answer', step: 'ready', answer: 'done' }))).toMatchObject({ code: 'gateClosed' });
  });

  test('an absent key is named before the point of no return', () => {
    const run = session({ record: { authority: true, keysAbsent: ['C'] } });
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    expect(run.shown().warnings).toEqual([
      'Not here: tag C. A key that is not presented will no longer start the vehicle. Wait for it, or tell the customer first.',
    ]);
  });
});

describe('the moment of an act', () => {
  test('lies between the last event and the receipt, whatever the browser says', () => {
    const run = inDwell();
    const before = run.state().lastAt;
    run.pass(10);
    run.send({ type: 'answer', step: 'dwell', answer: 'stillOn' }, { occurredAt: before - 5000 });
    expect(run.events.at(-1)).toMatchObject({ occurredAt: before });
    run.send({ type: 'answer', step: 'dwell', answer: 'stillOn' }, { occurredAt: run.now() + 60_000 });
    expect(run.events.at(-1)).toMatchObject({ occurredAt: run.now() });
  });
});

test('seeded walks: folding step by step and from scratch agree, and no answer that is shown is ever refused', () => {
  // mulberry32, fixed seeds
  const random = (seed: number) => () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const ends = new Set<string>();
  for (let seed = 1; seed <= 80; seed += 1) {
    const next = random(seed);
    const run = session({ keys: seed % 2 ? ['A', 'B'] : ['A'] });
    for (let i = 0; i < 150 && run.state().status === 'running'; i += 1) {
      run.pass(next() < 0.3 ? next() * 600 : next() * 12);
      const shown = run.shown();
      const roll = next();
      if (roll < 0.03) run.send({ type: 'interrupt', what: roll < 0.015 ? 'keyOff' : 'supplyLow' });
      else if (roll < 0.07 && shown.takeBack) expect([seed, run.send({ type: 'takeBack', event: shown.takeBack.event }).ok]).toEqual([seed, true]);
      else if (shown.answers.length > 0) {
        const choice = shown.answers[next() < 0.8 ? 0 : Math.floor(next() * shown.answers.length)]!;
        const decision = run.send({ type: 'answer', step: shown.step, answer: choice.id, ...(shown.value ? { value: 11 + 3 * next() } : {}) });
        expect([seed, refusal(decision)]).toEqual([seed, 'accepted']);
      }
      if (i % 10 === 0) expect([seed, i, run.folded()]).toEqual([seed, i, run.state()]);
    }
    ends.add(run.state().status === 'stopped' ? `stopped ${run.state().stop?.name}` : run.state().status);
  }
  expect([...ends]).toEqual(expect.arrayContaining(['running', 'finished', 'stopped lampDark']));
});

test('the strip of a relearn before it is begun: on, wait and off in turn, each wait with its time, and the point of no return', () => {
  const procedure = shipped.procedures.get('relearn-ignition-on')!;
  const family = shipped.families.get(procedure.family)!;
  const values = valuesOf(resolveParams(family));
  const marks = outline(compile(procedure), values, ['A']);
  expect(marks.every((m) => m.place === 'ahead')).toBe(true);
  const waits = marks.filter((m) => m.label.startsWith('Wait'));
  expect(waits.map((m) => m.label)).toEqual(['Wait 1', 'Wait 2', 'Wait 3'].slice(0, Number(values.cycles)));
  for (const wait of waits) expect([wait.wait, wait.weight >= Number(values.dwell)]).toEqual([true, true]);
  expect(marks.filter((m) => m.commitment).map((m) => m.label)).toEqual(['Start']);
});
