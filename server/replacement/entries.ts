import { gates } from '../../core/library';
import { causeAnswers, doerWords, moduleNames, origins, places, savables, savedAnswers, stages, stepAnswers, wayWords } from '../../core/replacement';
import { choice, chosenBy, line, list, needed, number, oneOf, optionalLine, orElse, pattern, record, shape, yes, yesNo } from '../base/field';
import { checkId, stepId, variantShape, photoMoment } from './forms';

/** Entries as they are kept, for a case that comes from a file. */

const part = needed(choice(...moduleNames));
const somePart = choice(...moduleNames);
const minutes = needed(number(0, 100_000));
const note = optionalLine(300);
const steps = needed(list(stepId).max(200));

const planStep = shape({
  id: needed(stepId),
  title: needed(line(120)),
  why: needed(line(600)),
  part: somePart,
  by: needed(oneOf(doerWords)),
  back: needed(oneOf(wayWords)),
  minutes,
  attended: minutes,
  money: needed(number(0, 1_000_000)),
  effect: needed(oneOf(gates)),
  stage: needed(choice(...stages)),
  procedure: pattern(/^[a-z][a-z0-9-]{0,79}$/, 'a procedure such as swap-module'),
  place: choice(...places),
  quiet: yes(),
  risk: line(600),
  brings: needed(list(line(60)).max(50)),
  after: steps,
});

const plan = {
  replaced: needed(record(choice(...moduleNames), choice(...origins))),
  installed: orElse(list(somePart), []),
  unread: orElse(list(somePart), []),
  tools: needed(list(line(60)).max(20)),
  byHand: needed(yesNo()),
  steps: needed(list(planStep).max(200)),
  warnings: needed(list(line(600)).max(50)),
  parts: needed(
    list(
      shape({
        part,
        title: needed(line(120)),
        save: needed(list(choice(...savables))),
        otherwise: needed(optionalLine(600)),
        causes: needed(list(shape({ id: needed(checkId), say: needed(line(600)) })).max(60)),
      }),
    ),
  ),
};

export const entryField = chosenBy(
  'kind',
  {},
  {
    plan,
    end: { reason: needed(line(300)) },
    variant: {
      part,
      side: needed(choice('old', 'new')),
      variant: needed(variantShape),
      checked: needed(choice('twice', 'photo')),
      photo: photoMoment,
    },
    fits: { part, reason: needed(line(300)) },
    saved: { part, item: needed(choice(...savables)), answer: needed(choice(...savedAnswers)), note },
    cause: { part, check: needed(checkId), answer: needed(choice(...causeAnswers)), note },
    step: { step: needed(stepId), answer: needed(choice(...stepAnswers)), note },
  },
);
