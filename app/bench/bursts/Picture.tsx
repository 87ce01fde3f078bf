import { useGesture } from '@use-gesture/react';
import { useEffect, useEffectEvent, useRef } from 'react';
import type { HeldCapture } from '../../workers/bursts';
import styles from './picture.module.css';
import type { Drawn } from './useCapture';

/** The stretch that is shown, in seconds from where the captures are aligned. */
export interface View {
  fromS: number;
  toS: number;
}
const [width, height, tallyTop, tallyHeight, waveTop] = [1000, 190, 6, 44, 64];
const columns = 900;
/** Steps of the axis, ms. */
const steps = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 50_000];
/** Nearer than so many seconds nothing is to be seen: some samples of the carrier. */
const nearestS = 20e-6;

/** A view zoomed around a place of it (0 to 1), kept within the whole. */
export function zoomed(view: View, whole: View, by: number, around: number): View {
  const span = Math.min(whole.toS - whole.fromS, Math.max(nearestS, (view.toS - view.fromS) * by));
  const at = view.fromS + (view.toS - view.fromS) * around;
  return moved({ fromS: at - span * around, toS: at + span * (1 - around) }, whole, 0);
}
/** A view moved by a share of itself, kept within the whole. */
export function moved(view: View, whole: View, share: number): View {
  const span = view.toS - view.fromS;
  const fromS = Math.min(Math.max(view.fromS + span * share, whole.fromS), whole.toS - span);
  return { fromS, toS: fromS + span };
}

/**
 * One capture: bursts as tally strokes over the time line, the envelope under them. The wheel, two fingers and the keys + and − zoom, dragging and the arrows move,
 * 0 shows all.
 * @param zeroS what stands at 0 of the view, seconds of the capture
 */
export function Picture({
  capture,
  drawn,
  ask,
  zeroS,
  view,
  whole,
  onView,
  label,
}: {
  capture: HeldCapture;
  drawn: Drawn | null;
  ask: (fromS: number, toS: number, columns: number) => void;
  zeroS: number;
  view: View;
  whole: View;
  onView: (view: View) => void;
  label: string;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [from, to] = [view.fromS + zeroS, view.toS + zeroS];
  const askNow = useEffectEvent(ask);
  useEffect(() => askNow(from, to, columns), [from, to, capture]);
  const placeOf = (clientX: number) => {
    const box = svg.current!.getBoundingClientRect();
    return Math.min(1, Math.max(0, (clientX - box.left) / box.width));
  };
  useGesture(
    {
      onWheel: ({ event, delta: [, y] }) => {
        event.preventDefault();
        onView(zoomed(view, whole, Math.exp(Math.max(-240, Math.min(240, y)) * 0.002), placeOf(event.clientX)));
      },
      // From the view in which the gesture began, so that several moves between two pictures are not lost. A pinch ends the drag that its first finger began.
      onPinch: ({ event, origin: [x], movement: [scale], memo = view }) => {
        event.preventDefault();
        onView(zoomed(memo as View, whole, 1 / scale, placeOf(x)));
        return memo as View;
      },
      onDrag: ({ pinching, cancel, movement: [x], memo = view }) => {
        if (pinching) return cancel();
        onView(moved(memo as View, whole, -x / svg.current!.getBoundingClientRect().width));
        return memo as View;
      },
    },
    { target: svg, eventOptions: { passive: false }, pinch: { pointer: { touch: true } }, drag: { filterTaps: true } },
  );
  const x = (s: number) => ((s - from) / (to - from)) * width;
  const step = steps.find((ms) => (to - from) * 1000 <= ms * 9) ?? 100_000;
  const first = Math.ceil((view.fromS * 1000) / step);
  const ticks = Array.from({ length: Math.max(0, Math.floor((view.toS * 1000) / step) - first + 1) }, (_, i) => (first + i) * step);
  const digits = step >= 1 ? 0 : step >= 0.1 ? 1 : 2;
  const seen = capture.bursts.filter((b) => b.startS < to && b.startS + b.durationS > from);
  const size = Math.max(Math.abs(capture.low), Math.abs(capture.high)) || 1;
  const y = (v: number) => waveTop + (height - waveTop) * (0.5 - (0.47 * v) / size);
  return (
    <figure className={styles.picture}>
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="none"
        tabIndex={0}
        role="img"
        aria-label={`${label}: ${capture.bursts.length} ${capture.bursts.length === 1 ? 'burst' : 'bursts'} in ${(capture.lengthS * 1000).toFixed(0)} ms, ${seen.length} of them shown. Keys + and − zoom, arrows move, 0 shows all.`}
        onKeyDown={(event) => {
          const next = {
            '+': () => zoomed(view, whole, 0.5, 0.5),
            '=': () => zoomed(view, whole, 0.5, 0.5),
            '-': () => zoomed(view, whole, 2, 0.5),
            '0': () => whole,
            ArrowLeft: () => moved(view, whole, -0.2),
            ArrowRight: () => moved(view, whole, 0.2),
          }[event.key];
          if (!next) return;
          event.preventDefault();
          event.stopPropagation();
          onView(next());
        }}
      >
        {seen.map((b) => (
          <rect
            key={b.startS}
            x={x(b.startS)}
            width={Math.max(x(b.startS + b.durationS) - x(b.startS), 3)}
            y={tallyTop}
            height={tallyHeight}
            fill="var(--ink)"
          />
        ))}
        <rect x="0" y={tallyTop + tallyHeight} width={width} height="2" fill="var(--ink)" />
        {drawn && <path d={waveOf(drawn, x, y)} fill="var(--quiet)" stroke="var(--quiet)" strokeWidth="1" vectorEffect="non-scaling-stroke" />}
      </svg>
      <div className={styles.ticks} aria-hidden="true">
        {ticks.map((ms) => (
          <span key={ms} style={{ left: `${(x(ms / 1000 + zeroS) / width) * 100}%` }}>
            {ms.toFixed(digits)}
            {ms === ticks[0] ? ' ms' : ''}
          </span>
        ))}
      </div>
    </figure>
  );
}

/** From the lowest to the highest of each column, there and back. */
function waveOf({ fromS, toS, low, high }: Drawn, x: (s: number) => number, y: (v: number) => number): string {
  const at = (i: number) => x(fromS + ((i + 0.5) * (toS - fromS)) / low.length).toFixed(1);
  const up = Array.from(high, (v, i) => `${at(i)} ${y(v).toFixed(1)}`);
  const down = Array.from(low, (v, i) => `${at(i)} ${y(v).toFixed(1)}`).reverse();
  return `M${up.join('L')}L${down.join('L')}Z`;
}
