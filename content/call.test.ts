import { adviseCall } from '../core/call';
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
});
