import { useEffect } from 'react';

/**
 * A doubled click is one click: its second one would land on whatever the first brought under the finger, such as the next step's answer. What is meant to be
 * tapped quickly, such as a count, stands in an element with `data-rapid`.
 */
export function useOneClick(): void {
  useEffect(() => {
    const second = (event: MouseEvent) => {
      const target = event.target as Element;
      if (event.detail < 2 || target.closest('[data-rapid]') || !target.closest('button, a[href], [role=button], [role=menuitem]')) return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('click', second, true);
    return () => window.removeEventListener('click', second, true);
  }, []);
}
