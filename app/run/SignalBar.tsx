import Button from '@mui/material/Button';
import { useState } from 'react';
import type { ReserveSaid, RunView } from '../../core/procedure';
import { canSpeak } from '../ui/sounds';
import { useSignals } from './useSignals';
import styles from './run.module.css';

/** How the run is heard on this device, and a test of how loud that is before hands are busy. */
export function SignalBar({ shown, now, alarm }: { shown: RunView; now: number; alarm: ReserveSaid['alarm'] }) {
  const { signals, set, test } = useSignals(shown, now, alarm);
  const [voiceless, setVoiceless] = useState(false);
  const [asked, setAsked] = useState<NotificationPermission | null>(null);
  const toggleVoice = () => {
    if (!canSpeak()) return setVoiceless(true);
    set({ ...signals, voice: !signals.voice });
  };
  if (shown.status !== 'running') return null;
  return (
    <div className={styles.signals} role="group" aria-label="Sound">
      <Button
        variant={signals.tones ? 'contained' : 'outlined'}
        aria-pressed={signals.tones}
        onClick={() => set({ ...signals, tones: !signals.tones })}
      >
        Tones {signals.tones ? 'on' : 'off'}
      </Button>
      <Button variant={signals.voice ? 'contained' : 'outlined'} aria-pressed={signals.voice} onClick={toggleVoice}>
        Voice {signals.voice ? 'on' : 'off'}
      </Button>
      <Button variant="text" onClick={test}>
        Test the volume
      </Button>
      <Button variant="text" onClick={() => void ('Notification' in window ? Notification.requestPermission().then(setAsked) : setAsked('denied'))}>
        Notify me
      </Button>
      {voiceless && <span role="status">This browser has no voice. Tones work.</span>}
      {asked !== null && (
        <span role="status">
          {asked === 'granted' ? 'You are notified when time’s up while another page is in front.' : 'This browser does not allow notifications.'}
        </span>
      )}
    </div>
  );
}
