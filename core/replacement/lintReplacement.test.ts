import { replacementOf } from './content.testing';
import { lintReplacement } from './lintReplacement';
import { mergeActs } from './mergeActs';
import { parseReplacement, parseSharedActs } from './schema';
import type { SharedActs } from './documents';

const known = { families: new Set(['sample']), procedures: new Set(['relearn']) };
const engine = { title: 'ECM', holds: { identity: {} }, otherwise: 'Send it out.' };
const says = (document: Parameters<typeof lintReplacement>[0]) => lintReplacement(document, known).map((p) => `${p.path}: ${p.message}`);

describe('the lint of replacements', () => {
  test('nothing to say', () => {
    expect(
      says(replacementOf({ engine, immobilizer: { same: 'engine' } }, [{ id: 'program', gives: ['engine.identity'], procedure: 'relearn' }])),
    ).toEqual([]);
    expect(says(replacementOf({ engine: { ...engine, holds: { identity: { kept: ['new', 'donor', 'remanufactured'] } } } }, []))).toEqual([]);
    expect(says(replacementOf({ engine }, [{ id: 'move', each: 'electronic', gives: ['$part.identity'] }]))).toEqual([]);
  });

  test('an item that nothing brings back', () => {
    expect(says(replacementOf({ engine }, []))).toEqual([
      'parts.engine.holds.identity: Nothing brings "identity" of "engine" back. Add an act that gives it, or list the origins that keep it.',
    ]);
  });

  test('names that lead nowhere', () => {
    const document = replacementOf(
      { engine: { ...engine, holds: { identity: { with: ['body.secret'] } } }, immobilizer: { same: 'body' } },
      [
        { id: 'program', gives: ['engine.identity'], procedure: 'gone', insteadOf: 'nothing' },
        { id: 'loose', gives: ['$part.identity'] },
      ],
      { id: 'other' },
    );
    expect(says(document)).toEqual([
      'id: System type "other" does not exist. The id of a replacement is that of its system type.',
      'parts.engine.holds.identity.with[0]: "body.secret" is not an item of a part here. Name a part and an item that it holds.',
      'parts.immobilizer.same: "body" holds nothing itself. Name a part that holds something.',
      'acts[0].procedure: Procedure "gone" does not exist. Name one of the library.',
      'acts[0].insteadOf: Act "nothing" does not exist. Name an act of this system type.',
      'acts[1].gives[0]: "$part" needs each: it stands for one replaced part after the other. Add each, or name the part.',
    ]);
  });
});

describe('shared acts', () => {
  const shared = parseSharedActs({
    kind: 'replacement-acts',
    id: 'usual',
    version: 2,
    source: 'Made up for a test.',
    checked: null,
    acts: ['readOld', 'swap', 'close'].map((id) => ({
      id,
      title: id,
      why: 'Shared.',
      back: 'checked',
      by: 'hand',
      minutes: 1,
      stage: id === 'readOld' ? 'before' : 'reset',
    })),
  });
  const find = (id: string): SharedActs | undefined => (shared.ok && id === 'usual' ? shared.value : undefined);
  const own = [
    { id: 'program', gives: ['engine.identity'] },
    { id: 'swap', why: 'Own.' },
    { id: 'look', stage: 'before' as const },
  ];

  test('stand behind its own, which takes their place; its own checks come after those that are always made', () => {
    const merged = mergeActs(replacementOf({ engine }, own, { use: ['usual@2'], without: ['close'] }), find);
    expect(merged.ok && merged.value.acts.map((a) => `${a.id} ${a.why}`)).toEqual([
      'program Why program.',
      'swap Own.',
      'readOld Shared.',
      'look Why look.',
    ]);
    expect(merged.ok && [merged.value.use, merged.value.without]).toEqual([[], []]);
  });

  test('another version, another name, and an act to leave out that is not there', () => {
    const says = (more: object) => {
      const merged = mergeActs(replacementOf({ engine }, own, more), find);
      return merged.ok ? [] : merged.problems.map((p) => `${p.path}: ${p.message}`);
    };
    expect(says({ use: ['usual@1'] })).toEqual(['use[0]: Shared acts "usual@1" do not exist. Use usual@2.']);
    expect(says({ use: ['other@1'] })).toEqual(['use[0]: Shared acts "other@1" do not exist. Name a document of kind replacement-acts.']);
    expect(says({ use: ['usual@2'], without: ['nothing'] })).toEqual(['without: No shared act is named "nothing". Remove it from the list.']);
  });
});

describe('the form', () => {
  const bad = (change: object) => {
    const parsed = parseReplacement({ kind: 'replacement', id: 'sample', version: 1, source: 'x', checked: null, parts: {}, ...change });
    return parsed.ok ? [] : parsed.problems.map((p) => p.path);
  };
  const act = { id: 'go', title: 'Go', why: 'Because.', back: 'checked', by: 'hand', minutes: 5 };
  test('every part is answered for, every name is one of the list, and an act is for each part or once', () => {
    expect(bad({})).toEqual([
      'parts.engine',
      'parts.immobilizer',
      'parts.body',
      'parts.cluster',
      'parts.lock',
      'parts.steering',
      'parts.reader',
      'parts.key',
    ]);
    const parts = Object.fromEntries(
      ['engine', 'immobilizer', 'body', 'cluster', 'lock', 'steering', 'reader', 'key'].map((n) => [n, { absent: 'No.' }]),
    );
    expect(bad({ parts })).toEqual([]);
    expect(bad({ parts, acts: [{ ...act, gives: ['engine.soul'] }] })).toEqual(['acts[0].gives[0]']);
    expect(bad({ parts, acts: [{ ...act, each: 'electronic', any: 'vehicle' }] })).toEqual(['acts[0]']);
    expect(bad({ parts, acts: [{ ...act, attended: 6 }] })).toEqual(['acts[0].attended']);
    expect(bad({ parts, acts: [{ ...act, minutes: -1 }] })).toEqual(['acts[0].minutes']);
    expect(bad({ parts, acts: [{ ...act, minutes: 0 }] })).toEqual([]);
    expect(bad({ parts, acts: [act, act] })).toEqual(['acts[1]']);
  });
});
