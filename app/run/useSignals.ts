import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { type Cue, cuesOf, type Heard, heardNow, type ReserveSaid, type RunView } from '../../core/procedure';
import { formatLeft } from '../../core/units';
import { allowSounds, playTone, speak, vibrateFor } from '../ui/sounds';

/** What a run may be heard by on this device. */
export interface Signals {
  tones: boolean;
  voice: boolean;
}
const box = 'bloodstone.signals';
const silent: Signals = { tones: false, voice: false };

function keptSignals(): Signals {
  try {
    const kept = JSON.parse(localStorage.getItem(box) ?? 'null') as Partial<Signals> | null;
    return { tones: kept?.tones === true, voice: kept?.voice === true };
  } catch {
    return silent;
  }
}

/** Nothing that a page hears changes it: what is kept is read once. */
const unchanging = () => () => {};

/**
 * Tones, voice, vibration, the page's title and a notice of the system for a run that is followed with the hands busy, and a screen that stays awake
 * while a time runs. Nothing sounds before this page was touched.
 */
export function useSignals(shown: RunView, now: number, alarm: ReserveSaid['alarm']) {
  const kept = useSyncExternalStore(
    unchanging,
    () => localStorage.getItem(box) ?? '',
    () => '',
  );
  const [chosen, choose] = useState<Signals | null>(null);
  const signals = chosen ?? (kept === '' ? silent : keptSignals());
  const heard = useRef<Heard | null>(null);

  useEffect(() => {
    const cues = cuesOf(heard.current, shown, now, alarm);
    heard.current = heardNow(shown, now, alarm);
    for (const cue of cues) sound(cue, signals);
  });

  // What was chosen on an earlier page sounds again from the first touch on.
  useEffect(() => {
    if (!signals.tones && !signals.voice) return;
    const touched = () => allowSounds();
    window.addEventListener('pointerdown', touched, { once: true });
    window.addEventListener('keydown', touched, { once: true });
    return () => {
      window.removeEventListener('pointerdown', touched);
      window.removeEventListener('keydown', touched);
    };
  }, [signals.tones, signals.voice]);

  useTitle(shown, now);
  useAwake(shown.status === 'running' && shown.wait !== undefined);

  const set = (to: Signals) => {
    localStorage.setItem(box, JSON.stringify(to));
    choose(to);
    allowSounds();
  };
  return {
    signals,
    set,
    /** One tone and one sentence as loud as they will be. */
    test: () => {
      allowSounds();
      sound({ tone: 'due', say: 'This is how loud it is.' }, { tones: true, voice: signals.voice });
    },
  };
}

function sound(cue: Cue, { tones, voice }: Signals): void {
  // A count is spoken or beeps, never both at once.
  if (tones && !(voice && cue.tone === 'tick')) {
    playTone(cue.tone);
    vibrateFor(cue.tone);
  }
  if (voice) speak(cue.say);
  const wanted = cue.tone === 'due' || cue.tone === 'limit';
  if (wanted && document.hidden && 'Notification' in window && Notification.permission === 'granted')
    new Notification('Bloodstone', { body: cue.say, tag: 'run' });
}

/** The time that is left, where it can be read while another page is in front. */
function useTitle(shown: RunView, now: number): void {
  const left = shown.status === 'running' && shown.wait ? Math.ceil((shown.wait.until - now) / 1000) : null;
  const title = left === null ? null : `${left > 0 ? formatLeft(left * 1000) : 'Time’s up'} · ${shown.instruction}`;
  const plain = useRef<string | null>(null);
  const own = useRef<string | null>(null);
  useEffect(() => {
    plain.current ??= document.title;
    own.current = document.title = title ?? plain.current;
  }, [title]);
  useEffect(
    () => () => {
      // The page that is gone to may have written its own already.
      if (plain.current !== null && document.title === own.current) document.title = plain.current;
    },
    [],
  );
}

/** Keeps the screen on while a time runs, where the browser can; a page that comes to the front again asks once more. */
function useAwake(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let held: WakeLockSentinel | null = null;
    let over = false;
    const ask = async () => {
      if (document.visibilityState !== 'visible') return;
      // Refused on a nearly empty battery, for one: the run goes on without it.
      const got = await navigator.wakeLock.request('screen').catch(() => null);
      if (over) void got?.release();
      else held = got;
    };
    const again = () => void ask();
    void ask();
    document.addEventListener('visibilitychange', again);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', again);
      void held?.release();
    };
  }, [wanted]);
}
