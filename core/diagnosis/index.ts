export { assess, type Assessment, type CaseFacts, type EvidenceEntry, type LinkStatus, type Proposal, standing } from './assess';
