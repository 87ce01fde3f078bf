export { adviseCall, type CallAdvice, type CallFacts, priceOf, soundsFrom } from './advise';
export { type CallAnswer, type CallCause, callCauses, type CallQuestion, type CallSheet, questionsFor, type VisitKind } from './callSheet';
export { adviseWith, callSystem, type CallSystem, type Film, immobilizerSays } from './system';
export { soundsWords, toldCaller, type ToldCaller } from './told';
