/** A key blade with its resistor chip, from the side that is read; turned over it lies the other way round. Drawn here, of no vehicle. */
export function ResistorKeyDrawing({ turned, second }: { turned: boolean; second: boolean }) {
  return (
    <svg width="150" height="54" viewBox="0 0 150 54" aria-hidden="true">
      <g transform={turned ? 'translate(0 54) scale(1 -1)' : undefined} fill="none" stroke="var(--ink)" strokeWidth="1.6">
        <path d="M48 18H128l8 6v6l-6 4H118l-4-4-6 4-6-5-8 5H48z" fill="var(--surface)" />
        <circle cx="26" cy="27" r="19" fill="var(--raised)" />
        <circle cx="14" cy="27" r="3.5" />
        <rect x={second ? 84 : 60} y="21" width="18" height="10" rx="1.5" fill="var(--raised)" />
        <path d={second ? 'M87 21v-4M99 21v-4' : 'M63 21v-4M75 21v-4'} strokeWidth="3" />
      </g>
    </svg>
  );
}
