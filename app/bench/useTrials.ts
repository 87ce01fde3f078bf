import { useState } from 'react';
import { groupLooks } from '../../core/trials';
import { useKept } from '../ui/useKept';

export interface TrialLook {
  atS: number;
  hit: boolean;
  key: string | null;
  note: string;
}
export interface Counted {
  what: string;
  hit: string;
  looks: TrialLook[];
}
const empty: Counted = { what: 'Antenna coil field at ignition on', hit: 'signal', looks: [] };
/** A system that has no test of the kind has no coil to be asked about either. */
const open: Counted = { what: '', hit: '', looks: [] };

function readKept(kept: unknown): Counted | undefined {
  const c = kept as Counted;
  if (typeof c !== 'object' || typeof c.what !== 'string' || typeof c.hit !== 'string' || !Array.isArray(c.looks) || c.looks.length > 5000)
    return undefined;
  const isLook = (l: unknown): l is TrialLook =>
    typeof l === 'object' &&
    l !== null &&
    typeof (l as TrialLook).hit === 'boolean' &&
    typeof (l as TrialLook).atS === 'number' &&
    typeof (l as TrialLook).note === 'string';
  return c.looks.every(isLook) ? c : undefined;
}

/** What is counted for a case, or without one: the repeat test and the page of field and answer count the same. */
export function useTrials(caseId: number | null, hasTest: boolean) {
  const [counted, setCounted] = useKept<Counted>(`trials.${caseId ?? 'bench'}`, caseId !== null && !hasTest ? open : empty, readKept);
  const [began, setBegan] = useState(0);
  const groups = groupLooks(counted.looks);
  return {
    counted,
    setCounted,
    groups,
    made: groups.reduce((n, g) => n + g.trials, 0),
    hits: groups.reduce((n, g) => n + g.hits, 0),
    look: (isHit: boolean, key: string | null, note: string) => {
      const now = performance.now() / 1000;
      if (counted.looks.length === 0) setBegan(now);
      // After a reload the seconds go on from the last look.
      const last = counted.looks.at(-1)?.atS ?? 0;
      const atS = Math.max(last, Math.round((began > 0 ? now - began : last + 1) * 10) / 10);
      setCounted({ ...counted, looks: [...counted.looks, { atS: counted.looks.length === 0 ? 0 : atS, hit: isHit, key, note }] });
    },
    back: () => setCounted({ ...counted, looks: counted.looks.slice(0, -1) }),
  };
}
