import { concernOf } from './concerns';
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
  expect(['/', '/cases', '/cases/4'].map((page) => concernOf({ what: 'plan' }, page))).toEqual(['all', 'nothing', 'nothing']);
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
