/** The steering column with the ways it is moved while one measures: tilted, and turned from lock to lock. */
export function ColumnDrawing() {
  return (
    <svg
      viewBox="0 0 220 130"
      width="220"
      height="130"
      fill="none"
      stroke="currentColor"
      strokeWidth="2.5"
      strokeLinecap="round"
      strokeLinejoin="round"
      focusable="false"
      role="img"
      aria-label="Tilt the steering column up and down, turn the wheel from lock to lock"
    >
      <ellipse cx="62" cy="66" rx="22" ry="46" />
      <path d="M62 20v92M40 66h44" />
      <path d="M84 58l104 26v18L84 76z" fill="currentColor" />
      <path d="M22 40a50 60 0 0 0 0 52M16 46l6-7 7 5M16 86l6 7 7-5" />
      <path d="M112 46V22M105 29l7-8 7 8M112 92v24M105 109l7 8 7-8" />
      <path d="M188 93h22M200 86v14" />
    </svg>
  );
}
