const placeholder = /\{([a-zA-Z][a-zA-Z0-9]*)\}/g;

/** Names in braces inside a text of content, e.g. `key` in "Put tag {key} in". */
export function placeholdersIn(text: string): string[] {
  return [...text.matchAll(placeholder)].map((m) => m[1]!);
}

/** Puts words in place of the names in braces; a name without a word stays as it is, so that a gap is seen and not hidden. */
export function fillText(text: string, words: Readonly<Record<string, string>>): string {
  return text.replace(placeholder, (whole, name: string) => words[name] ?? whole);
}
