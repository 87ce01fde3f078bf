import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { AgreementWay, ShownOption, Signature } from '../../core/options';
import { Choice } from '../ui/Choice';
import type { useAct } from '../ui/useAct';
import { later } from '../ui/later';
import { waySays } from './waySays';
import styles from './options.module.css';
import type { useTyped } from './typed';

const SignatureField = later('SignatureField', () => import('./SignatureField'), <p className="quiet">The field for the signature is loading.</p>);

/** What the customer says to the chosen options: agreed with a limit, or nothing more wanted. */
export function Agree({
  d,
  shown,
  typed,
  act,
  money,
}: {
  d: { customer: string; currency: string; diagnosisTotal: number };
  shown: readonly ShownOption[];
  typed: ReturnType<typeof useTyped>;
  act: ReturnType<typeof useAct>;
  money: (amount: number) => string;
}) {
  const { value, set } = typed;
  const [signature, setSignature] = useState<Signature | null>(null);
  const [round, setRound] = useState(0);
  const chosen = shown.filter((o) => value.chosen.includes(o.id));
  const low = chosen.reduce((n, o) => n + o.price.low, 0);
  const high = chosen.reduce((n, o) => n + o.price.high, 0);
  const { busy, said } = act;
  const sent = useRef(false);
  const clear = useEffectEvent(() => {
    typed.clear();
    setSignature(null);
    setRound((n) => n + 1);
  });
  useEffect(() => {
    if (!sent.current || busy || said === '') return;
    sent.current = false;
    clear();
  }, [busy, said]);
  const send = (intent: 'agree' | 'decline') => {
    sent.current = true;
    const { chosen: _, limit, ...rest } = value;
    act.sendJson({
      intent,
      ...rest,
      signature: value.how === 'signature' ? signature : null,
      ...(intent === 'agree' ? { options: chosen.map((o) => o.id), limit, seen: chosen.map((o) => `${o.price.low}-${o.price.high}`).join(' ') } : {}),
    });
  };
  return (
    <section className={styles.agree} aria-labelledby="agree">
      <h2 id="agree">What the customer says</h2>
      {chosen.length === 0 ? (
        <p>Check one or more options above, or write down that nothing more is wanted.</p>
      ) : (
        <div>
          <ul>
            {chosen.map((o) => (
              <li key={o.id}>
                {o.title}: <b>{money(o.price.low)}</b>
              </li>
            ))}
          </ul>
          <p>
            Together {money(low)}
            {high > low && ` to ${money(high)}`}, and the diagnosis so far, {money(d.diagnosisTotal)}.
          </p>
        </div>
      )}
      <div className={styles.two}>
        <TextField
          name="who"
          label="Who says it"
          value={value.who}
          onChange={(e) => set({ who: e.target.value })}
          placeholder={d.customer}
          error={'who' in act.errors}
          helperText={act.errors.who ?? (d.customer ? `Empty: ${d.customer}.` : 'Name or role.')}
          slotProps={{ htmlInput: { maxLength: 80 }, inputLabel: { shrink: true } }}
        />
        <TextField
          name="limit"
          label={d.currency ? `No more than, in ${d.currency}` : 'No more than'}
          value={value.limit}
          onChange={(e) => set({ limit: e.target.value })}
          error={'limit' in act.errors}
          helperText={act.errors.limit ?? 'With tax. Beyond it the customer is asked again. Empty: no limit.'}
          slotProps={{ htmlInput: { maxLength: 20, inputMode: 'decimal' } }}
        />
      </div>
      <div role="radiogroup" aria-label="How" className={styles.effects}>
        {(Object.keys(waySays) as AgreementWay[]).map((how) => (
          <Choice key={how} type="radio" name="how" checked={value.how === how} onChange={() => set({ how })}>
            {waySays[how]}
          </Choice>
        ))}
      </div>
      {value.how === 'signature' ? (
        <div>
          <SignatureField key={round} put={setSignature} />
          {act.errors.signature && <p className={styles.wrong}>{act.errors.signature}</p>}
        </div>
      ) : (
        <TextField
          name="words"
          label={value.how === 'message' ? 'What the message says' : 'What was said'}
          value={value.words}
          onChange={(e) => set({ words: e.target.value })}
          multiline
          minRows={2}
          error={'words' in act.errors}
          helperText={act.errors.words ?? 'In the customer’s words. The time is taken now.'}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      )}
      <div className={styles.row}>
        <Button variant="contained" size="large" disabled={chosen.length === 0} loading={busy} onClick={() => send('agree')}>
          Record the agreement
        </Button>
        <Button variant="outlined" size="large" loading={busy} onClick={() => send('decline')}>
          Nothing more is wanted
        </Button>
      </div>
    </section>
  );
}
