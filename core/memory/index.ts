export { compareReads, type ReadsCompared, type ReadsSay } from './compareReads';
export { byteCount, type MemoryImage, mostBytes, readRaw, writeRaw } from './image';
export { readIntelHex, writeIntelHex } from './intelHex';
export { formOf, type MemoryForm, mostFileBytes, readMemory } from './readMemory';
export { readSRecord, writeSRecord } from './sRecord';
