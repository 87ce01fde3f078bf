export { type Contradiction, contradiction, doubtedBelow } from './contradiction';
export { type Candidate, cantSee, held, heldWithout, type Identification, identify, type Model, modelOf, type Question, type Seen } from './identify';
