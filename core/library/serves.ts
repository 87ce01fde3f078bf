import type { Family, Param } from './documents';

/** Stands as the family of a procedure that serves vehicles of every system type; its numbers are those that every family has. */
export const everyFamily = 'every';

/** Whether a procedure is for vehicles of a family. */
export const serves = ({ family }: { family: string }, id: string): boolean => family === id || family === everyFamily;

/** A family with the numbers that a procedure brings; its own of the same name stay. */
export const withNumbers = (family: Family, { numbers = {} }: { numbers?: Record<string, Param> }): Family => ({
  ...family,
  params: { ...numbers, ...family.params },
});
