import { refused } from '../base/expected';
import { awayText, isAway, refusalOf } from './away';

const withCode = (code: string, message = 'x') => Object.assign(new Error(message), { code });

test.each<[string, unknown]>([
  ['the server ends', withCode('57P01')],
  ['the server starts', withCode('57P03')],
  ['a statement that took too long', withCode('57014')],
  ['a connection that failed', withCode('08006')],
  ['no connection is free', withCode('53300')],
  ['nobody listens', withCode('ECONNREFUSED')],
  ['each address of a host in vain', new AggregateError([withCode('ECONNREFUSED'), withCode('ENETUNREACH')])],
  ['around what the driver says', new Error('Failed query: select 1', { cause: new Error('Connection terminated unexpectedly') })],
  ['no answer in time', new Error('Query read timeout')],
])('away: %s', (_, error) => expect(isAway(error)).toBe(true));

test.each<[string, unknown]>([
  ['what is there twice', withCode('23505')],
  ['a refusal', refused(409, 'open', 'It is open.')],
  ['another process that ended', withCode('EPIPE')],
  ['any error', new Error('Cannot read properties of undefined')],
  ['no error', { code: '57P01' }],
])('not away: %s', (_, error) => expect(isAway(error)).toBe(false));

test.each<[string, unknown, [number, string] | undefined]>([
  ['away', withCode('57P01'), [503, awayText]],
  [
    'its disk is full',
    new Error('Failed query: insert into x', { cause: withCode('53100', 'could not extend file') }),
    [507, 'The disk of the database’s server is full. Nothing was saved. Make room on it, then send this again; what you typed stays here.'],
  ],
  ['something else', withCode('23505'), undefined],
])('what is told of an act: %s', (_, error, told) => {
  const refusal = refusalOf(error);
  expect(refusal && [refusal.status, refusal.problems[0]!.message]).toEqual(told);
});
