import { adviseCall, questionsFor } from '../core/call';
import { shipped } from './session.testing';

const sheet = shipped.calls.get('sheet')!;
const call = (answers: Record<string, string>, more: object = {}) => adviseCall(sheet, { answers, ...more });

describe('calls as they come', () => {
  test.each<[string, Record<string, string>, string, string]>([
    ['flashing lamp, doors answer, turns not', { engine: 'nothing', dash: 'usual', lamp: 'flashes', unlock: 'answer' }, 'refused', 'come'],
    ['dead in the morning after a cold night', { engine: 'nothing', dash: 'dark', lamp: 'never', unlock: 'silent' }, 'power', 'come'],
    ['only clicks, dim dash', { engine: 'clicks', dash: 'dim' }, 'power', 'come'],
    ['turns for ever, lamp goes out', { engine: 'turns', dash: 'usual', lamp: 'goesOut', otherKey: 'same' }, 'beyond', 'tow'],
    ['starts and dies since a new cover', { engine: 'dies', before: 'cover' }, 'refused', 'come'],
    ['one of two keys starts it', { engine: 'nothing', dash: 'usual', otherKey: 'works' }, 'refused', 'come'],
    ['nothing but that it does not start', { engine: 'nothing' }, 'notClear', 'ask'],
    ['at times it starts', { engine: 'nothing', runs: 'sometimes' }, 'notClear', 'drive'],
    ['all keys lost', { keys: 'lost' }, 'notClear', 'come'],
    ['a swapped engine module', { engine: 'dies', before: 'ecm', lamp: 'goesOut' }, 'notClear', 'tow'],
  ])('%s', (_what, answers, sounds, visit) => {
    const advice = call(answers);
    expect([advice.sounds, advice.visit.kind]).toEqual([sounds, visit]);
    expect(advice.minutes[0]).toBeLessThan(advice.minutes[1]);
    expect(advice.bring.caller).toContain('Every key and fob there is, even the ones that do nothing.');
  });
  test('what was done already is not asked for again', () => {
    expect(call({ otherKey: 'same', unlock: 'answer' }).tries.join(' ')).not.toMatch(/other key, with|Press unlock/);
    expect(call({}).tries.join(' ')).toMatch(/Press unlock.*other key, with/);
  });
  test('a dead battery is not told to try keys', () =>
    expect(call({ dash: 'dark', unlock: 'silent', lamp: 'never' }).tries.join(' ')).not.toMatch(/ring|Cover/i));
  test('the rider of a scooter is not told to press unlock or a brake pedal, and its key has no remote to ask about', () => {
    const scooter = call({ engine: 'nothing', unlock: 'silent' }, { family: 'master-user' });
    expect(scooter.tries.join(' ')).not.toMatch(/unlock|foot|park/);
    expect(scooter.tries).toContain('Side stand up, neutral, brake and clutch levers pulled, then start.');
    expect(scooter.speaks.map((s) => s.ask)).not.toContain('Press unlock on the remote. Do the doors respond?');
    expect(call({ engine: 'nothing' }, { family: 'ring' }).tries.join(' ')).toMatch(/unlock.*foot hard on brake/);
    const asked = (family?: string) => questionsFor(sheet, family).map((q) => q.id);
    expect(asked('master-user')).toEqual(asked().filter((q) => q !== 'unlock'));
    for (const { without } of sheet.questions) for (const family of without ?? []) expect([...shipped.families.keys()]).toContain(family);
  });
  test.each(['cylinder', 'pellet'])('a key of %s has no chip that another one could disturb', (family) =>
    expect(call({ engine: 'nothing' }, { family }).tries.join(' ')).not.toMatch(/card or fob|ornaments|unlock/),
  );
});
