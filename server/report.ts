import { abilities, authorityKinds, changes, formatParams, symptoms } from '../core/library';
import { tell, type ToldEvent } from '../core/procedure';
import { grid } from './cases';
import { caseWithRuns, programOf, type RunRecord } from './runs';
import type { Services } from './services';

export interface ReportLine {
  at: number;
  what: string;
  detail: string;
  by: string;
  /** Taken back or withdrawn: stays in the report, struck out. */
  gone: boolean;
  run: boolean;
}

const remarks = {
  questioned: 'early: asked again',
  early: 'before the time was over: noted',
  momentUnseen: 'moment unseen',
  late: 'too late',
  unmet: 'does not meet the requirement',
};
const happened = {
  keyOff: 'the key went off',
  started: 'the engine was started',
  supplyLow: 'the supply got low',
  supplyLost: 'the supply was lost',
  locked: 'the vehicle locked itself',
  left: 'the person had to go away',
};

/** Everything that happened in a case, in order of time, with the figures and where they came from. */
export async function readReport(services: Services, caseId: number) {
  const found = await caseWithRuns(services.database.db, services.documents, caseId);
  if (!found) return undefined;
  const { record, runs } = found;
  const family = await services.documents.family(record.family);
  const profile = record.profile ? await services.documents.profile(record.profile) : undefined;
  const replaced = new Set(record.evidence.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const tests = new Map(family.tests.map((t) => [t.id, t]));
  const lines: ReportLine[] = [
    { at: record.openedAt, what: 'Case opened', detail: record.words, by: record.openedBy, gone: false, run: false },
    ...record.authority.map((a): ReportLine => ({
      at: a.at,
      what: 'Authority seen',
      detail: [authorityKinds[a.kind as keyof typeof authorityKinds], a.note].filter(Boolean).join(': '),
      by: a.by,
      gone: false,
      run: false,
    })),
    ...record.evidence
      .filter((e) => e.runId === null)
      .map((e): ReportLine => {
        const test = tests.get(e.test);
        return {
          at: e.occurredAt,
          what: `${test?.title ?? e.test}${e.key ? `, tag ${e.key}` : ''}`,
          detail: e.outcome === null ? 'withdrawn' : [test?.outcomes[e.outcome]?.say ?? e.outcome, e.note].filter(Boolean).join('. '),
          by: e.by,
          gone: replaced.has(e.id),
          run: false,
        };
      }),
    ...runs.flatMap(runLines),
    ...judgementLines(record.judgements),
    ...(record.closedAt === null
      ? []
      : [{ at: record.closedAt, what: 'Case closed', detail: record.outcome ?? '', by: record.closedBy ?? '', gone: false, run: false }]),
  ].sort((a, b) => a.at - b.at);
  const latest = grid(record);
  return {
    record: { ...record, evidence: undefined, judgements: undefined },
    changed: record.changed.map((c) => changes[c.what as keyof typeof changes] + (c.note ? ` (${c.note})` : '')),
    symptoms: record.symptoms.map((s) => symptoms[s as keyof typeof symptoms]),
    system: {
      title: profile?.title ?? family.title,
      source: (profile ?? family).source,
      checked: (profile ?? family).checked,
      pins: [record.family, ...(record.profile ? [record.profile] : [])],
    },
    keys: record.keys.map((k) => ({ ...k, results: Object.keys(abilities).map((a) => latest.get(`${k.tag} ${a}`)?.result ?? null) })),
    lines,
    runs: runs.map((r) => ({
      id: r.id,
      title: r.procedure.title,
      status: r.status,
      pin: `${r.procedure.id} version ${r.procedure.version}`,
      source: r.procedure.source,
      numbers: formatParams(r.params, r.procedure.params),
    })),
    advice: family.text.advice,
    demo: services.demo,
  };
}

function runLines(r: RunRecord): ReportLine[] {
  return tell(programOf(r.procedure), r.params, r.events).map((told): ReportLine => {
    const { what, detail } = say(r, told);
    return { at: told.event.occurredAt, what, detail, by: told.event.actor.name, gone: told.retracted, run: true };
  });
}

function say(r: RunRecord, { event, instruction, round, said }: ToldEvent): { what: string; detail: string } {
  const what = round && event.type === 'answered' ? `${instruction} (${round})` : instruction;
  switch (event.type) {
    case 'started':
      return { what: r.procedure.title, detail: `Run started with ${event.keys.map((k) => `tag ${k}`).join(', ')}` };
    case 'answered':
      return { what, detail: said + (event.remark ? ` (${remarks[event.remark]})` : '') };
    case 'waived':
      return { what, detail: `Waived: ${event.reason}` };
    case 'interrupted':
      return { what: 'Interrupted', detail: `${happened[event.what]}${event.note ? `: ${event.note}` : ''}` };
    case 'retracted':
      return { what: 'Taken back', detail: 'the act before' };
    case 'stopped':
      return { what: 'Run stopped', detail: event.reason };
  }
}

/** Judgements made in one go are one line a key. */
function judgementLines(judgements: { key: string; ability: string; result: string; by: string; at: number }[]): ReportLine[] {
  const groups = new Map<string, ReportLine>();
  const words: Record<string, string> = { yes: 'yes', no: 'no', cannotJudge: 'cannot be judged' };
  for (const j of judgements) {
    const id = `${j.at} ${j.key}`;
    const said = `${abilities[j.ability as keyof typeof abilities]}: ${words[j.result]}`;
    const line = groups.get(id);
    if (line) line.detail += `, ${said}`;
    else groups.set(id, { at: j.at, what: `Verified, tag ${j.key}`, detail: said, by: j.by, gone: false, run: false });
  }
  return [...groups.values()];
}
