import { join } from 'node:path';
import { readPrepared } from './prepared';

/** The content as shipped, for tests: read and checked once for all files of a run (reader.test.ts reads the YAML itself). */
export const shippedContent = () => readPrepared(join(process.cwd(), 'content'), join(process.cwd(), '.cache/templates'));
