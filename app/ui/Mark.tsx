/** The product's mark: a cut bloodstone, deep green with flecks of red. */
export function Mark({ size = 36 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 48 48" aria-hidden="true" focusable="false">
      <path d="M24 3 39 9l6 14-6 15-15 7-15-6-6-15L9 9z" fill="#1f5c44" />
      <path d="M24 3 9 9l9 9 13-2 8-7zM18 18 3 24l6 15 11-10zM31 16l14 7-6 15-19-9z" fill="#2a7454" />
      <path d="m14 26 4-2 2 3-3 2zM29 30l5-1 1 3-4 2zM27 11h3v3h-3z" fill="#ef4a36" />
    </svg>
  );
}
