export { type Capture, type CaptureReader, mostPacked, mostSamples, Samples, type TimeNote } from './capture';
export { type Baseline, type BurstFeatures, type Compared, compareBursts, featuresOf, likeNone, settledFrom } from './compare';
export {
  agrees,
  type BurstAnswer,
  type BurstCondition,
  burstConditions,
  type BurstRule,
  burstRule,
  type BurstSetup,
  type BurstVerdict,
  burstVerdict,
  conditionName,
  conditionWords,
  knownAmong,
  type KnownCapture,
  sameSetup,
} from './conditions';
export { burstCsvReader } from './csv';
export { type Kernel } from './kernel';
export { type Burst, type Limit, limits, type Measured, measure } from './measure';
export { plainKernel } from './plainKernel';
export { type Columns, Pyramid } from './pyramid';
export { simulatedCapture, type SimulatedCondition, simulatedConditions, simulatedLengthS, simulatedRateHz } from './simulate';
export { type Theory, type TheoryCapture, theoryOf } from './theory';
export { burstWavReader, wavOf } from './wav';
export { type KernelExports, wasmKernel } from './wasmKernel';
