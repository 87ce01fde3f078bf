import Button from '@mui/material/Button';
import { type ReactNode, useState } from 'react';
import type { LampMoment, TestDefinition } from '../../core/library';
import { Drawn, Said } from '../bench/Drawn';
import { readKeptLook } from '../bench/keptLook';
import { isAmong, type Look } from '../bench/look';
import { momentWords } from '../bench/moments';
import { TapArea } from '../bench/TapArea';
import { momentsOf, useLampReading } from '../bench/useLampReading';
import type { CaseView } from '../cases/page';
import { Choice } from '../ui/Choice';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { useKept } from '../ui/useKept';
import styles from './triage.module.css';

/** The lamp followed by hand in place of picking what it does; and the answer that no list has. */
export function ImmobilizerLamp({ page, test, children }: { page: CaseView; test: TestDefinition; children: ReactNode }) {
  const { record, lamps, system } = page;
  const moments = momentsOf(lamps);
  const [open, setOpen] = useState(false);
  const [moment, setMoment] = useState<LampMoment>(moments.find((m) => m === 'ignition-on') ?? moments[0] ?? 'ignition-on');
  const keys = record.keys.filter((k) => k.present).map((k) => k.tag);
  const [key, setKey] = useState(keys[0] ?? '');
  const [kept, setLook] = useKept<Look | null>(`look.${record.id}`, null, readKeptLook);
  // What was refused stays to be sent again; what the case has is done with.
  const look = isAmong(kept, record.looks) ? null : kept;
  const [seeing, setSeeing] = useState<Look | null>(null);
  const shown = seeing ?? look;
  const reading = useLampReading(lamps, moment, system.family, shown);
  const act = useAct('immobilizerLamp');
  if (moments.length === 0) return children;
  const own = { intent: 'add', case: record.id, moment, ...(key ? { key } : {}) };
  const send = (fields: Record<string, unknown>) => {
    const say = `Case ${record.number}: what the light does${key ? `, tag ${key}` : ''}`;
    // What is kept is not kept here once more.
    act.sendJson({ ...own, ...fields }, '/bench/lamp', { say, kept: () => setLook(null) });
  };
  const tapping = open || shown !== null;
  return (
    <div className={styles.immobilizer}>
      <ProblemSummary errors={act.errors} />
      {act.kept && <p role="status">{act.said}</p>}
      {!tapping && (
        <div className={styles.acts}>
          <Button variant="outlined" onClick={() => setOpen(true)}>
            Not sure: tap along
          </Button>
          <Button variant="outlined" color="inherit" loading={act.busy} onClick={() => send({ origin: 'eye' })}>
            It does none of these
          </Button>
          {children}
        </div>
      )}
      {tapping && (
        <>
          {(moments.length > 1 || (test.perKey && keys.length > 1)) && (
            <div className={styles.keys}>
              {moments.length > 1 &&
                moments.map((m) => (
                  <Choice key={m} type="radio" name="moment" checked={m === moment} onChange={() => setMoment(m)}>
                    {momentWords[m]}
                  </Choice>
                ))}
              {test.perKey &&
                keys.length > 1 &&
                keys.map((tag) => (
                  <Choice key={tag} type="radio" name="tapped with" checked={key === tag} onChange={() => setKey(tag)}>
                    with tag {tag}
                  </Choice>
                ))}
            </div>
          )}
          <TapArea
            moment={moment}
            onSeen={setSeeing}
            onEnd={(seen) => {
              setSeeing(null);
              setLook(seen);
            }}
          />
          {shown && <Drawn look={shown} reading={seeing ? null : reading} />}
          {reading && <Said reading={reading} looking={seeing !== null} />}
          {!seeing && (
            <div className={styles.acts}>
              {look && (
                <Button
                  variant="contained"
                  size="large"
                  loading={act.busy}
                  onClick={() => {
                    send({ ...look });
                    setOpen(false);
                  }}
                >
                  {reading?.means ? 'Record it' : 'Save the observation'}
                </Button>
              )}
              <Button
                variant="outlined"
                color="inherit"
                onClick={() => {
                  setLook(null);
                  setOpen(false);
                }}
              >
                Pick by eye
              </Button>
            </div>
          )}
        </>
      )}
    </div>
  );
}
