import { shippedContent } from '../../content/shipped.testing';
import { mostExplained } from '../../core/codes';
import { parseCodesQuery } from '../cases/queries';
import { parseReplacementQuery } from './query';
import { keysAtHand } from './plan';
import { viewReplacement } from './view';

const { library } = shippedContent();
const dwell = library.replacements.get('transponder-dwell')!;
const key = (tag: string, role: string, isNew = false) => ({ tag, role, isNew });
const query = (text: string) => parseReplacementQuery(new URLSearchParams(text));

test('keys at hand: new ones are not learned; where no main key is told, an unknown one may be it', () => {
  expect(keysAtHand([])).toEqual({ learned: 0, main: 0, valet: 0, master: 0 });
  expect(keysAtHand([key('A', 'main'), key('B', 'valet'), key('C', 'unknown', true)])).toEqual({ learned: 2, main: 1, valet: 1, master: 0 });
  expect(keysAtHand([key('A', 'unknown'), key('B', 'unknown')])).toMatchObject({ main: 2, master: 2 });
});

test('the address of a plan: what nobody knows is left out', () => {
  expect(query('engine=new&key=donor&tool=scan+tool&tool=scan+tool&installed=engine&installed=radio')).toEqual({
    replaced: { engine: 'new', key: 'donor' },
    tools: ['scan tool'],
    installed: ['engine'],
    unread: [],
    asked: true,
  });
  expect(query('engine=old&__proto__=new&radio=new')).toEqual({ replaced: {}, tools: [], installed: [], unread: [], asked: false });
  expect(query('asked=').asked).toBe(true);
});

test('trouble codes in an address: at most so many, each once', () => {
  const codes = (text: string) => parseCodesQuery(new URLSearchParams({ codes: text })).codes;
  expect(codes('p0562-16, U0100 and P0562-16')).toEqual(['P0562-16', 'U0100']);
  expect(codes('')).toEqual([]);
  const many = Array.from({ length: 300 }, (_, i) => `P0${String(i).padStart(3, '0')}`).join(',');
  expect(codes(many)).toHaveLength(mostExplained);
  expect(parseCodesQuery(new URLSearchParams({ profile: '../x' })).profile).toBe('');
});

describe('the page of a plan', () => {
  const keys = [key('A', 'main'), key('B', 'user')];
  test('parts that can be replaced here; with nothing asked every tool is there, and no plan', () => {
    const view = viewReplacement(dwell, query(''), keys);
    expect(view.parts.map((p) => p.title)).toEqual(['ECM', 'Immobilizer module', 'Instrument cluster', 'Lock cylinder', 'Antenna coil', 'Key']);
    expect(view.tools).toEqual([
      { name: 'scan tool', here: true },
      { name: 'programming tool', here: true },
    ]);
    expect(view.plans).toBeNull();
  });

  test('two ways with a scan tool, one without; what is missing is said once, not for each item that waits for it', () => {
    expect(viewReplacement(dwell, query('engine=new&tool=scan+tool&tool=programming+tool'), keys).plans!.map((p) => p.steps.length)).toEqual([11, 0]);
    const [only, ...others] = viewReplacement(dwell, query('engine=new'), keys).plans!;
    expect(others).toEqual([]);
    expect(only).toMatchObject({
      steps: [],
      cannot: ['ECM: vehicle identity', 'ECM: calibration', 'ECM: shared secret', 'ECM: counters'],
      because: [
        '“Program VIN and calibration” needs a scan tool.',
        '“Program VIN and calibration” needs a programming tool.',
        "“Move the vehicle's own data into it on the bench” needs something that is not available: ECM: saved data.",
        '“Relearn with a scan tool” needs a scan tool.',
        '“Relearn with a scan tool” needs something that is not available: a network without communication trouble codes.',
      ]
        .filter((say) => !say.includes('network'))
        .concat('“Set the counters back to what was saved” needs a scan tool.'),
    });
  });

  test('steps name the places of those that come before', () => {
    const [plan] = viewReplacement(dwell, query('engine=new&installed=engine&tool=scan+tool&tool=programming+tool'), keys).plans!;
    expect(plan!.steps.map((s) => [s.id, s.after])).toEqual([
      ['compareVariant.engine', []],
      ['findCause.engine', []],
      ['programEngine', [1, 2]],
      ['clearNetwork', [3]],
      ['relearnByTool', [3, 4]],
      ['resetValues', [1, 2, 3, 4, 5]],
      ['clearAndScan', [6]],
      ['everyKey', [7]],
    ]);
  });
});
