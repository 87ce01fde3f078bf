import type { LinkStatus } from '../../core/diagnosis';
import { LinkGlyph, stateWords } from '../ui/LinkGlyph';
import styles from './onChain.module.css';

/** The verdict as a mark on the start chain: what is known of each link, and where to look first. */
export function OnChain({ links, look }: { links: readonly LinkStatus[]; look: readonly string[] }) {
  return (
    <ol className={styles.chain} aria-label="Where to look on the start chain">
      {links.map((l) => (
        <li key={l.id} data-look={look[0] === l.id ? 'first' : look.includes(l.id) ? 'then' : undefined}>
          <LinkGlyph state={l.state} height={14} />
          <span>{l.title}</span>
          <span className="hidden">, {stateWords[l.state]}</span>
          {look[0] === l.id && (
            <b>
              <svg viewBox="0 0 16 10" width="16" height="10" aria-hidden="true" focusable="false">
                <path d="M8 0l8 10H0z" fill="currentColor" />
              </svg>{' '}
              look here
            </b>
          )}
        </li>
      ))}
    </ol>
  );
}
