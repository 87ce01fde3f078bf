import Button from '@mui/material/Button';
import { useCallback, useState } from 'react';
import { askVault, saveFile } from './ask';
import { ShownSecret } from './Shown';
import type { Route } from './+types/take';
import styles from './vault.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'From the vault · Bloodstone' }];
export const handle = { place: () => ({ title: 'From the vault', detail: 'to this device' }) };

/** Looking at the address takes nothing: a browser that loads it ahead would use the code up. */
export default function Take({ params }: Route.ComponentProps) {
  const [problem, setProblem] = useState('');
  const [bytes, setBytes] = useState<Uint8Array | null>(null);
  const [gone, setGone] = useState(false);
  const close = useCallback(() => {
    setBytes(null);
    setGone(true);
  }, []);
  const take = async () => {
    setProblem('');
    const answer = await askVault(`/take/${params.token}/now`, { intent: 'take' });
    if ('problem' in answer) return setProblem(answer.problem);
    if ('bytes' in answer) setBytes(answer.bytes);
  };
  return (
    <div className={styles.page}>
      <h1>From the vault to this device</h1>
      {bytes === null && !gone && (
        <>
          <p>What was released on the other device comes here, once. It is in the audit log under your name.</p>
          <Button variant="contained" sx={{ justifySelf: 'start', minHeight: 56 }} onClick={() => void take()}>
            Take it
          </Button>
        </>
      )}
      {problem !== '' && (
        <p role="alert" className={styles.closed}>
          {problem}
        </p>
      )}
      {bytes !== null && (
        <>
          {isTyped(bytes) && <ShownSecret bytes={bytes} onClose={close} />}
          <Button variant="outlined" sx={{ justifySelf: 'start' }} onClick={() => saveFile('from-the-vault.bin', bytes)}>
            Save as a file
          </Button>
        </>
      )}
      {gone && <p role="status">Closed. Make another code on the first device if you need it again.</p>}
    </div>
  );
}

/** What can be shown four characters at a time: a short text of letters and digits. */
const isTyped = (bytes: Uint8Array) => bytes.length <= 2000 && bytes.every((b) => b > 47 && b < 91);
