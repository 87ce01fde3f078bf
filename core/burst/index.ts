export { type Capture, type CaptureReader, mostSamples, Samples, type TimeNote } from './capture';
export { burstCsvReader } from './csv';
export { type Burst, type Limit, limits, type Measured, measure } from './measure';
export { burstWavReader } from './wav';
