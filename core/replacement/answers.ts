/** What is read and saved of a module before it comes out, as far as it can still be read. */
export const savables = ['identity', 'configuration', 'counters', 'keyCount', 'codes'] as const;
export type Savable = (typeof savables)[number];
export const savedAnswers = ['saved', 'unreadable'] as const;
export const causeAnswers = ['good', 'fixed', 'bad', 'notChecked'] as const;
export const stepAnswers = ['done', 'failed', 'leftOut', 'open'] as const;

export type StepState = 'done' | 'failed' | 'leftOut' | 'stopped' | 'open';
