import { useEffect, useState } from 'react';
import type * as Found from './found';

type Finding = typeof Found;

/** Time until it is asked for again where it did not come, milliseconds. */
const againMs = 3000;

/** The computation behind the worksheets: null until it is loaded, right after the page. */
export function useFound(): Finding | null {
  const [finding, setFinding] = useState<{ as: Finding } | null>(null);
  useEffect(() => {
    let again: ReturnType<typeof setTimeout> | undefined;
    let over = false;
    const load = () =>
      import('./found').then(
        (as) => !over && setFinding({ as }),
        () => {
          if (!over) again = setTimeout(() => void load(), againMs);
        },
      );
    void load();
    return () => {
      over = true;
      clearTimeout(again);
    };
  }, []);
  return finding?.as ?? null;
}
