import { missingOf } from './missing';

const whole: Parameters<typeof missingOf>[0] = {
  kind: 'vehicle',
  state: 'open',
  customer: { id: 1, name: 'Odalys Prenn', phone: '', erasedAt: null },
  identification: '1BSZZ99ZXYA000001',
  counters: [{ counter: 'odometer', unit: 'mi', phase: 'before', value: 41_200, by: 'Ines Marrow', at: 1 }],
  photos: [{ id: 'p', keyTag: null, caption: '', width: 1, height: 1, by: 'Ines Marrow', at: 1 }],
  runs: [],
  repairActions: [],
};
const seen = { authority: true };
const run = { id: 1 } as (typeof whole.runs)[number];
const repair = (result: 'works' | null, kind: 'repair' | 'broughtBack' = 'repair') => ({ kind, result }) as (typeof whole.repairActions)[number];
const after = (counter: string) => ({ ...whole.counters[0]!, counter, phase: 'after' as const });

describe('what a case’s record lacks', () => {
  test.each<[string, Partial<typeof whole>, Parameters<typeof missingOf>[1], ReturnType<typeof missingOf>]>([
    ['a whole one lacks nothing', {}, seen, []],
    ['authority comes first', { photos: [] }, { authority: false }, ['authority', 'photos']],
    ['parts also ask who sent them', { kind: 'parts', identification: '', counters: [] }, { authority: true, senderMissing: true }, ['sender']],
    ['customer and VIN', { customer: null, identification: '' }, seen, ['customer', 'vin']],
    ['an erased customer is none that is missing', { customer: { id: 1, name: '', phone: '', erasedAt: 5 } }, seen, []],
    ['counters before the work', { counters: [] }, seen, ['countersBefore']],
    ['after a run it is too late to read them before', { counters: [], runs: [run] }, seen, []],
    ['after a run they are read again', { runs: [run] }, seen, ['countersAfter']],
    ['after a repair as well', { repairActions: [repair('works')] }, seen, ['countersAfter']],
    ['a withdrawn repair is none', { repairActions: [repair(null)] }, seen, []],
    ['a fault put back is no repair', { repairActions: [repair('works', 'broughtBack')] }, seen, []],
    ['read again', { runs: [run], counters: [...whole.counters, after('odometer')] }, seen, []],
    ['each counter by itself', { runs: [run], counters: [...whole.counters, after('ignitionCycles')] }, seen, ['countersAfter']],
    ['a closed case lacks nothing any more', { state: 'closed', photos: [], customer: null }, { authority: false }, []],
  ])('%s', (_, record, known, missing) => expect(missingOf({ ...whole, ...record }, known)).toEqual(missing));
});
