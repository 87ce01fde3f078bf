import { family, fault, testOf } from '../diagnosis/small.testing';
import { lintFaults } from './lintFaults';

const known = { cautions: new Set<string>(), procedures: new Set(['relearn']) };
const half = { default: { x: 0.5, y: 0.5 } };
const problems = (...args: Parameters<typeof family>) => lintFaults(family(...args), known).map((p) => `${p.path}: ${p.message}`);

describe('faults and chances', () => {
  it('finds nothing in what is right', () => {
    expect(
      problems([fault('a', 'reader')], [testOf('t', ['x', 'y'], half, { needs: { after: ['u'] } }), testOf('u', ['x', 'y'], half)], { fixed: ['t'] }),
    ).toEqual([]);
  });

  it.each([
    [
      'chances that do not add up',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { default: { x: 0.5, y: 0.4 } })]],
      'tests[0].p.default: The chances add up to 0.9; they must add up to 1. Correct one of them.',
    ],
    [
      'chances of one part that do not add up',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { default: [{ p: { x: 1 } }, { p: { x: 0.5, y: 0.6 } }] })]],
      'tests[0].p.default[1].p: The chances add up to 1.1; they must add up to 1. Correct one of them.',
    ],
    [
      'shares of what is shown that do not add up',
      [[fault('a', 'reader', { shows: { immobilizer: { accepts: 0.5, mute: 0.4 } } })], []],
      'faults[0].shows.immobilizer: The chances add up to 0.9; they must add up to 1. Correct one of them.',
    ],
    [
      'an outcome that is not there',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { default: { x: 0.5, z: 0.5 } })]],
      'tests[0].p.default.z: Outcome of "t" "z" does not exist here. Use one of: x, y.',
    ],
    [
      'a state that is not there',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { ...half, 'coil.blue': { x: 1 } })]],
      'tests[0].p.coil.blue: State of "coil" "blue" does not exist here. Use one of: works, sometimes, never.',
    ],
    ['a fault on no link', [[fault('a', 'aerial')], []], 'faults[0].link: Link "aerial" does not exist here. Use one of: reader, key, keyAccepted.'],
    [
      'a picture that is not there',
      [[fault('a', 'reader', { like: 'beyond' })], []],
      'faults[0].like: Picture "beyond" does not exist here. Use one of: (none defined).',
    ],
    ['a fault twice', [[fault('a', 'reader'), fault('a', 'key')], []], 'faults[1].id: "a" appears twice in faults. Give each its own id.'],
    [
      'a cure by a procedure that is not there',
      [[fault('a', 'reader', { cure: { do: 'x', minutes: 1, procedure: 'pair' } })], []],
      'faults[0].cure.procedure: Procedure "pair" does not exist here. Use one of: relearn.',
    ],
    [
      'a test before a cure that is not there',
      [[fault('a', 'reader', { cure: { do: 'x', minutes: 1, after: { tests: ['u'], why: 'see first' } } })], [testOf('t', ['x', 'y'], half)]],
      'faults[0].cure.after.tests[0]: Test "u" does not exist here. Use one of: t.',
    ],
    [
      'a test that waits for itself',
      [
        [fault('a', 'reader')],
        [testOf('t', ['x', 'y'], half, { needs: { after: ['u'] } }), testOf('u', ['x', 'y'], half, { needs: { after: ['t'] } })],
      ],
      'tests[0].needs.after: t comes after u comes after t. No test can wait for itself; remove one.',
    ],
    [
      'a test that waits for none',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], half, { needs: { after: ['v'] } })]],
      'tests[0].needs.after[0]: Test "v" does not exist here. Use one of: t.',
    ],
    [
      'an order with a test that is not there',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], half)], { fixed: ['t', 'v'] }],
      'fixed[1]: Test "v" does not exist here. Use one of: t.',
    ],
    [
      'chances without a row for a vehicle without a fault',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { 'coil.never': { x: 1 } })]],
      'tests[0].p: Neither default nor coil.works is here, so a vehicle without a fault has no chances. Add one.',
    ],
    [
      'chances for one fault only',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { a: { x: 1 } })]],
      'tests[0].p: There is no default and no aspect, so most faults have no chances. Add default.',
    ],
    [
      'chances that depend on what was seen',
      [[fault('a', 'reader')], [testOf('t', ['x', 'y'], { default: [{ when: { evidence: 'u', is: 'x' }, p: { x: 1 } }] })]],
      'tests[0].p.default[0].when: Chances can depend on parameters only, not on "evidence".',
    ],
    [
      'chances that depend on a parameter that is not there',
      [
        [fault('a', 'reader')],
        [testOf('t', ['x', 'y'], { default: [{ when: { param: 'cut', is: 'fuel' }, p: { x: 1 } }] })],
        { params: { dwell: { label: 'd', unit: 's', min: 1, max: 2, default: 1 } } },
      ],
      'tests[0].p.default[0].when: Parameter "cut" does not exist here. Use one of: dwell.',
    ],
  ] as [string, Parameters<typeof family>, string][])('names %s', (_, args, message) => expect(problems(...args)).toContain(message));
});
