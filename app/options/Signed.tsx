import type { Signature } from '../../core/options';
import { signaturePath } from '../../core/options';
import styles from './options.module.css';

/** A signature as it was drawn. */
export const Signed = ({ signature }: { signature: Signature }) => (
  <svg className={styles.signed} viewBox={`0 0 ${signature.width} ${signature.height}`} role="img" aria-label="Signature">
    <path d={signaturePath(signature)} fill="none" stroke="currentColor" strokeWidth={2.5} strokeLinecap="round" strokeLinejoin="round" />
  </svg>
);
