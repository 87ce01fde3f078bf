import { type ContentFigures, contentFigures } from '../core/library';
import { library } from './library';

/** `content figures`: for each family what a person who edits content should look at. */
export function figuresOfContent(folders: string[]): ContentFigures[] {
  const { families, procedures, documents } = library(folders);
  const parts = documents.flatMap(({ body }) => (body.kind === 'common' ? [body] : []));
  return contentFigures([...families.values()], [...procedures.values()], parts);
}

/** The same as docs/content.md. */
export const figuresAsMarkdown = (rows: ContentFigures[]): string[] => [
  '| family | patterns | tests | parameters | not used yet | alike | without an act | copied |',
  '| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: |',
  ...rows.map(
    (r) => `| ${[r.family, r.lamps, r.tests, r.params, r.unusedParams.length, r.alike.length, r.withoutAct.length, r.copied.length].join(' | ')} |`,
  ),
];
