export { type Difference, differencesOf, type SaidTenth, saidTenths } from './differences';
export { type Exchange, type Exchanged, exchangeFile, talliesOf } from './exchange';
export { type Experience, experienceOf, otherShops } from './experience';
export { lessonOfPast, otherShop, type PastCase, pastCases, vehiclesOf } from './history';
export { isOff, type Lesson, lineOf } from './lesson';
export { expectedWithin, type OptionOutcome, outcomesOf } from './outcomes';
export { casesIn, noTallies, type Tallies, tenthOf, withLesson } from './tallies';
export { taughtBy, worthOf } from './worth';
