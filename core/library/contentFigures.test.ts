import { areAlike, contentFigures } from './contentFigures';
import type { Family } from './documents';
import type { LaidLamp, LaidSegment } from './resolveLamps';
import { parseFamily } from './schema';

const lamp = (segments: LaidSegment[], decisiveS = 6): LaidLamp => ({ id: 'a', title: 'A', moment: 'ignition-on', segments, decisiveS });
const flash = (on: number, off = on): LaidSegment[] => [{ repeat: [{ on }, { off }] }];

describe('two patterns are alike', () => {
  test.each<[string, LaidLamp, LaidLamp, boolean]>([
    ['the same', lamp([{ on: 3 }, { off: 4 }]), lamp([{ on: 3 }, { off: 4 }]), true],
    ['a little longer lit', lamp([{ on: 3 }, { off: 4 }]), lamp([{ on: 4 }, { off: 4 }]), false],
    ['just under the ratio that can be told', lamp([{ on: 2 }, { off: 9 }], 8), lamp([{ on: 2.6 }, { off: 9 }], 8), true],
    ['just over it', lamp([{ on: 2 }, { off: 9 }], 8), lamp([{ on: 2.8 }, { off: 9 }], 8), false],
    ['lit and dark changed over', lamp([{ on: 3 }, { off: 3 }]), lamp([{ off: 3 }, { on: 3 }]), false],
    ['one flash more in the time one looks', lamp(flash(0.5)), lamp(flash(0.4)), false],
    ['different only after the time one looks', lamp([{ on: 8 }, { off: 2 }]), lamp([{ on: 8 }, { off: 9 }]), true],
  ])('%s: as expected', (_what, a, b, expected) => {
    expect(areAlike(a, b)).toBe(expected);
    expect(areAlike(b, a)).toBe(expected);
  });
  test('texts are alike when they say the same', () => {
    const text = (message: string): LaidLamp => ({ id: 'm', title: 'M', moment: 'key-in', message, decisiveS: 4 });
    expect(areAlike(text('Take the key out'), text('Take the key out'))).toBe(true);
    expect(areAlike(text('Take the key out'), text('No fob found'))).toBe(false);
    expect(areAlike(text('Take the key out'), lamp([{ on: 3 }]))).toBe(false);
  });
});

const family = (id: string, more: object = {}): Family => {
  const parsed = parseFamily({
    kind: 'family',
    id,
    version: 1,
    title: id,
    source: 's',
    checked: null,
    text: { what: `What ${id} is.`, how: `How ${id} works.` },
    params: { wait: { label: 'W', unit: 's', min: 1, max: 3, default: 2 }, cut: { label: 'C', oneOf: ['fuel', 'starter'], default: 'fuel' } },
    chain: [
      { id: 'a', title: 'A', how: `A of ${id}.`, when: { param: 'cut', is: 'fuel' } },
      { id: 'b', title: 'B', how: `B of ${id}.` },
    ],
    tests: [{ id: 'own', title: 'T', do: `Look at ${id}.`, minutes: 1, effect: 'none', outcomes: { x: { say: 'x' }, y: { say: 'y' } } }],
    next: [{ test: 'own', why: `Because of ${id}.` }],
    ...more,
  });
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
};

test('figures: unused parameters, texts without an act, texts of another family', () => {
  const verdicts = [
    { id: 'known', when: { evidence: 'own', is: 'x' }, kind: 'look', say: 'It is known. Measure the supply.' },
    { id: 'only', when: { evidence: 'own', is: 'y' }, kind: 'look', say: 'Measure it or not. The supply is at fault.' },
  ];
  const [one, two] = contentFigures(
    [family('one', { verdicts }), family('two', { text: { what: 'What one is.', how: 'Its own.' } })],
    [{ family: 'two', params: ['wait'] }],
    [],
  );
  expect(one).toEqual({
    family: 'one',
    lamps: 0,
    tests: 1,
    params: 2,
    unusedParams: ['wait'],
    alike: [],
    withoutAct: ['verdicts.only'],
    copied: ['What one is.'],
  });
  expect(two).toMatchObject({ unusedParams: [], copied: ['What one is.'] });
});
