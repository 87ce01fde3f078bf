import type { ReserveSaid } from './reserve';
import { sentences } from './sentences';
import type { RunView } from './view';

/**
 * What is to be heard at a moment. Tones: `next` another instruction; `soon` a time is nearly up; `due` it is up, somebody is wanted; `limit` a limit is
 * passed; `tick` one more second of what is held or has to be done in time.
 */
export interface Cue {
  tone: 'next' | 'soon' | 'due' | 'limit' | 'tick';
  /** Said by a voice, where there is one. */
  say: string;
}

/** What the page knew when it listened last. */
export interface Heard {
  /** Which instruction it was: step, round and key. */
  at: string;
  running: boolean;
  /** Until when it had to last at least. */
  least: number | undefined;
  /** The battery was about to be no longer enough. */
  alarmed: boolean;
  /** Milliseconds of the shop's clock. */
  now: number;
}

/** When the battery is about to be no longer enough, and what is said then. */
export type Alarm = ReserveSaid['alarm'];

/** How long before its end a wait is announced, ms; only waits longer than twice that are. */
const soonMs = 10_000;
/** The last seconds of a limit are counted aloud. */
const lastSeconds = 5;

export const heardNow = (shown: RunView, now: number, alarm?: Alarm): Heard => ({
  at: `${shown.step} ${shown.round ?? ''} ${shown.key}`,
  running: shown.status === 'running',
  least: shown.wait?.kind === 'least' ? shown.wait.until : undefined,
  alarmed: alarm !== undefined && alarm.at <= now,
  now,
});

/**
 * What is to be heard since the page listened last. A page that slept hears what is so now, not everything that it missed: of the seconds only the last.
 * @param heard null when it listens for the first time
 * @param shown the run at `now`
 * @param now milliseconds of the shop's clock
 */
export function cuesOf(heard: Heard | null, shown: RunView, now: number, alarm?: Alarm): Cue[] {
  if (!heard) return [];
  const low: Cue[] = alarm && !heard.alarmed && alarm.at <= now && shown.status === 'running' ? [{ tone: 'limit', say: alarm.say }] : [];
  return [...low, ...cuesOfStep(heard, shown, now)];
}

function cuesOfStep(heard: Heard, shown: RunView, now: number): Cue[] {
  const here = heardNow(shown, now);
  if (!here.running) return heard.running ? [{ tone: shown.stop ? 'limit' : 'due', say: shown.stop?.text ?? sentences.finishedAloud }] : [];
  if (heard.at !== here.at) return [{ tone: 'next', say: shown.instruction }];
  const { wait } = shown;
  if (!wait) return [];
  const passed = (moment: number | undefined) => moment !== undefined && heard.now < moment && moment <= now;
  if (passed(wait.redAt) || passed(wait.amberAt)) return [{ tone: 'limit', say: shown.warning ?? shown.instruction }];
  const holding = shown.answers.some((a) => a.id === 'release');
  // A hold that lasted long enough counts on to its longest time; that it was enough is what matters.
  if (holding && passed(heard.least)) return [{ tone: 'due', say: sentences.letGoAloud }];
  if (wait.kind === 'most') {
    if (passed(wait.until)) return [{ tone: 'limit', say: shown.warning ?? sentences.tooLateAloud }];
    const left = Math.ceil((wait.until - now) / 1000);
    const counted = !holding && left >= 1 && left <= lastSeconds && left < Math.ceil((wait.until - heard.now) / 1000);
    return counted ? [{ tone: 'tick', say: String(left) }] : [];
  }
  if (holding) {
    const whole = (moment: number) => Math.floor((moment - wait.startedAt) / 1000);
    return now < wait.until && whole(now) >= 1 && whole(now) > whole(heard.now) ? [{ tone: 'tick', say: String(whole(now)) }] : [];
  }
  if (passed(wait.until)) return [{ tone: 'due', say: sentences.timeUpAloud }];
  return wait.until - wait.startedAt > 2 * soonMs && passed(wait.until - soonMs) ? [{ tone: 'soon', say: sentences.soonAloud }] : [];
}
