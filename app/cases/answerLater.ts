import type { TestDefinition } from '../../core/library';
import type { CaseView } from './page';
import type { LaterAct } from '../ui/sending';

/** An answer of a test, as it waits on this device for the server. */
export function answerLater(
  { record }: CaseView,
  test: TestDefinition,
  outcome: string,
  key: string | null,
  more: Record<string, string> = {},
): LaterAct {
  const withKey = key === null ? {} : { key };
  return {
    address: `/cases/${record.id}`,
    fields: { intent: 'evidence', test: test.id, outcome, ...more, ...withKey },
    subject: `${test.id} ${key ?? ''}`,
    say: `Case ${record.number}: ${test.title}, ${test.outcomes[outcome]!.say}${key === null ? '' : `, tag ${key}`}`,
  };
}

/** The outcome that waits on this device for a test, the latest one. @param key tag, for a test of a key; undefined: whichever key */
export const waitingOutcome = (waiting: readonly LaterAct[], test: string, key?: string | null): string | undefined =>
  waiting.findLast(({ fields: f }) => f.test === test && (key === undefined || (f.key ?? null) === key))?.fields.outcome as string | undefined;
