/** What stands on the label of a module, and what a scan tool reads of it. An empty text: nobody told. */
export const variantFields = ['part', 'hardware', 'software', 'digits', 'supplier', 'serial', 'warranty'] as const;
export type VariantField = (typeof variantFields)[number];
export type Variant = Record<VariantField, string>;

export interface Mismatch {
  field: VariantField;
  old: string;
  new: string;
  /** It must not go in before somebody has found it listed as a replacement; others are only worth a look. */
  stops: boolean;
}

/** A part number, a hardware number or the label's digits tell the variant. Software is written by the programming; the same part may have several suppliers. */
const deciding: readonly VariantField[] = ['part', 'hardware', 'digits'];
const compared: readonly VariantField[] = [...deciding, 'software', 'supplier'];

/** Numbers are told with and without blanks, dashes and dots. */
const plain = (text: string) => text.toUpperCase().replaceAll(/[^A-Z0-9]/g, '');

/**
 * In what the part that goes in differs from the one that came out. What nobody told of one of them is not compared. The same serial number on both is a
 * difference too: one of them was read from the wrong part.
 */
export function compareVariants(old: Variant, now: Variant): Mismatch[] {
  const mismatches = compared.flatMap((field): Mismatch[] => {
    const [a, b] = [plain(old[field]), plain(now[field])];
    return a === '' || b === '' || a === b ? [] : [{ field, old: old[field], new: now[field], stops: deciding.includes(field) }];
  });
  const serial = plain(old.serial);
  return serial !== '' && serial === plain(now.serial)
    ? [...mismatches, { field: 'serial', old: old.serial, new: now.serial, stops: true }]
    : mismatches;
}
