import { contentHash, type DocumentKind, parseBody } from '../../content/reader';
import { type Family, valuesOf } from '../../core/library';
import { compile, fold, type Procedure } from '../../core/procedure';
import type { Problem } from '../../core/units';
import type { CaseFileForm, Pin } from './form';

/** Everything that one part of the file says of another. */
export function nameProblems(form: CaseFileForm): Problem[] {
  const problems: Problem[] = [];
  const people = new Set(form.people.map((p) => p.id));
  const tags = new Set([...form.keys, ...form.parts].map((k) => k.tag));
  const keys = new Set(form.keys.map((k) => k.tag));
  const unknown = (path: string, what: string, name: string) =>
    problems.push({ code: 'unknownName', path, message: `${what} ${JSON.stringify(name)} is not in the file. Export the case again.` });
  const person = (path: string, name: string | null) => name !== null && !people.has(name) && unknown(path, 'Person', name);
  person('case.openedBy', form.case.openedBy);
  person('case.closedBy', form.case.closedBy);
  for (const list of [
    'authority',
    'custody',
    'counters',
    'scans',
    'replacement',
    'offers',
    'states',
    'abilities',
    'identifications',
    'measurements',
    'stepTries',
    'capturesAside',
    'evidence',
    'photos',
  ] as const)
    form[list].forEach((row, i) => person(`${list}[${i}].by`, row.by));
  form.custody.forEach((row, i) => !tags.has(row.tag) && unknown(`custody[${i}].tag`, 'Tag', row.tag));
  for (const list of ['abilities', 'measurements', 'evidence', 'photos'] as const)
    form[list].forEach((row, i) => row.key !== null && !keys.has(row.key) && unknown(`${list}[${i}].key`, 'Key', row.key));
  form.capturesAside.forEach(
    (row, i) => !form.measurements.some((m) => m.id === row.id) && unknown(`capturesAside[${i}].id`, 'A measurement', row.id),
  );
  const runs = new Set(form.runs.map((r) => r.id));
  const lines = new Set<string>();
  form.evidence.forEach((row, i) => {
    if (row.run !== null && !runs.has(row.run)) unknown(`evidence[${i}].run`, 'Run', String(row.run));
    if (row.replaces !== null && !lines.has(row.replaces)) unknown(`evidence[${i}].replaces`, 'An earlier line', row.replaces);
    if (row.look !== null && !form.looks.some((l) => l.id === row.look)) unknown(`evidence[${i}].look`, 'An observation of the light', row.look);
    if (row.measurement !== null && !form.measurements.some((m) => m.id === row.measurement))
      unknown(`evidence[${i}].measurement`, 'A measurement', row.measurement);
    if (row.kind !== 'test' && row.outcome !== null && !['works', 'fails', 'done'].includes(row.outcome))
      problems.push({ code: 'unknownName', path: `evidence[${i}].outcome`, message: 'A repair works, fails or is done. Export the case again.' });
    lines.add(row.id);
  });
  const twice = (list: string, ids: (string | number)[]) => {
    if (new Set(ids).size !== ids.length)
      problems.push({ code: 'twice', path: list, message: `An id appears twice in ${list}. Export the case again.` });
  };
  twice(
    'keys',
    [...form.keys, ...form.parts].map((k) => k.tag),
  );
  for (const list of ['evidence', 'looks', 'measurements', 'stepTries', 'capturesAside', 'runs'] as const)
    twice(
      list,
      form[list].map((row) => row.id),
    );
  twice(
    'evidence',
    form.evidence.map((e) => e.seq),
  );
  twice(
    'runs',
    form.runs.flatMap((r) => r.events.map((e) => e.id)),
  );
  if ((form.case.state === 'closed') !== (form.case.closedAt !== null && form.case.closedBy !== null))
    problems.push({
      code: 'state',
      path: 'case.closedAt',
      message: 'A closed case has a time and a person of closing, an open one has neither. Export the case again.',
    });
  return problems;
}

/** Pinned documents are there, are what their hash says, and can be read. */
export function documentProblems(form: CaseFileForm): Problem[] {
  const problems: Problem[] = [];
  const there = new Set(form.documents.map((d) => `${d.kind} ${d.id} ${d.version} ${d.hash}`));
  const pinned: [string, DocumentKind, Pin][] = [
    ['case.family', 'family', form.case.family],
    ...(form.case.profile ? [['case.profile', 'profile', form.case.profile] as [string, DocumentKind, Pin]] : []),
    ...form.identifications.flatMap((x, i): [string, DocumentKind, Pin][] => [
      [`identifications[${i}].family`, 'family', x.family],
      ...(x.profile ? [[`identifications[${i}].profile`, 'profile', x.profile] as [string, DocumentKind, Pin]] : []),
    ]),
    ...form.measurements.flatMap((m, i): [string, DocumentKind, Pin][] =>
      'ladder' in m.raw ? [[`measurements[${i}].raw.ladder`, 'ladder', m.raw.ladder]] : [],
    ),
    ...form.stepTries.map((t, i): [string, DocumentKind, Pin] => [`stepTries[${i}].ladder`, 'ladder', t.ladder]),
    ...form.runs.map((r, i): [string, DocumentKind, Pin] => [`runs[${i}].procedure`, 'procedure', r.procedure]),
  ];
  for (const [path, kind, { id, version, hash }] of pinned)
    if (!there.has(`${kind} ${id} ${version} ${hash}`))
      problems.push({ code: 'documentMissing', path, message: `${kind} "${id}" version ${version} is not in the file. Export the case again.` });
  form.documents.forEach((d, i) => {
    const path = `documents[${i}]`;
    if (contentHash(d.body) !== d.hash)
      problems.push({
        code: 'hash',
        path,
        message: `${d.kind} "${d.id}" version ${d.version} was changed since it was exported. Export the case again.`,
      });
    try {
      parseBody(d.kind, d.body);
    } catch (error) {
      problems.push({ code: 'document', path, message: (error as Error).message });
    }
  });
  return problems;
}

/** What was found and done must be what the case's system has: a page that shows it could not name it otherwise. */
export function findingProblems(form: CaseFileForm): Problem[] {
  const families = new Map(form.documents.flatMap((d) => (d.kind === 'family' ? [[d.hash, parseBody('family', d.body) as Family] as const] : [])));
  return form.evidence.flatMap((row, i): Problem[] => {
    const say = (field: string, what: string, name: string): Problem[] => [
      {
        code: 'unknownName',
        path: `evidence[${i}].${field}`,
        message: `${what} ${JSON.stringify(name)} is not in the file’s system type. Export the case again.`,
      },
    ];
    const family = families.get(row.familyHash);
    if (!family) return say('familyHash', 'System', row.familyHash.slice(0, 12));
    if (row.kind !== 'test') return (family.faults ?? []).some((f) => f.id === row.test) ? [] : say('test', 'Fault', row.test);
    const test = family.tests.find((t) => t.id === row.test);
    if (!test) return say('test', 'Test', row.test);
    return row.outcome === null || Object.hasOwn(test.outcomes, row.outcome) ? [] : say('outcome', 'Outcome', row.outcome);
  });
}

/** A run's events must be possible ones: they are gone through as the page would. */
export function replayProblems(form: CaseFileForm): Problem[] {
  return form.runs.flatMap((r, i): Problem[] => {
    const found = form.documents.find((d) => d.kind === 'procedure' && d.hash === r.procedure.hash);
    try {
      if (r.events[0]?.type !== 'started' || r.events.some((e, n) => e.seq !== n)) throw new Error('order');
      fold(compile(parseBody('procedure', found!.body) as Procedure), valuesOf(r.params), r.events);
      return [];
    } catch {
      return [{ code: 'events', path: `runs[${i}].events`, message: 'These events can’t have happened in this procedure. Export the case again.' }];
    }
  });
}
