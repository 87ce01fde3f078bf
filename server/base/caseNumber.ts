/** The number of a case as people read it, of four digits at least. */
export const caseNumber = (id: number): string => String(id).padStart(4, '0');
