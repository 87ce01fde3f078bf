export { type Bill, billedMinutes, type BillEntry, type BillLine, billOf, priceOf } from './bill';
export {
  bookAt,
  bookHeader,
  type ItemKind,
  itemKinds,
  itemsCsv,
  parseItems,
  type PriceBook,
  type PriceItem,
  type PriceVersion,
  readTax,
  taxText,
} from './book';
export { type Amount, amountText, type Decimals, formatAmount, mostAmount, readAmount, shareOf } from './money';
