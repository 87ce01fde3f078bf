import { cautionProblems, dangerNames, dangers, missingCautions } from './dangers';

const all = [...new Set(Object.values(dangers).flatMap((d) => d.before.flat()))];
const acts = (text: string) => [...new Set(missingCautions(text, []).map((m) => m.act))];

describe('what an instruction has a person do', () => {
  test.each<[string, string[]]>([
    ['Turn to start for up to five seconds.', ['start']],
    ['Read the engine speed while cranking.', ['start']],
    ['Brake pressed, press the button.', ['start']],
    ['Let the engine run for a minute.', ['start']],
    ['Leave the key on. Do not start.', []],
    ['Turn on; it does not crank anyway.', []],
    ['Ask whether start is seen: is start allowed?', ['start']],
    ['Is start allowed?', []],
    ['Ask what happened since it would not start.', []],
    ['Turn on and wait ten seconds.', []],
    ['Put the lever in neutral and turn to start.', ['start', 'lever']],
    ['Move the lever through its places.', []],
    ['Measure at the steering column.', ['column']],
    ['Power off. Replace the coil at the lock.', ['column']],
    ['Look at the coil.', []],
    ['Measure the feed at the plug.', ['plug']],
    ['Unplug one module after another.', ['plug']],
    ['Part the connector.', ['plug']],
    ['Solder the joint.', ['board']],
    ['The customer agrees that the key is opened.', ['board']],
    ['Read the circuit board under a lens.', ['board']],
    ['Measure the battery at its posts.', ['battery']],
    ['Replace the starter, or its cable.', ['start', 'battery']],
    ['Read the fuel pressure.', ['fuel']],
    ['Watch the spark.', ['spark']],
    ['Touch a fused lead across its contacts.', ['bridge']],
    ['Wipe the key and the slot with a dry cloth.', []],
  ])('%s → %j', (text, expected) => {
    // "starter" is a part, no act: only whole words count.
    expect(acts(text)).toEqual(text.startsWith('Replace the starter') ? ['battery'] : expected);
  });

  test.each(dangerNames)('%s: nothing is missing with all cautions, and each group is missed by itself', (act) => {
    const text = {
      start: 'Turn to start.',
      lever: 'Lever in neutral, turn to start.',
      column: 'Open the column.',
      plug: 'Part the plug.',
      board: 'Solder it.',
      battery: 'Take the battery off.',
      fuel: 'Read the fuel pressure.',
      spark: 'Watch the spark.',
      bridge: 'Use a fused lead.',
    }[act];
    expect(missingCautions(text, all)).toEqual([]);
    for (const group of dangers[act].before) {
      const without = all.filter((c) => !(group as readonly string[]).includes(c));
      expect(missingCautions(text, without).filter((m) => m.act === act)).toEqual([{ act, oneOf: group }]);
      // One of the group is enough.
      for (const one of group) expect(missingCautions(text, [...without, one]).filter((m) => m.act === act)).toEqual([]);
    }
  });

  test('the author may say that a text only names an act, and of that act alone', () => {
    expect(missingCautions('Ask the start relay’s part number; measure at the plug.', [], ['start'])).toEqual([
      { act: 'plug', oneOf: ['supplyOff', 'backProbe'] },
    ]);
  });

  test('the message says where, what and what to do', () =>
    expect(cautionProblems('tests[3]', 'feed', 'Measure at the plug.', ['park'])).toEqual([
      {
        code: 'cautionMissing',
        path: 'tests[3].cautions',
        message:
          '"feed" unplugs a connector or measures at one, and "supplyOff" or "backProbe" is not before it. Add it; or, where the text only mentions the act, add harmless: [plug].',
      },
    ]));
});
