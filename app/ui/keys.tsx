import { createContext, type ReactNode, useCallback, useContext, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { tinykeys } from 'tinykeys';
import type { Shortcut } from './KeysDialog';
import { later } from './later';

const Dialog = later('KeysDialog', () => import('./KeysDialog'));

interface Registry {
  add(shortcuts: Shortcut[]): () => void;
}
const Keys = createContext<Registry>({ add: () => () => {} });

/**
 * Typing in a field is typing, not a command; a list of choices goes to what begins with the letter; a dialog keeps its keys to itself. Radio buttons
 * and tick boxes take no letters.
 */
function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement && (target.type === 'radio' || target.type === 'checkbox')) return false;
  return (
    target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.closest('[role="dialog"],[role="combobox"],[role="listbox"]') !== null
  );
}

/**
 * Keeps the keys of the screen, and shows them with `?`. They are bound in the same moment in which the screen is drawn (layout effects): a key that is
 * pressed right then is meant for what is seen.
 */
export function KeysProvider({ children }: { children: ReactNode }) {
  const [groups, setGroups] = useState<Shortcut[][]>([]);
  const [open, setOpen] = useState(false);
  const add = useCallback((shortcuts: Shortcut[]) => {
    setGroups((g) => [...g, shortcuts]);
    return () => setGroups((g) => g.filter((other) => other !== shortcuts));
  }, []);
  const registry = useMemo(() => ({ add }), [add]);

  useLayoutEffect(() => {
    const bindings: Record<string, (event: KeyboardEvent) => void> = {
      'Shift+?': (event) => {
        if (isTyping(event.target)) return;
        setOpen(true);
      },
    };
    for (const group of groups) {
      for (const shortcut of group) {
        bindings[shortcut.keys] = (event) => {
          if (isTyping(event.target) || event.repeat) return;
          event.preventDefault();
          shortcut.act();
        };
      }
    }
    return tinykeys(window, bindings);
  }, [groups]);

  return (
    <Keys value={registry}>
      {children}
      <Dialog shown={open} open={open} close={() => setOpen(false)} groups={groups} />
    </Keys>
  );
}

/** Binds keys while the part is shown. `shortcuts` may change with every render; the latest act is called. */
export function useKeys(shortcuts: Shortcut[]): void {
  const { add } = useContext(Keys);
  const latest = useRef(shortcuts);
  useLayoutEffect(() => {
    latest.current = shortcuts;
  });
  const signature = shortcuts.map((s) => `${s.keys}=${s.say}`).join('\n');
  useLayoutEffect(() => {
    const bound = latest.current.map((s) => ({ ...s, act: () => latest.current.find((l) => l.keys === s.keys)?.act() }));
    return add(bound);
  }, [add, signature]);
}
