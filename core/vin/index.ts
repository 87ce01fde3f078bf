export { checkDigit } from './checkDigit';
export { checkVin, type VinCheck, type VinProblem } from './checkVin';
export { type Misread } from './misread';
