export { type CodesRead, codesRead, communicationCodes, codesReadTest, noneShare } from './finding';
export { type BinaryCode, bytesOfCodes, codeOfBytes, codesOfBytes, twoBytes } from './binary';
export { type CodeOwner, type CodeSystem, readCode, type TroubleCode } from './code';
export { type CodeList, type Relevance, relevances, type Topic } from './documents';
export { explainCode, type ExplainedCode, type ExplainFor } from './explain';
export { type Coverage, coverages } from './coverage';
export { findCodes, mostCharacters } from './find';
export type { FoundCode, FoundCodes, GuessedCode } from './inText';
export { mostExplained, mostScanText } from './limits';
export { type KnownNames, lintCodes } from './lintCodes';
export { type ScannedModule, scannedModules } from './modules';
export {
  compareScans,
  type ComparedScans,
  type CoverageNote,
  coverageNotes,
  type Scan,
  type ScannedCode,
  scanOf,
  whoAnswered,
  whoAnswersTest,
} from './scan';
export { bitsOf, byteOf, type CodeStatus, statusBits, type StatusBit, statusOf } from './status';
export { coverageNoteWords, coverageWords, failureTypes, relevanceWords, scannedWords, statusWords } from './vocabulary';
