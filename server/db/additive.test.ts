import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * An upgrade goes server by server: the one that is still old works on a database that the new one has brought up to date (docs/deploy.md). So a migration only adds: what an older server
 * asks for stays where it is and takes what it always took.
 */
const folder = join(process.cwd(), 'server/db/migrations');
/** The last one that changed what was there; it came before there was more than one server. */
const lastThatChanged = '0013_renamed_ids.sql';

const breaks: readonly [RegExp, string][] = [
  [/\bdrop\s+(table|column|view|type|function|schema)\b/i, 'takes something away'],
  [/\brename\b/i, 'renames something'],
  [/\balter\s+column\b[^;]*\b(type|set\s+not\s+null)\b/i, 'changes what a column takes'],
  [/\badd\s+column\b(?=[^;,]*\bnot\s+null\b)(?![^;,]*\b(default|generated)\b)/i, 'adds a column that an older server does not fill'],
  [/^\s*(update|delete|truncate)\b/im, 'changes rows that an older server reads'],
  [/\badd\s+constraint\b[^;]*\b(check|unique|exclude)\b/i, 'refuses what an older server writes'],
];
const why = (text: string): string[] => {
  const statements = text.replace(/--.*$/gm, '');
  return breaks.flatMap(([form, what]) => (form.test(statements) ? [what] : []));
};

test.each([
  ['DROP TABLE "call";', ['takes something away']],
  ['ALTER TABLE "call" DROP COLUMN "words";', ['takes something away']],
  ['ALTER TABLE "call" RENAME COLUMN "a" TO "b";', ['renames something']],
  ['ALTER TABLE "call" ALTER COLUMN "a" SET DATA TYPE bigint;', ['changes what a column takes']],
  ['ALTER TABLE "call" ALTER COLUMN "a" SET NOT NULL;', ['changes what a column takes']],
  ['ALTER TABLE "call" ADD COLUMN "a" text NOT NULL;', ['adds a column that an older server does not fill']],
  ['UPDATE "call" SET "a" = 1;', ['changes rows that an older server reads']],
  ['ALTER TABLE "call" ADD CONSTRAINT "x" CHECK ("a" > 0);', ['refuses what an older server writes']],
  ['ALTER TABLE "call" ADD COLUMN "a" text;', []],
  [`ALTER TABLE "call" ADD COLUMN "a" text DEFAULT '' NOT NULL;`, []],
  ['CREATE TABLE "new" ("id" text PRIMARY KEY NOT NULL);\n-- drop table later', []],
  ['CREATE TRIGGER t BEFORE UPDATE OR DELETE ON "new" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();', []],
])('%s', (text, expected) => expect(why(text)).toEqual(expected));

test('every migration since there may be several servers only adds', () => {
  const files = readdirSync(folder).filter((name) => name.endsWith('.sql') && name > lastThatChanged);
  expect(files.length).toBeGreaterThanOrEqual(14);
  expect(files.map((name) => [name, why(readFileSync(join(folder, name), 'utf8'))]).filter(([, reasons]) => reasons!.length > 0)).toEqual([]);
  expect(why(readFileSync(join(folder, lastThatChanged), 'utf8'))).not.toEqual([]);
});
