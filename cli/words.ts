import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { parse } from 'yaml';
import { type Found, oldWordsIn, type Sentence, sentencesOfContent } from '../core/words';

/** Attributes of a page that a person reads or hears. */
const readAttributes = new Set([
  'title',
  'label',
  'aria-label',
  'placeholder',
  'helperText',
  'help',
  'alt',
  'why',
  'say',
  'text',
  'detail',
  'description',
  'main',
]);
/** Calls and places whose strings nobody reads. */
const silentCalls = new Set(['sql', 'getElementById', 'querySelector', 'querySelectorAll', 'matchMedia', 'prepare', 'exec', 'RegExp', 'require']);

/** `words`: every sentence of screens and content with its file and place; with `old`, those that hold a word of the list that must not come back. */
export function words(root: string, old: boolean): (Sentence & { old?: Found[] })[] {
  const all = [...ofSources(root), ...ofContent(root)];
  if (!old) return all;
  return all.flatMap((s) => {
    // Options and fields keep their names (a promise to scripts).
    const found = oldWordsIn(s.text.replace(/--[a-z-]+|\b[a-z]+: (?=")/g, ''));
    return found.length > 0 ? [{ ...s, old: found }] : [];
  });
}

/** Files of a folder and of those in it, by their paths from the root, in alphabetical order. */
const filesIn = (root: string, folder: string): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .map((file) => `${folder}/${file.replaceAll('\\', '/')}`)
    .sort();

const ofContent = (root: string): Sentence[] =>
  filesIn(root, 'content')
    .filter((file) => file.endsWith('.yaml'))
    .flatMap((file) => sentencesOfContent(parse(readFileSync(join(root, file), 'utf8')), file));

const ofSources = (root: string): Sentence[] =>
  ['app', 'core', 'server', 'cli']
    .flatMap((folder) => filesIn(root, folder))
    .filter((file) => /\.tsx?$/.test(file) && !/\.(test|testing)\.tsx?$|\/\+types\/|^core\/words\//.test(file))
    .flatMap((file) => sentencesOfSource(readFileSync(join(root, file), 'utf8'), file));

/** The texts of a source file that a person may read: text between tags, attributes that are read, and strings that read as words. */
export function sentencesOfSource(source: string, file: string): Sentence[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const found: Sentence[] = [];
  const add = (node: ts.Node, raw: string) => {
    const text = raw.replace(/\s+/g, ' ').trim();
    if (!/[A-Za-z]{2}/.test(text)) return;
    found.push({ file, place: String(tree.getLineAndCharacterOfPosition(node.getStart()).line + 1), text });
  };
  /** One word is a name as often as a text; two words, or one that begins like a sentence, are read. */
  const reads = (text: string) => /[A-Za-z].* .*[A-Za-z]/.test(text) || /^[A-Z][a-z]+[.:]?$/.test(text);
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isJsxText(node)) return add(node, node.text);
    if (ts.isJsxAttribute(node)) {
      const name = node.name.getText();
      if (!readAttributes.has(name) && node.initializer && ts.isStringLiteral(node.initializer)) return;
      if (name === 'className' || name === 'style' || name === 'sx') return;
      if (node.initializer && ts.isStringLiteral(node.initializer)) return add(node, node.initializer.text);
    }
    if (ts.isTaggedTemplateExpression(node)) return;
    if (ts.isCallExpression(node) && silentCalls.has(node.expression.getText().split('.').at(-1)!)) return;
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      if (reads(node.text)) add(node, node.text);
      return;
    }
    if (ts.isTemplateExpression(node)) {
      const text = node.head.text + node.templateSpans.map((span) => `{…}${span.literal.text}`).join('');
      if (/[A-Za-z]{2,}.* /.test(text.replace(/\{…\}/g, ''))) add(node, text);
      node.templateSpans.forEach((span) => visit(span.expression));
      return;
    }
    node.forEachChild(visit);
  };
  visit(tree);
  return found;
}
