import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import ts from 'typescript';
import { sentencesOfSource } from './words';

const core = join(process.cwd(), 'core');
const subjects = readdirSync(core, { withFileTypes: true })
  .filter((f) => f.isDirectory() && f.name !== 'words')
  .map((f) => f.name);
const sourcesOf = (subject: string) => readdirSync(join(core, subject)).filter((f) => /\.ts$/.test(f) && !/\.(test|testing)\.ts$/.test(f));
const tables = subjects.flatMap((subject) =>
  ['sentences', 'lintSentences'].filter((t) => sourcesOf(subject).includes(`${t}.ts`)).map((table) => [subject, table] as const),
);
/** Words that are tables already: each a list of ids with what they are called. */
const lists = [
  'library/vocabulary.ts',
  'copycheck/spoken.ts',
  'units/shopUnits.ts',
  'units/unitChoices.ts',
  'procedure/answers.ts',
  'replacement/vocabulary.ts',
  'codes/vocabulary.ts',
];

/** Strings that read as words outside of errors that only a mistake of ours throws. */
function loose(file: string): string[] {
  const source = readFileSync(join(core, file), 'utf8');
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const thrown: [number, number][] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isThrowStatement(node) || (ts.isNewExpression(node) && /Error$/.test(node.expression.getText()))) thrown.push([node.getStart(), node.end]);
    node.forEachChild(visit);
  };
  visit(tree);
  const lineOf = (at: number) => tree.getLineAndCharacterOfPosition(at).line + 1;
  return sentencesOfSource(source, file)
    .filter(({ place }) => !thrown.some(([from, to]) => Number(place) >= lineOf(from) && Number(place) <= lineOf(to)))
    .map(({ place, text }) => `${file}:${place}: ${text}`);
}

describe('sentences of core', () => {
  test('there are tables to look at', () => expect(tables.length).toBeGreaterThan(12));

  test.each(subjects)('%s: code returns codes and figures, and what they are in words stands in its table of sentences alone', (subject) => {
    const elsewhere = sourcesOf(subject)
      .map((f) => `${subject}/${f}`)
      .filter((f) => !/\/(lintSentences|sentences)\.ts$/.test(f) && !lists.includes(f))
      .flatMap(loose)
      .filter((l) => !proper.some((p) => l.endsWith(p)));
    expect(elsewhere).toEqual([]);
  });

  test.each(tables)('%s/%s: every code appears as a sentence, with its figures in it, and is used', async (subject, table) => {
    const module = (await import(pathToFileURL(join(core, subject, `${table}.ts`)).href)) as Record<string, Record<string, unknown>>;
    const code = sourcesOf(subject)
      .filter((f) => f !== `${table}.ts`)
      .map((f) => readFileSync(join(core, subject, f), 'utf8'))
      .join('\n');
    for (const [name, entry] of Object.entries(module[table]!)) {
      const figures = typeof entry === 'function' ? Array.from({ length: entry.length }, (_, i) => `figure${i}`) : [];
      const said = typeof entry === 'function' ? (entry as (...f: string[]) => string)(...figures) : String(entry);
      expect([name, said.trim() !== '', /undefined|NaN|\[object/.test(said)]).toEqual([name, true, false]);
      for (const figure of figures) expect([name, said]).toEqual([name, expect.stringContaining(figure)]);
      expect([name, new RegExp(`\\b${table}(\\.${name}\\b|\\[)`).test(code)]).toEqual([name, true]);
    }
  });
});

/** What reads like words and is none: how the schema library ends its own message, and the name of a form of files. */
const proper: readonly string[] = [': is not allowed to be empty', ': bloodstone learned'];
