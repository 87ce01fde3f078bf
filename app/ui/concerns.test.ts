import { concernOf, lookAt, wider } from './concerns';
import { unlessTimers } from './looks';

test('a page of a case looks again whole for its own case, at the timers for others, and for what concerns everybody', () => {
  const page = '/cases/12/triage';
  expect(concernOf({ what: 'case', id: 12 }, page)).toBe('all');
  expect(concernOf({ what: 'case', id: 1 }, page)).toBe('timers');
  expect(concernOf({ what: 'case' }, page)).toBe('all');
  expect(concernOf({ what: 'run', id: 12, caseId: 3 }, page)).toBe('timers');
  expect(concernOf({ what: 'run', id: 3, caseId: 12 }, '/cases/12/runs/3')).toBe('all');
  expect(concernOf({ what: 'run', id: 3, caseId: 12 }, '/cases/12')).toBe('all');
  for (const what of ['library', 'clock'] as const) expect(concernOf({ what }, page)).toBe('all');
});

test('a plan concerns the Floor alone', () => {
  expect(['/', '/cases', '/cases/4'].map((page) => concernOf({ what: 'plan' }, page))).toEqual(['elsewhere', 'nothing', 'nothing']);
});

test('what is of no one case, as the Floor and lists, looks again for every case, and may rest before', () => {
  for (const page of ['/', '/cases', '/calls/4', '/shop', '/library/cases/4']) {
    expect([page, concernOf({ what: 'case', id: 4 }, page)]).toEqual([page, 'elsewhere']);
    expect([page, concernOf({ what: 'run', id: 1, caseId: 4 }, page)]).toEqual([page, 'elsewhere']);
    expect([page, concernOf({ what: 'case' }, page)]).toEqual([page, 'all']);
  }
});

test('one look for several concerns loads what the widest of them needs', () => {
  expect(wider('timers', 'all')).toBe('all');
  expect(wider('all', 'timers')).toBe('all');
  expect(wider('elsewhere', 'timers')).toBe('elsewhere');
  expect(wider('nothing', 'timers')).toBe('timers');
  expect(wider('nothing', 'nothing')).toBe('nothing');
});

test('a page of a case loads nothing for a look at the timers, and as usual for anything else', () => {
  const url = new URL('http://shop/cases/4');
  const asked = (formAction: string | undefined, only?: string) => {
    const formData = new FormData();
    if (only) formData.set('only', only);
    const common = { currentUrl: url, nextUrl: url, currentParams: {}, nextParams: {}, defaultShouldRevalidate: true };
    return unlessTimers({ ...common, ...(formAction ? { formAction, formData } : {}) });
  };
  expect(asked('/clock', 'timers')).toBe(false);
  expect([asked('/clock'), asked('/cases/4', 'timers'), asked(undefined)]).toEqual([true, true, true]);
});

test('its own case is looked at at once; for what happens elsewhere a page rests since its last look, and by chance a little longer', () => {
  const at = (concern: 'all' | 'elsewhere' | 'timers', looked: number, chance: number, answerMs = 10) =>
    lookAt(concern, { now: 10_000, looked, answerMs, chance });
  expect([at('all', 9_999, 0.9), at('all', -Infinity, 0)]).toEqual([10_000, 10_000]);
  expect([at('elsewhere', -Infinity, 0), at('elsewhere', 9_500, 0), at('elsewhere', 9_500, 1)]).toEqual([10_000, 10_000, 10_300]);
  expect([at('timers', 1_000, 0.5), at('timers', 9_500, 0)]).toEqual([11_000, 11_500]);
  // Whatever is drawn, the Floor in another browser follows within two seconds.
  expect(at('elsewhere', 10_000, 1)).toBeLessThan(12_000);
  // A slow answer makes it rest longer; what is its own is never put off.
  expect([at('elsewhere', 10_000, 0, 100), at('elsewhere', 10_000, 0, 1000), at('all', 10_000, 0, 1000)]).toEqual([10_500, 15_000, 10_000]);
});
