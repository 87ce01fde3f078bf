import { trainingsOf } from './trainings';

test('what not everybody is trained for, by its caution, in the order of the list', () => {
  const caution = (id: string, training?: string) =>
    [id, { id, say: 'Mind.', confirm: false, ...(training === undefined ? {} : { training }) }] as const;
  expect(trainingsOf(new Map([caution('b', 'airbags'), caution('none'), caution('a', 'soldering')]))).toEqual({ b: 'airbags', a: 'soldering' });
  expect(trainingsOf(new Map())).toEqual({});
});
