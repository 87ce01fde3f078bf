import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import type { Result } from '../units';

/** One line of an evidence file (docs/formats.md). */
export type EvidenceLine = { test: string; outcome: string; key?: string } | { repair: string; worked: boolean; key?: string };

const name = Joi.string().max(60);
const line = Joi.object({ test: name, outcome: name, repair: name, worked: Joi.boolean().strict(), key: Joi.string().min(1).max(20) })
  .xor('test', 'repair')
  .and('test', 'outcome')
  .and('repair', 'worked');

/** What an evidence file holds: tests with their outcomes, and repairs with whether they worked, in the order in which they were made. */
export const parseEvidence = (data: unknown): Result<EvidenceLine[]> => parseWith<EvidenceLine[]>(Joi.array().items(line).max(500), data);
