/** The version that the address asks for, or the newest; undefined when there is none. */
export function askedVersion<T extends { pin: { version: number } }>(versions: readonly T[], asked: string | null): T | undefined {
  return asked === null ? versions[0] : versions.find((v) => String(v.pin.version) === asked);
}
