/** `steps[2].wait.min` from a list of names and indices. */
export function pathText(path: readonly (string | number)[]): string {
  return path.reduce<string>((text, part) => (typeof part === 'number' ? `${text}[${part}]` : text === '' ? part : `${text}.${part}`), '');
}
