import type { ReactNode } from 'react';

/** The frame of a drawing: decoration beside words that say the same, unless it has a title of its own. */
export function Drawing({ children, title, width = 96 }: { children: ReactNode; title?: string | undefined; width?: number | undefined }) {
  return (
    <svg
      viewBox="0 0 96 56"
      width={width}
      height={(width * 56) / 96}
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
      strokeLinecap="round"
      strokeLinejoin="round"
      focusable="false"
      style={{ flex: 'none' }}
      {...(title === undefined ? { 'aria-hidden': true } : { role: 'img', 'aria-label': title })}
    >
      {children}
    </svg>
  );
}
