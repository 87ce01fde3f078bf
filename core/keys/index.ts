export { type CustodyEntry, heldTags } from './custody';
export { checkFit, type FitRemark, type KeyToFit } from './fit';
export { abilityEntries, type AbilityEntry, gridCell, type GridCell, type GridEvidence, isJudged, latestSeen } from './grid';
