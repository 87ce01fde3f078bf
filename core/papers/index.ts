export type { PaperBlock } from './block';
export { type PaperFacts, papersOf, writePapers } from './write';
