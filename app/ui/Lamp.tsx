import { useEffect, useMemo, useRef } from 'react';
import { flashesPerSecond, type LaidLamp, type LaidSegment, lampTimeline } from '../../core/library';
import { FlashStrip } from './FlashStrip';
import styles from './Lamp.module.css';

/** How much of a pattern one turn of the moving picture shows, seconds. */
const turnS = 8;

/** What lamp or cluster should show: a lamp moves in its own time, a text stands as it is written there. */
export function Lamp({ pattern, size = 'small' }: { pattern: LaidLamp; size?: 'small' | 'large' }) {
  if (!pattern.segments)
    return (
      <span className={styles.message} data-size={size} role="img" aria-label={`Cluster: ${pattern.message!.toLowerCase()}`}>
        <span aria-hidden="true">{pattern.message}</span>
      </span>
    );
  return <MovingLamp title={pattern.title} segments={pattern.segments} size={size} />;
}

/** With reduced motion only the still line of its time is shown. */
function MovingLamp({ title, segments, size }: { title: string; segments: LaidSegment[]; size: 'small' | 'large' }) {
  const glow = useRef<SVGGElement>(null);
  // By content, not by object: new data with the same pattern must not restart the picture.
  const written = JSON.stringify(segments);
  const spans = useMemo(() => lampTimeline(JSON.parse(written) as LaidSegment[], turnS), [written]);
  useEffect(() => {
    const element = glow.current;
    // Nothing large flashes more than three times a second; its time line stands beside it.
    if (size === 'large' && flashesPerSecond(spans) > 3) return;
    if (!element || window.matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    const total = spans.reduce((sum, s) => sum + s.seconds, 0);
    let at = 0;
    const frames = spans.map((s) => {
      const frame = { opacity: s.lit ? 1 : 0, offset: at / total, easing: 'steps(1, end)' };
      at += s.seconds;
      return frame;
    });
    frames.push({ opacity: spans.at(-1)!.lit ? 1 : 0, offset: 1, easing: 'linear' });
    const animation = element.animate(frames, { duration: total * 1000, iterations: Infinity });
    return () => animation.cancel();
  }, [spans, size]);

  return (
    <span className={styles.lamp} data-size={size} role="img" aria-label={`Light: ${title.toLowerCase()}`}>
      <svg viewBox="0 0 64 48" aria-hidden="true" focusable="false">
        <KeyShape colour="var(--lamp-off)" />
        <g ref={glow} opacity={spans[0]?.lit ? 1 : 0}>
          <circle cx="32" cy="24" r="21" fill="var(--lamp)" opacity="0.18" />
          <circle cx="32" cy="24" r="15" fill="var(--lamp)" opacity="0.2" />
          <KeyShape colour="var(--lamp)" />
        </g>
      </svg>
      <FlashStrip spans={spans} className={styles.time} />
    </span>
  );
}

function KeyShape({ colour }: { colour: string }) {
  return (
    <g fill="none" stroke={colour} strokeWidth="3.4" strokeLinecap="square">
      <circle cx="23" cy="24" r="6" />
      <path d="M29 24h16M40 25v5M45 24v6" />
    </g>
  );
}
