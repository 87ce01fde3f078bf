import type { StepResult } from '../../../core/procedure';

/** What is sent with an answer of a step that has an instrument: what the instrument found, or a note of what was done elsewhere. */
export type OnResult = (answer: string, found: { result: StepResult } | { note: string }) => void;
