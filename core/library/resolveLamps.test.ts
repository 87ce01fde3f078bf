import { type Family, lampTimeline, laySegments, resolveLamps, resolveParams } from '.';
import { shipped } from '../../content/session.testing';
import { lintFamily } from './lintFamily';

const flashes = (times: number | string) => [{ flashes: [{ on: 0.5 }, { off: 0.25 }], times }];

describe('patterns with the vehicle’s numbers', () => {
  test.each([
    [3, [{ on: 0.5 }, { off: 0.25 }, { on: 0.5 }, { off: 0.25 }, { on: 0.5 }]],
    ['$n', [{ on: 0.5 }, { off: 0.25 }, { on: 0.5 }]],
    ['$n - 1', [{ on: 0.5 }]],
    ['$n - 2', []],
    [2.4, [{ on: 0.5 }, { off: 0.25 }, { on: 0.5 }]],
  ])('%s flashes are written out, the dark between them only', (times, expected) => expect(laySegments(flashes(times), { n: 2 })).toEqual(expected));
  test('times in a repeated group, and lengths of light', () => {
    expect(laySegments([{ on: '$long' }, { repeat: [...flashes(2), { off: 2 }] }], { long: 1.5 })).toEqual([
      { on: 1.5 },
      { repeat: [{ on: 0.5 }, { off: 0.25 }, { on: 0.5 }, { off: 2 }] },
    ]);
  });
  test('a slip of the hand does not fill the memory, and a group without time ends', () => {
    expect(laySegments(flashes(1e9), {})).toHaveLength(199);
    expect(lampTimeline([{ repeat: [] }, { on: 1 }], 5)).toEqual([{ lit: true, seconds: 1 }]);
    expect(lampTimeline([{ repeat: [{ on: 0 }, { off: 0 }] }], 5)).toEqual([]);
  });
  test('the scooter of the demo world counts as its owner card says, in picture and title', () => {
    const family = shipped.families.get('master-user')!;
    const lit = (lamp: { segments?: ReturnType<typeof laySegments> }) => lampTimeline(lamp.segments!, 4).filter((s) => s.lit).length;
    const of = (profile?: string) =>
      resolveLamps(family.lamps, resolveParams(family, profile ? shipped.profiles.get(profile) : undefined)).find((l) => l.id === 'master')!;
    expect([of().title, lit(of())]).toEqual(['Count of the master, 4', 4]);
    expect([of('mirrow-pipit').title, lit(of('mirrow-pipit'))]).toEqual(['Count of the master, 3', 3]);
  });
  test('every shipped pattern can be laid out with the typical numbers', () => {
    for (const family of shipped.families.values())
      for (const lamp of resolveLamps(family.lamps, resolveParams(family))) {
        if (lamp.segments) expect(lampTimeline(lamp.segments, lamp.decisiveS).length).toBeGreaterThan(0);
        expect(lamp.title).not.toMatch(/[{}]/);
      }
  });
});

test('a number that the family does not have is found where it stands', () => {
  const family = shipped.families.get('master-user')!;
  const broken: Family = {
    ...family,
    lamps: [{ ...family.lamps[0]!, title: 'Count {gone}', segments: [{ on: 1 }, { repeat: [{ flashes: [{ on: '$cut' }], times: '$gone' }] }] }],
  };
  const said = lintFamily(broken, {
    procedures: new Set(shipped.procedures.keys()),
    cautions: new Set(shipped.cautions.keys()),
    features: shipped.features,
  });
  expect(said.map((p) => p.path).filter((p) => p.startsWith('lamps'))).toEqual([
    'lamps[0].segments[1].repeat[0].times',
    'lamps[0].segments[1].repeat[0].flashes[0].on',
    'lamps[0].title',
  ]);
  expect(said.find((p) => p.path.endsWith('times'))!.message).toMatch(/^Number "gone" does not exist here\. Use one of: userCount, masterCount, /);
});
