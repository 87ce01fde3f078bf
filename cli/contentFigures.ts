import { type FaultFigures, faultFigures } from '../core/diagnosis';
import { type ContentFigures, contentFigures } from '../core/library';
import { library } from './library';

/** `content figures`: for each family what a person who edits content should look at. */
export function figuresOfContent(folders: string[]): (ContentFigures & { diagnosis: FaultFigures })[] {
  const { families, procedures, documents } = library(folders);
  const parts = documents.flatMap(({ body }) => (body.kind === 'common' ? [body] : []));
  return contentFigures([...families.values()], [...procedures.values()], parts).map((figures) => ({
    ...figures,
    diagnosis: faultFigures(families.get(figures.family)!),
  }));
}

/** The same as docs/content.md. */
export const figuresAsMarkdown = (rows: ReturnType<typeof figuresOfContent>): string[] => [
  '| system type | patterns | tests | parameters | not used yet | alike | without an act | copied |',
  '| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: |',
  ...rows.map(
    (r) => `| ${[r.family, r.lamps, r.tests, r.params, r.unusedParams.length, r.alike.length, r.withoutAct.length, r.copied.length].join(' | ')} |`,
  ),
  '',
  '| system type | faults | tests with chances | rows at default | rows as without a fault | pairs no test can tell | unsourced shares | not finished |',
  '| --- | ---: | ---: | ---: | ---: | --- | ---: | --- |',
  ...rows.map(({ diagnosis: d }) => {
    const percent = (share: number) => `${Math.round(share * 100)} %`;
    const untold = d.untold.map((pair) => pair.join('/')).join(', ');
    return `| ${[d.family, d.faults, d.tests, percent(d.atDefault), percent(d.identical), untold || '–', d.unsourced, d.unfinished.join('; ') || '–'].join(' | ')} |`;
  }),
];
