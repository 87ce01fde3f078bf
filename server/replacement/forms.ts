import { causeAnswers, moduleNames, origins, savables, savedAnswers, stepAnswers, variantFields } from '../../core/replacement';
import { choice, flag, line, list, many, maybe, needed, number, optionalLine, orElse, pattern, record, shape } from '../base/field';
import { parseForm } from '../base/parseForm';

/** Forms of the work after a replacement. */

const named = <const N extends readonly string[]>(names: N) => Object.fromEntries(names.map((n) => [n, n])) as { [K in N[number]]: K };
const part = needed(choice(...moduleNames));
const reason = needed(line(300));
const note = optionalLine(300);
/** Most tools that a plan names. */
const mostTools = 20;
export const stepId = pattern(/^[a-zA-Z][A-Za-z0-9]{0,59}(\.[a-z]{1,20})?$/, 'a step such as readOld.engine');
export const checkId = pattern(/^[a-zA-Z][A-Za-z0-9]{0,59}$/, 'a check such as grounds');

const planForm = {
  replaced: needed(record(choice(...moduleNames), choice(...origins))),
  installed: many(named(moduleNames)),
  unread: many(named(moduleNames)),
  tools: orElse(list(line(60)).max(mostTools), []),
  byHand: flag(),
};
export const parsePlanForm = (data: unknown) => parseForm(planForm, data);
export type PlanForm = ReturnType<typeof parsePlanForm>;

const endForm = { reason };
export const parseEndForm = (data: unknown) => parseForm(endForm, data);

/** Moment of a photo of the case, ms. */
export const photoMoment = number(0, 1e15);

/** Numbers of a part. Those that tell its variant are typed twice, or stand on a photo of the case. */
export const variantShape = shape(
  Object.fromEntries(variantFields.map((field) => [field, optionalLine(60)])) as Record<
    (typeof variantFields)[number],
    ReturnType<typeof optionalLine>
  >,
);
export const twice = ['part', 'hardware', 'digits'] as const;
const variantForm = {
  part,
  side: needed(choice('old', 'new')),
  numbers: needed(variantShape),
  again: orElse(record(choice(...twice), maybe(line(60))), {}),
  photo: maybe(photoMoment),
};
export const parseVariantForm = (data: unknown) => parseForm(variantForm, data);
export type VariantForm = ReturnType<typeof parseVariantForm>;

const fitsForm = { part, reason };
export const parseFitsForm = (data: unknown) => parseForm(fitsForm, data);

const savedForm = { part, answers: orElse(record(choice(...savables), choice(...savedAnswers)), {}), note };
export const parseSavedForm = (data: unknown) => parseForm(savedForm, data);
export type SavedForm = ReturnType<typeof parseSavedForm>;

const causesForm = { part, answers: orElse(record(checkId, choice(...causeAnswers)), {}), note };
export const parseCausesForm = (data: unknown) => parseForm(causesForm, data);
export type CausesForm = ReturnType<typeof parseCausesForm>;

const stepForm = { step: needed(stepId), answer: needed(choice(...stepAnswers)), note };
export const parseStepForm = (data: unknown) => parseForm(stepForm, data);
export type StepForm = ReturnType<typeof parseStepForm>;
