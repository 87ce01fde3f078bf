/** Longest report that a page or a form reads, in characters. */
export const mostScanText = 200_000;
/** Most codes that are explained at once. */
export const mostExplained = 200;
