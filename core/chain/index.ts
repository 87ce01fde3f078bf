export { combineKeys, combineStatements, type LinkState, linkStates } from './state';
