import type { Cue } from '../../core/procedure';

/** A tone: how high (Hz), how long (s), how often, and what a phone does with it (ms on, off, on …). */
const tones: Readonly<Record<Cue['tone'], { hz: number; s: number; times: number; vibrates: number[] }>> = {
  tick: { hz: 880, s: 0.06, times: 1, vibrates: [] },
  next: { hz: 660, s: 0.12, times: 1, vibrates: [60] },
  soon: { hz: 740, s: 0.12, times: 2, vibrates: [80, 80, 80] },
  due: { hz: 988, s: 0.22, times: 3, vibrates: [200, 100, 200, 100, 200] },
  limit: { hz: 440, s: 0.4, times: 3, vibrates: [400, 150, 400, 150, 400] },
};
/** Between two sounds of one tone, seconds. */
const gapS = 0.1;
const loudness = 0.5;

let audio: AudioContext | null = null;

/** A browser lets a page sound only after somebody touched it; this is called from such a touch. */
export function allowSounds(): void {
  audio ??= new AudioContext();
  void audio.resume();
}

export function playTone(tone: Cue['tone']): void {
  if (audio?.state !== 'running') return;
  const { hz, s, times } = tones[tone];
  for (let i = 0; i < times; i += 1) {
    const from = audio.currentTime + i * (s + gapS);
    const oscillator = audio.createOscillator();
    const gain = audio.createGain();
    oscillator.frequency.value = hz;
    gain.gain.setValueAtTime(0, from);
    // Without a click at its ends.
    gain.gain.linearRampToValueAtTime(loudness, from + 0.01);
    gain.gain.setValueAtTime(loudness, from + s - 0.01);
    gain.gain.linearRampToValueAtTime(0, from + s);
    oscillator.connect(gain).connect(audio.destination);
    oscillator.start(from);
    oscillator.stop(from + s);
  }
}

export const vibrateFor = (tone: Cue['tone']): void => {
  const { vibrates } = tones[tone];
  if (vibrates.length > 0) navigator.vibrate?.(vibrates);
};

export const canSpeak = (): boolean => 'speechSynthesis' in window;

/** What is said replaces what was being said: late words are worse than none. */
export function speak(text: string): void {
  if (!canSpeak()) return;
  window.speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(text);
  words.lang = 'en-US';
  window.speechSynthesis.speak(words);
}
