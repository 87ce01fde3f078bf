import { atMoment, isAmong, lookAt, mostMs, tap, type Tapping } from './look';

const counting: Tapping = { phase: 'counting', startsAt: 1000 };

describe('tapping along', () => {
  test('the look begins when the count is over, however late it is noticed', () => {
    expect(atMoment(counting, 999)).toBe(counting);
    expect(atMoment(counting, 1000)).toEqual({ phase: 'looking', startedAt: 1000, samples: [], down: false });
    expect(atMoment(counting, 1750)).toEqual({ phase: 'looking', startedAt: 1000, samples: [], down: false });
  });
  test('taps count from there, in seconds', () => {
    let state: Tapping = counting;
    for (const [lit, now] of [
      [true, 1300],
      [false, 4200],
      [true, 5000],
    ] as const)
      state = tap(state, lit, now);
    expect(lookAt(state, 7000)).toEqual({
      lit: [
        [0.3, 3.2],
        [4, 6],
      ],
      litAtEnd: true,
      lengthS: 6,
      origin: 'tapped',
      file: '',
    });
  });
  test('a key that is held repeats itself, and a finger that is lifted twice is lifted once', () => {
    let state: Tapping = tap(counting, true, 1500);
    expect(tap(state, true, 1600)).toBe(state);
    state = tap(state, false, 2000);
    expect(tap(state, false, 2100)).toBe(state);
    expect(lookAt(state, 3000)!.lit).toEqual([[0.5, 1]]);
  });
  test('before the count is over nothing is tapped, and nothing was seen', () => {
    expect(tap(counting, true, 900)).toBe(counting);
    expect(tap({ phase: 'idle' }, true, 900)).toEqual({ phase: 'idle' });
    expect(lookAt(counting, 2000)).toBeNull();
  });
  test('nothing tapped is a dark lamp, for as long as one looked', () =>
    expect(lookAt(atMoment(counting, 1000), 1000 + mostMs)).toMatchObject({ lit: [], litAtEnd: false, lengthS: 60 }));
});

test('a look that the case has is found again by its taps', () => {
  const look = { lit: [[0.3, 3.2]] as [number, number][], litAtEnd: false, lengthS: 6, origin: 'tapped' as const, file: '' };
  expect(
    isAmong(look, [
      { lit: [], lengthS: 6 },
      { lit: [[0.3, 3.2]], lengthS: 6 },
    ]),
  ).toBe(true);
  expect(isAmong(look, [{ lit: [[0.3, 3.2]], lengthS: 6.5 }])).toBe(false);
  expect(isAmong(null, [{ lit: [], lengthS: 6 }])).toBe(false);
});
