export { expectedLit } from './expected';
export { type LampFeatures, lampFeatures } from './features';
export { lampCsvReader, type LampFileReader, lampVcdReader } from './lampFile';
export { decidedFrom, type LampReading, noneOfThese, readLamp } from './readLamp';
export { firstSeconds, LampRecorder, type LampSample, type Lit, longestLookS, type Recording, recordingOf } from './recording';
export { lampVerdict, seenWords } from './verdict';
