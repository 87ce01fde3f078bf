import { readQuantity } from '../../core/units';
import { findCodes, mostExplained } from '../../core/codes';
import { lampMoments } from '../../core/library';
import type { AuditQuery } from '../acts/audit';
import { type CaseQuery, type Sort, sorts } from './caseList';
import type { CaseState } from '../db/schema';
import { parseRecordId } from '../base/fields';

/** Searches come from addresses: what makes no sense in one is left out rather than refused, since an address may be cut off. */
const word = (params: URLSearchParams, name: string): string =>
  (params.get(name) ?? '')
    .replace(/\p{Cc}|\p{Surrogate}/gu, ' ')
    .trim()
    .slice(0, 80);
/** As it stands in a row: not trimmed, since the next page goes on from it. */
const wholeWord = (params: URLSearchParams, name: string): string => (params.get(name) ?? '').replaceAll('\u0000', '').slice(0, 120);
const number = (params: URLSearchParams, name: string): number | undefined => parseRecordId(params.get(name)?.replace(/^0+/, ''));

export function parseVehicleQuery(params: URLSearchParams): { identification: string; plate: string; but: number | undefined } {
  return { identification: word(params, 'identification').toUpperCase(), plate: word(params, 'plate'), but: number(params, 'but') };
}

export function parseAuditQuery(params: URLSearchParams): AuditQuery {
  const caseId = number(params, 'case');
  const before = number(params, 'before');
  return { text: word(params, 'q'), ...(caseId === undefined ? {} : { caseId }), ...(before === undefined ? {} : { before }) };
}

/** Which lamp the bench reads: of a case, or of a system. */
export function parseLampQuery(params: URLSearchParams): { caseId: number | undefined; key: string; system: string; moment: string } {
  const system = params.get('system') ?? '';
  const moment = params.get('moment') ?? '';
  return {
    caseId: number(params, 'case'),
    key: word(params, 'key').toUpperCase(),
    system: /^(family|profile):[A-Za-z0-9-]{1,60}$/.test(system) ? system : '',
    moment: (lampMoments as readonly string[]).includes(moment) ? moment : '',
  };
}

/** Which key is on the bench, against which ladder, on which sheet. */
export function parseBenchQuery(params: URLSearchParams): { caseId: number | undefined; key: string; ladder: string; layout: string; sheet: string } {
  const named = (name: string) => (/^[a-z][A-Za-z0-9-]{0,59}$/.test(params.get(name) ?? '') ? params.get(name)! : '');
  return {
    caseId: number(params, 'case'),
    key: word(params, 'key').toUpperCase(),
    ladder: named('ladder'),
    layout: named('layout'),
    sheet: word(params, 'sheet'),
  };
}

/** A duration up to a day, in seconds; what is none is left out. */
export const parseSeconds = (params: URLSearchParams, name: string): number | undefined => {
  const read = readQuantity(word(params, name), { unit: 's', min: 1, max: 86_400 });
  return read.ok ? read.value : undefined;
};

const lists = { open: ['open'], parked: ['parked'], closed: ['closed'] } as const satisfies Record<string, readonly CaseState[]>;
export type Shown = keyof typeof lists;
export interface ListQuery extends CaseQuery {
  shown: Shown;
}

/** Filters, order and place of the case list, as they stand in an address. */
export function parseCaseQuery(params: URLSearchParams): ListQuery {
  const state = params.get('state') ?? '';
  const shown: Shown = Object.hasOwn(lists, state) ? (state as Shown) : 'open';
  const kind = params.get('kind');
  const family = word(params, 'family');
  const sort = params.get('sort') ?? '';
  const id = number(params, 'after');
  return {
    shown,
    states: [...lists[shown]],
    text: word(params, 'q'),
    sort: Object.hasOwn(sorts, sort) ? (sort as Sort) : 'newest',
    ...(kind === 'vehicle' || kind === 'parts' ? { kind } : {}),
    ...(/^[a-z][a-zA-Z0-9-]{0,59}$/.test(family) ? { family } : {}),
    ...(id === undefined ? {} : { after: { id, vehicle: wholeWord(params, 'vehicle') } }),
  };
}

/** The address of a list: the pair of parseCaseQuery. A change of filter begins at the first page. */
export function caseSearch(query: ListQuery, to: { shown?: Shown; after?: { id: number; vehicle: string } }): string {
  const shown = to.shown ?? query.shown;
  const params = new URLSearchParams({
    ...(shown === 'open' ? {} : { state: shown }),
    ...(query.text === '' ? {} : { q: query.text }),
    ...(query.kind ? { kind: query.kind } : {}),
    ...(query.family ? { family: query.family } : {}),
    ...(query.sort === 'newest' ? {} : { sort: query.sort }),
    ...(to.after ? { after: String(to.after.id), ...(query.sort === 'vehicle' ? { vehicle: to.after.vehicle } : {}) } : {}),
  });
  return params.size === 0 ? '' : `?${params}`;
}

/** Findings that nobody made, for a look at what would follow: `if=test:outcome`, with `:key` where the test belongs to one. */
export function parseSupposed(params: URLSearchParams): { test: string; outcome: string; key?: string }[] {
  return params
    .getAll('if')
    .slice(0, 100)
    .flatMap((text) => {
      const [test = '', outcome = '', key] = text.slice(0, 160).split(':');
      return test === '' || outcome === '' ? [] : [{ test, outcome, ...(key === undefined || key === '' ? {} : { key }) }];
    });
}

/** The most that is looked through of a text in an address. */
const codeTextLength = 6000;

/** Trouble codes as they stand in an address: a list, or any text with codes in it; and the vehicle whose maker's own codes count. */
export function parseCodesQuery(params: URLSearchParams): { codes: string[]; profile: string } {
  const { codes } = findCodes((params.get('codes') ?? '').slice(0, codeTextLength));
  const written = codes.map((c) => (c.failureType === undefined ? c.code : `${c.code}-${c.failureType}`));
  const profile = params.get('profile') ?? '';
  return { codes: [...new Set(written)].slice(0, mostExplained), profile: /^[a-z][A-Za-z0-9-]{0,59}$/.test(profile) ? profile : '' };
}
