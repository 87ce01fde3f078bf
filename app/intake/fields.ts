import { keyKinds } from '../../core/library';
import type { ShopUnits } from '../../core/units';
import type { AuthorityForm, KeyForm, NewCase } from '../../server/cases/forms';

/** A form while it is typed: everything is text until the server has read it. */
type AsTyped<T> = T extends readonly (infer I)[]
  ? AsTyped<I>[]
  : T extends object
    ? { [K in keyof T]-?: AsTyped<Exclude<T[K], undefined>> }
    : T extends boolean
      ? boolean
      : string;

export type NewKeyFields = AsTyped<NonNullable<KeyForm['toFit']>>;
export type KeyFields = Omit<AsTyped<KeyForm>, 'told' | 'toFit'> & { told: Record<string, string>; toFit: NewKeyFields | null };
/** The intake as it stands in the form. One authority is asked for, and of a parts case the sender's; the questions lead to the system. */
export type Intake = Omit<AsTyped<NewCase>, 'kind' | 'keys' | 'authority'> & {
  kind: NewCase['kind'];
  keys: KeyFields[];
  authority: AsTyped<AuthorityForm>;
  sender: string;
};

export const newKey = (tag: string, first = false): KeyFields => ({
  tag,
  role: first ? 'main' : 'unknown',
  kind: 'unknown',
  marks: '',
  colour: '',
  condition: '',
  cell: '',
  note: '',
  here: true,
  told: {},
  toFit: null,
});
export const newKeyPlan = (): NewKeyFields => ({ extent: 'complete', chip: '', band: '', memory: 'blank', blade: '', cutBy: '', price: '' });
export const newPart = (tag: string) => ({ tag, what: 'module', label: '', note: '' });

/** @param distance the shop's unit: counters begin with it */
export const emptyIntake = (distance: ShopUnits['distance']): Intake => ({
  kind: 'vehicle',
  words: '',
  symptoms: [],
  complaint: { diesAfterS: '', howOften: '', message: '' },
  changed: [],
  vehicle: '',
  year: '',
  identification: '',
  plate: '',
  customer: '',
  phone: '',
  system: '',
  bay: '',
  condition: { partsOff: '', engineCanRun: '', lastRunning: '', arrived: '', batteryVolts: '' },
  keys: [newKey('A', true)],
  parts: [],
  counters: [
    { counter: 'odometer', unit: distance, value: '' },
    { counter: 'serviceInterval', unit: distance, value: '' },
    { counter: 'oilLife', unit: '%', value: '' },
  ],
  authority: { kind: '', note: '' },
  sender: '',
  seen: {},
  call: '',
});

/** The first tag of the row A, B, C … that is not taken; parts count from P1. */
export function freeTag(taken: readonly string[], from: 'key' | 'part'): string {
  for (let i = 0; ; i += 1) {
    const tag = from === 'part' ? `P${i + 1}` : i < 26 ? String.fromCharCode(65 + i) : `K${i}`;
    if (!taken.includes(tag)) return tag;
  }
}

/** Copies what has the shape of the pattern and leaves out everything else: a stored draft may be of an older form. */
function fit<T>(pattern: T, value: unknown, item?: unknown): T {
  if (Array.isArray(pattern)) {
    const like: unknown = item ?? pattern[0];
    return (Array.isArray(value) ? value.slice(0, 40).map((v) => fit(like, v)) : pattern) as T;
  }
  if (typeof pattern === 'object' && pattern !== null) {
    if (typeof value !== 'object' || value === null) return pattern;
    return Object.fromEntries(Object.entries(pattern).map(([name, p]) => [name, fit(p, (value as Record<string, unknown>)[name])])) as T;
  }
  return typeof value === typeof pattern ? (value as T) : pattern;
}

/** A stored draft as a form, whatever stands in it. */
export function restoreIntake(stored: unknown, distance: ShopUnits['distance']): Intake {
  const empty = emptyIntake(distance);
  const raw = (typeof stored === 'object' && stored !== null ? stored : {}) as Partial<Record<keyof Intake, unknown>>;
  const intake = fit({ ...empty, keys: [], parts: [], symptoms: [], changed: [] }, raw);
  const list = (name: keyof Intake) => (Array.isArray(raw[name]) ? (raw[name] as unknown[]).slice(0, 40) : []);
  const texts = (value: unknown): Record<string, string> =>
    Object.fromEntries(Object.entries((value as object | undefined) ?? {}).filter(([, v]) => typeof v === 'string')) as Record<string, string>;
  return {
    ...intake,
    kind: raw.kind === 'parts' ? 'parts' : 'vehicle',
    seen: texts(raw.seen),
    symptoms: list('symptoms').filter((s) => typeof s === 'string'),
    changed: list('changed').map((c) => fit({ what: '', on: '', note: '' }, c)),
    parts: list('parts').map((p) => fit(newPart(''), p)),
    keys: Array.isArray(raw.keys)
      ? list('keys').map((k) => ({
          ...fit({ ...newKey(''), toFit: null, told: {} }, k),
          told: typeof k === 'object' && k !== null ? texts((k as KeyFields).told) : {},
          toFit: (k as KeyFields | null)?.toFit ? fit(newKeyPlan(), (k as KeyFields).toFit) : null,
        }))
      : empty.keys,
  };
}

/** What is sent: without counters nobody read and authority nobody saw, and nothing that belongs to the other kind of case. */
export function intakeForm({ sender, authority, ...f }: Intake): Record<string, unknown> {
  const parts = f.kind === 'parts';
  return {
    ...f,
    parts: parts ? f.parts : [],
    symptoms: parts ? [] : f.symptoms,
    changed: parts ? [] : f.changed,
    counters: parts ? [] : f.counters.filter((c) => c.value.trim() !== ''),
    authority: [...(authority.kind === '' ? [] : [authority]), ...(parts && sender !== '' ? [{ kind: 'sender', note: sender }] : [])],
  };
}

export const isKeyKind = (kind: string): kind is keyof typeof keyKinds => kind in keyKinds;
