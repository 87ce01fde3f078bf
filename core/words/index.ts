export { type Found, oldWordsIn } from './oldWords';
export { type Sentence, sentencesOfContent } from './sentences';
export { midSentence } from './midSentence';
