export { align, type Compared, compareEntries, type Difference, type DifferenceKind, mostDifferences } from './compare';
export { type ByteRange, type BytesCompared, compareBytes } from './bytes';
export { confusable } from './confusable';
export { shortDigest } from './digest';
export { type Alphabet, alphabets, alphabetWords, type Entry, type Form, groupsOfFour, longestEntry, readEntry } from './entry';
export { spokenGroup } from './spoken';
export { copyVerdict, differenceWords } from './verdict';
