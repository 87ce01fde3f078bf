import type { Answered } from '../ui/useAct';
import { useEffect, useRef } from 'react';
import { useFetcher, useLocation, useNavigate } from 'react-router';
import type { LaterAct } from '../ui/sending';
import { useActIds } from '../ui/useActIds';
import type { CaseView } from './page';

/** Records a line of the ledger from the page of a case; when it is in, a page that showed something chosen goes back to what is proposed. */
export function useRecord(page: CaseView) {
  const fetcher = useFetcher<Answered>({ key: 'case' });
  const one = useActIds(fetcher);
  const { pathname, search } = useLocation();
  const navigate = useNavigate();
  const sent = useRef(false);
  const address = `/cases/${page.record.id}`;
  const shown = page.record.evidence.length + page.record.repairActions.length;
  const idle = fetcher.state === 'idle';
  const accepted = fetcher.data !== undefined && !('problems' in fetcher.data);
  useEffect(() => {
    if (!idle || !sent.current) return;
    sent.current = false;
    if (accepted && pathname === address && search !== '') void navigate(address, { replace: true, preventScrollReset: true });
  }, [idle, accepted, pathname, search, address, navigate]);
  return {
    busy: !idle,
    /** @param later the same, where it may arrive later */
    send: (fields: Record<string, string | undefined>, later?: LaterAct) => {
      const text = JSON.stringify(fields);
      const send = (commandId: string) => {
        sent.current = true;
        void fetcher.submit({ commandId, ...(JSON.parse(text) as Record<string, string>) }, { method: 'post', action: address });
      };
      // Two answers to one question are one answer, until the page shows that the first was recorded.
      const subject = `${fields.intent} ${fields.test ?? fields.fault ?? ''} ${fields.key ?? ''} ${shown}`;
      one(text, send, { subject, ...(later ? { later: { act: later } } : {}) });
    },
  };
}
