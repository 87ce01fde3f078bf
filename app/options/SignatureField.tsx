import Button from '@mui/material/Button';
import { useEffect, useEffectEvent, useRef } from 'react';
import SignaturePad from 'signature_pad';
import type { Signature } from '../../core/options';
import styles from './options.module.css';

/** Most numbers of one stroke; longer ones are cut into several. */
const longest = 4000;

/** A field to sign in, by finger, pen or mouse. */
export default function SignatureField({ put }: { put: (signature: Signature | null) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad>(null);
  const tell = useEffectEvent(() => {
    const { clientWidth: width, clientHeight: height } = canvas.current!;
    const strokes = pad.current!.toData().flatMap(({ points }) => {
      const numbers = points.flatMap((p) => [Math.round(p.x), Math.round(p.y)]);
      return Array.from({ length: Math.ceil(numbers.length / longest) }, (_, i) => numbers.slice(i * longest, (i + 1) * longest));
    });
    put(strokes.length === 0 ? null : { width, height, strokes });
  });
  useEffect(() => {
    const field = canvas.current!;
    const scale = Math.max(1, window.devicePixelRatio);
    field.width = field.clientWidth * scale;
    field.height = field.clientHeight * scale;
    field.getContext('2d')!.scale(scale, scale);
    const made = new SignaturePad(field, { penColor: getComputedStyle(field).color });
    made.addEventListener('endStroke', () => tell());
    pad.current = made;
    return () => made.off();
  }, []);
  return (
    <div className={styles.sign}>
      <canvas ref={canvas} aria-label="Signature of the customer" role="img" />
      <Button
        color="inherit"
        size="small"
        onClick={() => {
          pad.current?.clear();
          put(null);
        }}
      >
        Clear the signature
      </Button>
    </div>
  );
}
