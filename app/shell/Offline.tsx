import { useEffect } from 'react';
import { outbox } from '../offline/browser';
import { useKeepPage } from '../offline/kept';

/** What every page does for when there is no connection: it sends what waits, and is kept. */
export function Offline({ person }: { person: string }) {
  useEffect(() => void outbox().start(person), [person]);
  useKeepPage();
  return null;
}
