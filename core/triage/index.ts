export { triage, type Triage, type TriageFacts, type TriageKind, type TriageStage } from './triage';
