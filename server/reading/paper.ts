import type { PaperBlock as Block } from '../../core/papers';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

/** Sizes of paper; US shops print on Letter. */
export const paperSizes = ['LETTER', 'A4'] as const;
export type PaperSize = (typeof paperSizes)[number];

/** A paper as data, as it goes to the process that makes it. */
export interface Paper {
  size: PaperSize;
  title: string;
  subtitle: string;
  shop: { name: string; lines: string[]; picture?: { type: string; data: Uint8Array } };
  /** Stands at the foot of every page. */
  foot: string;
  blocks: Block[];
}

const ink = '#14231e';
const quiet = '#4c5b53';
const line = '#b9b3a4';

function content(block: Block): Content {
  switch (block.kind) {
    case 'heading':
      return { text: block.text, style: 'heading', headlineLevel: 1 };
    case 'lines':
      return block.lines.length === 1 ? { text: block.lines[0]!, margin: [0, 0, 0, 4] } : { ul: block.lines, margin: [0, 0, 0, 4] };
    case 'facts':
      return {
        table: { widths: [110, '*'], body: block.rows.map(([name, value]) => [{ text: name, color: quiet }, value]), dontBreakRows: true },
        layout: 'noBorders',
        margin: [0, 0, 0, 4],
      };
    case 'table':
      return table(block);
    case 'signature':
      return {
        unbreakable: true,
        stack: [
          {
            svg: `<svg viewBox="0 0 ${block.width} ${block.height}"><path d="${block.path}" fill="none" stroke="${ink}" stroke-width="2.5"/></svg>`,
            width: 180,
          },
          { text: block.under, color: quiet, fontSize: 9 },
        ],
        margin: [0, 2, 0, 6],
      };
  }
}

function table({ head, rows, figures = [], total }: Extract<Block, { kind: 'table' }>): Content {
  const cell = (text: string, i: number, more: object = {}) => ({ text, ...(figures.includes(i) ? { alignment: 'right' as const } : {}), ...more });
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: head.map((_, i) => (i === 0 ? '*' : 'auto')),
      body: [
        head.map((text, i) => cell(text, i, { bold: true, color: quiet })),
        ...rows.map((row) => row.map((text, i) => cell(text, i))),
        ...(total ? [total.map((text, i) => cell(text, i, { bold: true }))] : []),
      ],
    },
    layout: {
      hLineWidth: (i: number) => (i === 0 ? 0 : 0.5),
      vLineWidth: () => 0,
      hLineColor: () => line,
      paddingLeft: () => 0,
      paddingRight: () => 10,
    },
    margin: [0, 0, 0, 6],
  };
}

/** A table of so many rows stays on one page, with its heading. */
const wholeRows = 20;

function together(blocks: readonly Block[]): Content[] {
  const isWhole = (b: Block | undefined) => b?.kind === 'table' && b.rows.length <= wholeRows;
  return blocks.flatMap((block, i): Content[] => {
    const next = blocks[i + 1];
    if (block.kind === 'heading' && next && isWhole(next)) return [{ unbreakable: true, stack: [content(block), content(next)] }];
    return blocks[i - 1]?.kind === 'heading' && isWhole(block) ? [] : [content(block)];
  });
}

function definition({ size, title, subtitle, shop, foot, blocks }: Paper): TDocumentDefinitions {
  const picture = shop.picture && `data:${shop.picture.type};base64,${Buffer.from(shop.picture.data).toString('base64')}`;
  return {
    pageSize: size,
    pageMargins: [42, 40, 42, 46],
    info: { title: `${title}, ${subtitle}` },
    defaultStyle: { font: 'Roboto', fontSize: 10.5, color: ink, lineHeight: 1.15 },
    styles: { heading: { fontSize: 13, bold: true, margin: [0, 8, 0, 3] } },
    // A heading never stands alone at the end of a page.
    pageBreakBefore: (node, nodes) => node.headlineLevel === 1 && nodes.getFollowingNodesOnPage().length === 0,
    footer: (page, pages) => ({
      text: `${foot}${pages > 1 ? ` · page ${page} of ${pages}` : ''}`,
      color: quiet,
      fontSize: 8.5,
      margin: [42, 8, 42, 0],
    }),
    content: [
      {
        columns: [
          ...(picture ? [{ image: picture, fit: [130, 56] as [number, number], width: 140 }] : []),
          {
            stack: [
              { text: title, fontSize: 19, bold: true },
              { text: subtitle, color: quiet },
            ],
            width: '*',
          },
          { stack: [{ text: shop.name, bold: true }, ...shop.lines], width: 'auto', alignment: 'right' },
        ],
        columnGap: 14,
        margin: [0, 0, 0, 8],
      },
      ...together(blocks),
    ],
  };
}

/** Makes a PDF of a paper. The library comes with the first paper. */
export async function makePdf(paper: Paper): Promise<Uint8Array> {
  const [{ default: pdfmake }, { default: fonts }] = await Promise.all([import('pdfmake'), import('pdfmake/fonts/Roboto.js')]);
  pdfmake.addFonts(fonts);
  // Nothing but its own fonts is read, and nothing is fetched.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => Object.values(fonts.Roboto).includes(path));
  return new Uint8Array(await pdfmake.createPdf(definition(paper)).getBuffer());
}
