import type { LinkStatus } from '../../core/diagnosis';
import type { CasePage } from './page';
import { LinkDot, LinkGlyph, stateWords } from '../ui/LinkGlyph';
import styles from './Chain.module.css';

interface Props {
  links: LinkStatus[];
  selected: string | null;
  onSelect: (id: string) => void;
  page: CasePage;
}

/** The start chain across the page: its headline and its map. A link chosen shows how it works and what speaks on it. */
export function Chain({ links, selected, onSelect, page }: Props) {
  const chosen = links.find((l) => l.id === selected);
  return (
    <section className={styles.chain} aria-label="Start chain">
      <ol className={styles.links}>
        {links.map((link) => (
          <li key={link.id} data-state={link.state}>
            <button type="button" aria-pressed={link.id === selected} onClick={() => onSelect(link.id)} className={styles.link}>
              <LinkGlyph state={link.state} className={styles.glyph} />
              <span className={styles.title}>{link.title}</span>
              <span className={styles.why}>{shortWhy(link, page)}</span>
              <span className="hidden">{stateWords[link.state]}</span>
            </button>
          </li>
        ))}
      </ol>
      {chosen && (
        <div className={styles.chosen}>
          <p>
            <b>{chosen.title}</b>: {stateWords[chosen.state]}. {chosen.how}
          </p>
          {chosen.because.length === 0 ? (
            <p className="quiet">No evidence speaks on this link yet.</p>
          ) : (
            <p className="quiet">What speaks on it is marked in the ledger.</p>
          )}
          {chosen.keys.length > 1 && (
            <p className={styles.keyStates}>
              {chosen.keys.map((k) => (
                <span key={k.tag}>
                  <LinkDot state={k.state} /> tag {k.tag} {stateWords[k.state]}
                </span>
              ))}
            </p>
          )}
        </div>
      )}
    </section>
  );
}

/** The latest word on a link, short enough to stand under its name. */
function shortWhy(link: LinkStatus, page: CasePage): string {
  const known = link.keys.filter((k) => k.state !== 'unproven');
  if (link.keys.length > 1 && known.length > 0)
    return known.map((k) => `${k.tag} ${k.state === 'holds' ? 'yes' : k.state === 'broken' ? 'no' : 'open'}`).join(' · ');
  const last = link.because.at(-1);
  const entry = page.record.evidence.find((e) => e.id === last?.evidence);
  if (!entry?.outcome) return '';
  return page.tests[entry.test]?.title.toLowerCase() ?? '';
}
