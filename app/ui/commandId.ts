/** A fresh id for one act. Works on plain http too, where the browser has no randomUUID. */
export function newCommandId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');
}
