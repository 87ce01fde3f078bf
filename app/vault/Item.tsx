import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { QRCodeSVG } from 'qrcode.react';
import { useCallback, useState } from 'react';
import { Form } from 'react-router';
import { formatLeft } from '../../core/units';
import { useNow, useReadClock, useTimes } from '../ui/clock';
import type { useAct } from '../ui/useAct';
import { askVault, saveFile } from './ask';
import { kindWords } from './SealForm';
import { ShownPhoto, ShownSecret } from './Shown';
import styles from './vault.module.css';
import type { VaultPage } from './page';

type One = VaultPage['items'][number];
type Acting = ReturnType<typeof useAct>;

/** One sealed item: what it is, what becomes of it, and for whom it may be opened. */
export function Item({ page, item, act }: { page: VaultPage; item: One; act: Acting }) {
  const { day, hm } = useTimes();
  if (item.destroyed)
    return (
      <li data-destroyed="">
        <b>{item.name}</b>
        <span className="quiet">
          {kindWords[item.kind]}, destroyed {day(item.destroyed.at)}, {hm(item.destroyed.at)}: {item.destroyed.why}
        </span>
      </li>
    );
  return (
    <li>
      <b>{item.name}</b>
      <span className="quiet">
        {kindWords[item.kind]}, {item.size} {item.size === 1 ? 'byte' : 'bytes'}
        {item.file && `, ${item.file}`}, sealed by {item.by}, {day(item.at)}, {hm(item.at)}: {item.reason}
      </span>
      {item.digest && <span className="mono quiet">SHA-256 {item.digest}…</span>}
      <span>{becomes(item, day)}</span>
      {page.mayOpen && page.closed === null && page.shut.length === 0 && <Open page={page} item={item} act={act} />}
      {page.mayOpen && page.closed === null && <Ending item={item} act={act} />}
    </li>
  );
}

function becomes(item: One, day: (at: number) => string): string {
  if (item.disposition === 'given') return 'Given to the customer.';
  if (item.disposition === 'kept' && item.keepUntil !== null) return `Kept until ${day(item.keepUntil)}.`;
  return 'Keep, give or destroy: not decided yet.';
}

/** With a reason: shown, copied out, or handed to a second device; by two people where the owner wants that. */
function Open({ page, item, act }: { page: VaultPage; item: One; act: Acting }) {
  const [reason, setReason] = useState('');
  const [problem, setProblem] = useState('');
  const [busy, setBusy] = useState(false);
  const [shown, setShown] = useState<Uint8Array | null>(null);
  const [code, setCode] = useState<string | null>(null);
  const close = useCallback(() => setShown(null), []);
  const released = item.releases.some((r) => r.mine && r.granted);
  const waiting = page.two && !released;
  const ask = async (intent: 'open' | 'copyOut' | 'pass') => {
    setBusy(true);
    setProblem('');
    const answer = await askVault(`/cases/${page.id}/vault/${item.id}`, { intent, reason });
    setBusy(false);
    if ('problem' in answer) return setProblem(answer.problem);
    setReason('');
    if ('address' in answer) setCode(answer.address);
    else if (intent === 'open') setShown(answer.bytes);
    else saveFile(item.file || `${item.name}.txt`, answer.bytes);
  };
  if (shown && item.kind === 'secret') return <ShownSecret bytes={shown} onClose={close} />;
  if (shown && item.kind === 'photo') return <ShownPhoto bytes={shown} name={item.name} onClose={close} />;
  if (code !== null) return <Code address={code} onClose={() => setCode(null)} />;
  return (
    <>
      {item.releases
        .filter((r) => !r.granted)
        .map((r) =>
          r.mine ? (
            <p key={r.id}>You asked for its release. Another lead releases it here.</p>
          ) : (
            <Form key={r.id} className={styles.tools} onSubmit={act.send('grant')}>
              <input type="hidden" name="release" value={r.id} />
              <span>
                {r.by} asks for it: {r.reason}
              </span>
              <Button type="submit" variant="contained">
                Release it to {r.by}
              </Button>
            </Form>
          ),
        )}
      <details>
        <summary>{waiting ? 'Ask for its release' : 'Open it'}</summary>
        <div className={styles.form}>
          <TextField
            label="Why"
            name="reason"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            error={problem !== ''}
            helperText={problem || 'It is in the audit log under your name.'}
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
          <div className={styles.tools}>
            {waiting ? (
              <Button variant="contained" onClick={() => act.sendJson({ intent: 'askRelease', item: item.id, reason })}>
                Ask another lead
              </Button>
            ) : (
              <>
                {item.kind !== 'memory' && (
                  <Button variant="contained" loading={busy} onClick={() => void ask('open')}>
                    Show it here
                  </Button>
                )}
                <Button variant={item.kind === 'memory' ? 'contained' : 'outlined'} loading={busy} onClick={() => void ask('copyOut')}>
                  Save as a file
                </Button>
                <Button variant="outlined" color="inherit" loading={busy} onClick={() => void ask('pass')}>
                  To a second device
                </Button>
              </>
            )}
          </div>
        </div>
      </details>
    </>
  );
}

/** How long a code lives, ms; the server holds to it. */
const codeMs = 2 * 60_000;

/** A code for the camera of a second device, once and for two minutes. */
function Code({ address, onClose }: { address: string; onClose: () => void }) {
  const readClock = useReadClock();
  const [until] = useState(() => readClock() + codeMs);
  const now = useNow();
  return (
    <div className={styles.code}>
      {now < until ? (
        <>
          <QRCodeSVG value={address} size={196} level="M" title="Code for the second device" />
          <p>
            Point the second device’s camera at it, and sign in there as a lead. It works once, for{' '}
            <span className="mono">{formatLeft(until - now)}</span>.
          </p>
        </>
      ) : (
        <p role="status">The code has expired. Make another one if it was not used.</p>
      )}
      <Button color="inherit" onClick={onClose}>
        Done
      </Button>
    </div>
  );
}

/** What becomes of it: kept until a day, given to the customer, or destroyed for good. */
function Ending({ item, act }: { item: One; act: Acting }) {
  const about = `${item.name}: `;
  return (
    <details>
      <summary>Keep, give or destroy</summary>
      <div className={styles.form}>
        <Form className={styles.tools} onSubmit={act.send('dispose')} noValidate>
          <input type="hidden" name="item" value={item.id} />
          <input type="hidden" name="disposition" value="kept" />
          <TextField
            name="keepUntil"
            type="date"
            label="Keep it until"
            error={'keepUntil' in act.errors}
            helperText={act.errors.keepUntil}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <Button type="submit" variant="outlined" aria-label={`${about}keep until that day`}>
            Keep
          </Button>
        </Form>
        <Form onSubmit={act.send('dispose')}>
          <input type="hidden" name="item" value={item.id} />
          <input type="hidden" name="disposition" value="given" />
          <Button type="submit" variant="outlined" aria-label={`${about}given to the customer`}>
            Given to the customer
          </Button>
        </Form>
        <Form className={styles.form} onSubmit={act.send('destroy')} noValidate>
          <input type="hidden" name="item" value={item.id} />
          <TextField
            name="reason"
            label="Why it is destroyed"
            helperText="Its key is removed: it can’t be brought back, not from a backup either."
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
          <Button type="submit" variant="outlined" color="error" sx={{ justifySelf: 'start' }} aria-label={`${about}destroy it for good`}>
            Destroy it for good
          </Button>
        </Form>
      </div>
    </details>
  );
}
