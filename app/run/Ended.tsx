import Button from '@mui/material/Button';
import { Link } from 'react-router';
import type { RunView } from '../../core/procedure';
import type { Commands } from './useCommands';
import styles from './run.module.css';

/** A run that is over says how it ended and what follows. */
export function Ended({ shown, caseId, closed, commands }: { shown: RunView; caseId: number; closed: boolean; commands: Commands }) {
  const finished = shown.status === 'finished';
  return (
    <div className={styles.step}>
      <div className={styles.act}>
        <p className={styles.round}>{finished ? 'Finished' : 'Stopped'}</p>
        <h1 className={styles.instruction}>
          {finished ? (closed ? 'Learned.' : 'Learned. Now verify every key.') : (shown.stop?.text ?? 'The run was stopped.')}
        </h1>
        <div className={styles.tools}>
          <Button component={Link} to={finished && !closed ? `/cases/${caseId}/verify` : `/cases/${caseId}`} variant="contained" size="large">
            {closed ? 'Back to the case' : finished ? 'Verify the keys' : 'Back to the case, and diagnose'}
          </Button>
          {shown.takeBack && !closed && (
            <Button
              variant="outlined"
              color="inherit"
              disabled={commands.busy}
              onClick={() => shown.takeBack && commands.send({ type: 'takeBack', event: shown.takeBack.event })}
            >
              Undo “{shown.takeBack.say}”
            </Button>
          )}
        </div>
      </div>
    </div>
  );
}
