import { type ServerProcess, shortIntake } from '../http/process.testing';

/** A run that goes on and on, as its client knows it. */
export interface Run {
  id: number;
  caseId: number;
  /** Length of its events, as its page knows it. */
  seq: number;
  /** Ids of acknowledged commands, in their order. */
  sent: string[];
}
let cars = 0;
/** So many cars in a run that goes on and on. */
export async function startRuns(on: ServerProcess, count: number): Promise<Run[]> {
  const authority = { kind: 'registration', note: 'papers seen' };
  const runs: Run[] = [];
  for (let i = 0; i < count; i += 1) {
    const id = `open-car-${(cars += 1)}`;
    const opened = await on.post('/cases/new', { ...shortIntake, commandId: id, vehicle: `Dunmore Scree, ${cars}`, system: 'family:rearm-fob' });
    const path = opened.headers.get('location')!;
    await on.post(path, { intent: 'authority', commandId: `${id}-seen`, ...authority });
    const started = await on.post(path, { intent: 'startRun', commandId: `${id}-run`, procedure: 'rearm-by-radio' });
    runs.push({
      id: Number(/\/runs\/(\d+)$/.exec(started.headers.get('location') ?? '')![1]),
      caseId: Number(path.split('/').at(-1)),
      seq: 1,
      sent: [],
    });
  }
  return runs;
}
