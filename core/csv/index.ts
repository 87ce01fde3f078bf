export { type CsvLine, csvLines } from './csvLines';
