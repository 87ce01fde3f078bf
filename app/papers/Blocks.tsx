import type { PaperBlock } from '../../core/papers';
import styles from './papers.module.css';

/** A paper on the screen: the same parts that the PDF is made of. */
export const Blocks = ({ blocks }: { blocks: readonly PaperBlock[] }) => blocks.map((block, i) => <Block key={i} block={block} />);

function Block({ block }: { block: PaperBlock }) {
  switch (block.kind) {
    case 'heading':
      return <h2>{block.text}</h2>;
    case 'lines':
      return (
        <ul className={styles.lines}>
          {block.lines.map((l, i) => (
            <li key={i}>{l}</li>
          ))}
        </ul>
      );
    case 'facts':
      return (
        <dl className={styles.facts}>
          {block.rows.map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      );
    case 'table':
      return (
        <div className={styles.wide} role="group" tabIndex={0} aria-label={`Table: ${block.head.filter(Boolean).join(', ')}`}>
          <table>
            <thead>
              <tr>
                {block.head.map((h, i) => (
                  <th key={i} scope="col" data-figure={block.figures?.includes(i) || undefined}>
                    {h || <span className="hidden">Line</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {block.rows.map((row, r) => (
                <tr key={r}>{cells(row, block.figures)}</tr>
              ))}
              {block.total && <tr className={styles.total}>{cells(block.total, block.figures)}</tr>}
            </tbody>
          </table>
        </div>
      );
    case 'signature':
      return (
        <figure className={styles.signature}>
          <svg viewBox={`0 0 ${block.width} ${block.height}`} role="img" aria-label="Signature">
            <path d={block.path} fill="none" stroke="currentColor" strokeWidth={2.5} strokeLinecap="round" strokeLinejoin="round" />
          </svg>
          <figcaption>{block.under}</figcaption>
        </figure>
      );
  }
}

const cells = (row: readonly string[], figures: readonly number[] = []) =>
  row.map((text, i) =>
    i === 0 ? (
      <th key={i} scope="row">
        {text}
      </th>
    ) : (
      <td key={i} data-figure={figures.includes(i) || undefined}>
        {text}
      </td>
    ),
  );
