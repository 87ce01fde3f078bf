import { setPriority } from 'node:os';
import workerpool from 'workerpool';
import { answer } from '../reading/answer';
import type { Paper } from '../reading/paper';
import { readings } from './readings';

/** The process that reads files: pages come first on a machine with few cores. */
try {
  setPriority(10);
} catch {
  // Where the system does not allow it, reading is as urgent as pages.
}

workerpool.worker({
  yaml: (text: string) => answer(() => readings.yaml(text)),
  // Between processes a buffer arrives as plain bytes.
  caseFile: (file: Uint8Array) => answer(() => readings.caseFile(new Uint8Array(file))),
  learned: (text: string) => answer(() => readings.learned(text)),
  paper: (paper: Paper) => answer(() => readings.paper(paper)),
  photo: (file: Uint8Array) => answer(() => readings.photo(new Uint8Array(file))),
});
