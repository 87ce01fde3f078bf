import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Diagnostician } from '../core/diagnosis';
import { closedBecause, dangers, missingCautions, resolveParams, valuesOf } from '../core/library';
import { readContent } from './reader';
import { shipped } from './session.testing';

const families = [...shipped.families.values()];
/** Every instruction of the shipped content with what stands before it. */
const instructions = [
  ...families.flatMap((f) => f.tests.map((t) => ({ at: `${f.id} ${t.id}`, text: t.do, cautions: t.cautions, harmless: t.harmless ?? [] }))),
  ...families.flatMap((f) =>
    f.faults!.map((x) => ({ at: `${f.id} fix ${x.id}`, text: x.cure.do, cautions: x.cure.cautions ?? [], harmless: x.cure.harmless ?? [] })),
  ),
];

describe('cautions of the shipped content', () => {
  test('nothing that is told to do lacks one', () =>
    expect(instructions.flatMap((i) => missingCautions(i.text, i.cautions, i.harmless).map((m) => `${i.at}: ${m.oneOf.join(' or ')}`))).toEqual([]));

  test('the lint sees each kind of act somewhere, so that it is no empty check', () => {
    const found = new Set(instructions.flatMap((i) => missingCautions(i.text, []).map((m) => m.act)));
    expect([...found].sort()).toEqual(Object.keys(dangers).sort());
  });

  test('what is called harmless is named in the text, else the word stands there for nothing', () => {
    for (const i of instructions) for (const act of i.harmless) expect([i.at, act, dangers[act].finds.test(i.text)]).toEqual([i.at, act, true]);
  });

  test('every test that starts is confirmed before it', () => {
    const confirmed = instructions.filter((i) => i.cautions.includes('people'));
    expect(confirmed.length).toBeGreaterThan(100);
    for (const id of ['park', 'people', 'exhaust', 'airbag', 'supplyOff', 'brakeHeld', 'fuel', 'highTension', 'bridge'])
      expect([id, shipped.cautions.get(id)!.confirm]).toEqual([id, true]);
  });

  test('a column connector is parted with the power off and takes as long as trim and airbag take', () => {
    const parted = families.flatMap((f) => f.tests.filter((t) => /unplug the steering-column connector|lock sensor's connector/i.test(t.do)));
    expect(parted.length).toBeGreaterThanOrEqual(4);
    for (const t of parted) {
      expect([t.id, t.minutes >= 25 && t.minutes <= 40]).toEqual([t.id, true]);
      expect([t.id, t.cautions]).toEqual([t.id, expect.arrayContaining(['airbag', 'supplyOff'])]);
    }
  });

  test('nobody parts a live connector: what is measured with the ignition on is back-probed, plugged in', () => {
    const live = instructions.filter(
      (i) => /\b(ignition|key) on\b|turn(ing)? to start|\bswitch outputs\b/i.test(i.text) && /connector|back-probe|terminal/i.test(i.text),
    );
    expect(live.length).toBeGreaterThan(40);
    for (const i of live) {
      // Power is off before anything is unplugged, where it is unplugged at all.
      const beforeUnplug = /unplug/i.exec(i.text) ? i.text.slice(0, /unplug/i.exec(i.text)!.index) : null;
      const safe = beforeUnplug === null ? /plugged in|starter's terminals|battery posts/i.test(i.text) : /(power|ignition) off/i.test(beforeUnplug);
      expect([i.at, i.text, safe]).toEqual([i.at, i.text, true]);
    }
  });
});

describe('content check fails when a caution is taken away', () => {
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'bloodstone-cautions-'));
    for (const name of readdirSync('content')) if (!name.endsWith('.ts')) cpSync(join('content', name), join(folder, name), { recursive: true });
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  // One for each kind of act, in a test, a fix or a step.
  test.each([
    [
      'start',
      'common/start.yaml',
      'cautions: [park, people, exhaust]',
      'cautions: [park, people]',
      /"engine" starts or cranks the engine, and "exhaust"/,
    ],
    ['lever', 'common/deep.yaml', 'cautions: [brakeHeld, park, people, exhaust]', 'cautions: [park, people, exhaust]', /"neutralTry" .*"brakeHeld"/],
    ['column', 'families/pellet.yaml', 'cautions: [airbag, supplyOff, testOnly]', 'cautions: [supplyOff, testOnly]', /"fixedResistor" .*"airbag"/],
    [
      'plug',
      'common/deep.yaml',
      'cautions: [backProbe]',
      'cautions: []',
      /"immobilizerFeed" unplugs a connector or measures at one, and "supplyOff" or "backProbe"/,
    ],
    ['board', 'common/chipFaults.yaml', 'cautions: [static, hotTip]', 'cautions: [static]', /"chip(Dead|Cracked)" .*"hotTip"/],
    ['battery', 'common/start.yaml', '    cautions: [battery]\n', '', /"battery" works at the battery or its cable, and "battery"/],
    ['fuel', 'common/deep.yaml', 'cautions: [fuel, park', 'cautions: [park', /"fuelHeard" works at the fuel system, and "fuel"/],
    [
      'spark',
      'common/deep.yaml',
      'cautions: [highTension, fuel, park',
      'cautions: [fuel, park',
      /"sparkSeen" works at the ignition, and "highTension"/,
    ],
    [
      'bridge',
      'families/rearm-fob.yaml',
      'cautions: [highVoltage, bridge, battery,',
      'cautions: [highVoltage, battery,',
      /"starterCircuit" bridges a relay, and "bridge"/,
    ],
    [
      'a step of a procedure',
      'procedures/teach-with-master.yaml',
      'cautions: [park, people, exhaust]',
      'cautions: [park, people]',
      /starts or cranks the engine, and "exhaust"/,
    ],
  ])('%s', (_, file, there, instead, message) => {
    const path = join(folder, file);
    const text = readFileSync(path, 'utf8');
    expect(text).toContain(there);
    expect(readContent(folder).errors).toEqual([]);
    writeFileSync(path, text.replaceAll(there, instead));
    expect(readContent(folder).errors.map((e) => e.message)).toContainEqual(expect.stringMatching(message));
  });
});

describe('what is itself a disturbance', () => {
  // "a test that causes the harm": a door opened by hand latches the alarm that blocks programming.
  test('nobody is told to set off the alarm to see whether it sounds', () => {
    for (const f of families) {
      const horn = f.tests.find((t) => t.id === 'horn');
      if (!horn) continue;
      expect([f.id, horn.effect, /^Ask: did the horn sound/.test(horn.do)]).toEqual([f.id, 'none', true]);
    }
    for (const i of instructions)
      expect([i.at, /open (the|a) door by hand/i.test(i.text.replace(/Don't open a door by hand/, ''))]).toEqual([i.at, false]);
  });

  test('a strange chip has its effect, its price and its place at the end, and needs a warning, no proof of authority', () => {
    const strange = families.flatMap((f) => f.tests.filter((t) => t.id === 'strangeKey').map((t) => ({ f, t })));
    expect(strange.map(({ f, t }) => [f.id, t.effect])).toEqual([
      ['alarm-latch', 'alarm'],
      ['ring', 'lockout'],
    ]);
    for (const { f, t } of strange) {
      expect(f.fixed!.at(-1)).toBe('strangeKey');
      expect(t.penalty).toBeGreaterThanOrEqual(15);
      expect(t.do).toMatch(/^(Only as a last|Last) resort/);
      expect(closedBecause(t.effect, { authority: false, keysAbsent: [] })).toEqual([]);
    }
  });

  test.each([
    ['alarm-latch', 'lamp latched A'],
    ['alarm-latch', 'lamp refused A'],
    ['ring', 'lamp refused A'],
  ])('%s, %s: a strange chip is not among the first proposals', (id, seen) => {
    const family = shipped.families.get(id)!;
    const [t, outcome, key] = seen.split(' ') as [string, string, string];
    const findings = [{ id: '1', test: t, outcome, key }];
    const { next } = new Diagnostician({
      family,
      params: valuesOf(resolveParams(family)),
      told: [],
      keys: ['A', 'B'],
      ratePerMinute: 1,
      findings,
    }).diagnose();
    expect(next.length).toBeGreaterThan(0);
    expect(next.map((n) => n.test)).not.toContain('strangeKey');
  });
});
