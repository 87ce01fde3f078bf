export { assessTrials, mostTrials, type TrialsAsked, type TrialsAssessed } from './assess';
export { type Counted, differByChance } from './compare';
export { groupLooks } from './looks';
export { type TrialGroup, type TrialsSaid, trialsVerdict } from './verdict';
