import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import { triageTitle } from './words';

type Weighed = NonNullable<DiagnosisView['weighed']>;
const leaning = (id: string, p: number) =>
  ({
    beliefs: [{ id, p }],
    faults: { engineUnpaired: { title: 'Replaced ECM not learned to this car', link: 'startEnabled' } },
  }) as unknown as Weighed;

test.each([
  ['notClear', leaning('engineUnpaired', 0.35), 'Likely: replaced ECM not learned to this car (35 %)'],
  ['notClear', leaning('engineUnpaired', 0.349), 'Not clear'],
  ['notClear', leaning('somethingElse', 0.9), 'Not clear'],
  ['notClear', null, 'Not clear'],
  ['refused', leaning('engineUnpaired', 0.9), 'Refused'],
] as const)('%s with %j: %s', (kind, weighed, title) => expect(triageTitle(kind, weighed)).toBe(title));
