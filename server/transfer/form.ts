import type { DocumentBody } from '../../content/reader';
import type { ResolvedParam } from '../../core/library';
import { interruptionPolicies, interruptions, maxReason } from '../../core/procedure';
import {
  anything,
  choice,
  chosenBy,
  either,
  type Field,
  line,
  list,
  needed,
  number,
  optionalLine,
  orElse,
  orNull,
  type Out,
  pattern,
  record,
  shape,
  text,
  verbatim,
  whole,
  yes,
} from '../base/field';
import { hash, pin, tag } from '../base/fields';
import { conclusions } from '../db/schema';
import { lookFields } from '../ledger/forms';
import { batteryFacts, stepResult } from '../runs/forms';
import { by, listFields, moment, person } from './lists';

/** Version of the form of an exported case. A change that older shops could not read raises it. 1: ids of before they were renamed (core/library/renamed.ts). */
export const formVersion = 2;
const formVersions = [1, formVersion] as const;
export const formName = 'bloodstone case';

const id = line(80);
const rows = <R extends Field<unknown>>(row: R, max: number) => needed(list(row).max(max));
const words = needed(record(line(40), either(number(-1e12, 1e12), line(200))));

const remarks = ['questioned', 'early', 'momentUnseen', 'late', 'unmet', 'short', 'over'] as const;
const event = chosenBy(
  'type',
  {
    id: needed(id),
    seq: needed(whole(0, Number.MAX_SAFE_INTEGER)),
    actor: needed(shape({ id: needed(id), name: needed(line(80)) })),
    occurredAt: needed(moment),
    receivedAt: needed(moment),
  },
  {
    started: { keys: needed(list(tag).max(12)) },
    answered: {
      step: needed(id),
      answer: needed(id),
      value: number(-1e12, 1e12),
      note: text(maxReason).allow(''),
      result: stepResult,
      remark: choice(...remarks),
    },
    waived: { step: needed(id), reason: needed(text(maxReason).allow('')) },
    interrupted: {
      step: needed(id),
      what: needed(choice(...interruptions)),
      policy: needed(choice(...interruptionPolicies)),
      note: text(maxReason).allow(''),
    },
    number: { name: needed(line(60)), value: needed(either(number(-1e12, 1e12), line(60))), source: needed(text(maxReason)), confirmed: yes() },
    battery: { facts: needed(batteryFacts) },
    noted: { step: needed(id), note: needed(text(maxReason)), late: yes() },
    retracted: { event: needed(id) },
    stopped: { reason: needed(text(maxReason).allow('')) },
  },
);

/** Everything of an exported case, whole. docs/formats.md tells it in words. */
export const caseForm = shape({
  form: needed(choice(formName)),
  version: needed(choice(...formVersions)),
  exportedAt: needed(verbatim(40).isoDate()),
  people: rows(shape({ id: needed(person), name: needed(line(80)) }), 100),
  documents: rows(
    shape({
      kind: needed(choice('family', 'profile', 'procedure', 'ladder')),
      id: needed(line(60)),
      version: needed(whole(1, Number.MAX_SAFE_INTEGER)),
      hash: needed(hash),
      /** Read as a document of its kind later on (checkCase.ts). */
      body: needed(anything()) as unknown as Field<DocumentBody>,
    }),
    40,
  ),
  case: needed(
    shape({
      uid: needed(verbatim(60).guid()),
      number: needed(line(12)),
      kind: needed(choice('vehicle', 'parts')),
      state: needed(choice('open', 'parked', 'closed')),
      vehicle: optionalLine(120),
      year: needed(orNull(whole(1950, 2100))),
      identification: optionalLine(17),
      plate: optionalLine(16),
      words: needed(text(2000)),
      symptoms: needed(list(line(40)).max(30)),
      complaint: needed(record(line(40), either(number(-1e12, 1e12), either(line(200), list(line(400)).max(30))))),
      condition: words,
      changed: needed(list(shape({ what: needed(line(40)), note: optionalLine(500), on: line(10) })).max(30)),
      family: needed(pin),
      profile: needed(orNull(pin)),
      openedAt: needed(moment),
      openedBy: needed(person),
      closedAt: needed(orNull(moment)),
      closedBy: needed(orNull(person)),
      outcome: needed(orNull(text(4000).allow(''))),
      closing: needed(orNull(choice('done', 'notDone'))),
      // Files of before there were conclusions have none.
      conclusion: orElse(orNull(choice(...conclusions)), null),
      conclusionFault: orElse(orNull(id), null),
      customer: needed(orNull(shape({ name: optionalLine(80), phone: optionalLine(40), erasedAt: needed(orNull(moment)) }))),
    }),
  ),
  ...listFields,
  custody: rows(shape({ tag: needed(tag), act: needed(choice('received', 'returned')), contact: optionalLine(80), ...by }), 400),
  runs: rows(
    shape({
      id: needed(whole(1, Number.MAX_SAFE_INTEGER)),
      procedure: needed(pin),
      /** Read again when the run is gone through (checkCase.ts). */
      params: needed(anything()) as unknown as Field<Record<string, ResolvedParam>>,
      status: needed(choice('running', 'finished', 'stopped')),
      startedAt: needed(moment),
      endedAt: needed(orNull(moment)),
      events: rows(event, 5000).min(1),
    }),
    100,
  ),
  // Files of before security lights were read have none.
  looks: orElse(
    list(
      shape({
        id: needed(id),
        key: needed(orNull(tag)),
        origin: needed(choice('tapped', 'file', 'film', 'eye')),
        file: optionalLine(160),
        ...lookFields,
        ...by,
        readings: rows(
          shape({
            family: needed(pin),
            state: needed(choice('decided', 'pair', 'more', 'unclear')),
            pattern: needed(id),
            p: needed(orNull(number(0, 1))),
            verdict: needed(text(2000)),
            at: needed(moment),
          }),
          50,
        ),
      }),
    ).max(1000),
    [],
  ),
  photos: rows(
    shape({
      file: needed(pattern(/^photos\/[0-9a-f-]{36}\.(jpg|png)$/, 'a file in photos/')),
      key: needed(orNull(tag)),
      caption: optionalLine(120),
      ...by,
    }),
    60,
  ),
});

/** A case as it stands in the file. */
export type CaseFileForm = Out<typeof caseForm>;
export type Pin = Out<typeof pin>;
