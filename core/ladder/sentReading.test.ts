import { received, sent } from './sentReading';

test.each([0, 0.1, 1385, Infinity])('%s Ω come out of JSON as they went in', (ohms) => {
  expect(received(JSON.parse(JSON.stringify(sent(ohms))) as number | null)).toBe(ohms);
});

test('an overload is null in JSON, and what is no number is no overload', () => {
  expect(sent(Infinity)).toBeNull();
  expect(() => sent(NaN)).toThrow('NaN is not a reading.');
});
