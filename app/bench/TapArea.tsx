import { useEffect, useRef, useState } from 'react';
import type { LampMoment } from '../../core/library';
import { useKeys } from '../ui/keys';
import { atMoment, countMs, type Look, lookAt, mostMs, tap, type Tapping } from './look';
import styles from './bench.module.css';

/** What is done at the moment from which a lamp is watched. */
const acts: Record<LampMoment, string> = {
  'key-out': 'Take the key out at zero.',
  'key-in': 'Put the key in at zero.',
  'ignition-on': 'Turn the ignition on at zero.',
  'after-attempt': 'Let go of the start at zero.',
};

/**
 * Follows a lamp by hand: a count, then held while it is lit, with space, mouse or finger. Nothing large changes with each tap: the lamp may flash
 * four times a second, and so would the page.
 */
export function TapArea({
  moment,
  act,
  onSeen,
  onEnd,
}: {
  moment: LampMoment;
  /** What is done at zero, where it is something else than usual. */
  act?: string;
  onSeen: (look: Look | null) => void;
  onEnd: (look: Look) => void;
}) {
  const does = act ?? acts[moment];
  const [state, setState] = useState<Tapping>({ phase: 'idle' });
  const [now, setNow] = useState(0);
  const area = useRef<HTMLButtonElement>(null);
  const latest = useRef(state);
  const change = (to: Tapping) => {
    latest.current = to;
    setState(to);
  };
  const begin = () => {
    const at = performance.now();
    setNow(at);
    onSeen(null);
    change({ phase: 'counting', startsAt: at + countMs });
    area.current?.focus();
  };
  const end = () => {
    const look = lookAt(atMoment(latest.current, performance.now()), performance.now());
    change({ phase: 'idle' });
    if (look) onEnd(look);
  };
  const hold = (lit: boolean) => change(tap(latest.current, lit, performance.now()));
  const handlers = useRef({ end, hold, onSeen });
  useEffect(() => {
    handlers.current = { end, hold, onSeen };
  });

  const running = state.phase !== 'idle';
  useEffect(() => {
    if (!running) return;
    let told = -1;
    const timer = setInterval(() => {
      const at = performance.now();
      latest.current = atMoment(latest.current, at);
      setState(latest.current);
      setNow(at);
      if (latest.current.phase !== 'looking') return;
      const second = Math.floor((at - latest.current.startedAt) / 1000);
      if (at - latest.current.startedAt >= mostMs) handlers.current.end();
      // Reading anew costs something; once a second is often enough to say when it is decided.
      else if (second !== told) handlers.current.onSeen(lookAt(latest.current, at));
      told = second;
    }, 250);
    const isElsewhere = (target: EventTarget | null) =>
      target instanceof HTMLElement &&
      target !== area.current &&
      target.closest('button,a,input,select,textarea,[role="dialog"],[role="combobox"]') !== null;
    const key = (lit: boolean) => (event: KeyboardEvent) => {
      if (event.code !== 'Space' || isElsewhere(event.target)) return;
      event.preventDefault();
      if (!event.repeat) handlers.current.hold(lit);
    };
    const [down, up] = [key(true), key(false)];
    // A finger or key that is let go outside the page is let go.
    const away = () => handlers.current.hold(false);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', away);
    return () => {
      clearInterval(timer);
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', away);
    };
  }, [running]);
  useKeys(
    running
      ? [{ keys: 'Enter', shown: 'Enter', say: 'stop watching', act: end }]
      : [{ keys: 't', shown: 't', say: 'tap along with the light: hold Space while it is lit', act: begin }],
  );

  const counted = state.phase === 'counting' ? Math.max(1, Math.ceil((state.startsAt - now) / 1000)) : null;
  const seconds = state.phase === 'looking' ? Math.max(0, now - state.startedAt) / 1000 : 0;
  return (
    <div className={styles.tap}>
      <button
        ref={area}
        type="button"
        className={styles.area}
        data-phase={state.phase}
        onClick={() => !running && begin()}
        onPointerDown={(event) => {
          if (state.phase !== 'looking') return;
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          hold(true);
        }}
        onPointerUp={() => hold(false)}
        onPointerCancel={() => hold(false)}
        onContextMenu={(event) => running && event.preventDefault()}
      >
        <span className={styles.bulb} data-lit={(state.phase === 'looking' && state.down) || undefined} aria-hidden="true" />
        {state.phase === 'idle' && (
          <span>
            <b>Tap along</b>
            <small>{does} Then hold this button, or the space bar, while the light is lit.</small>
          </span>
        )}
        {counted !== null && (
          <span>
            <b className={styles.counted}>{counted}</b>
            <small>{does}</small>
          </span>
        )}
        {state.phase === 'looking' && (
          <span>
            <b>Hold while it is lit</b>
            <small className="mono" role="timer" aria-label="Watched for">
              {seconds.toFixed(0)} s
            </small>
          </span>
        )}
      </button>
      {running && (
        <button type="button" className={styles.end} onClick={end}>
          <span className="keycap" aria-hidden="true">
            Enter
          </span>
          {state.phase === 'looking' ? 'Stop watching' : 'Cancel'}
        </button>
      )}
    </div>
  );
}
