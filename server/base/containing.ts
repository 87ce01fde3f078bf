/** A text that may stand anywhere in a column: signs that the comparison would read as wildcards stand for themselves. */
export const containing = (text: string): string => `%${text.replaceAll('\u0000', '').replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
