import { agreementWays, paperSections, stayedAnswers } from '../../core/options';
import { effects } from '../../core/library';
import { choice, chosenBy, line, list, needed, number, optionalLine, orNull, pattern, shape, whole } from '../base/field';

/** What a case keeps of options, agreements and papers: fields of the forms, and the whole entries for a case that comes from a file. */

export const optionId = pattern(/^[a-z][A-Za-z0-9]{0,59}(\.[A-Za-z0-9]{1,60}){0,4}$/, 'an option such as fix.coilOpen');
/** Largest amount of a shop, smallest unit. */
const amount = whole(0, 1e9);
const effect = choice(...effects);
/** Days until it is done, from the least to the most. */
export const days = shape({ low: needed(whole(0, 365)), high: needed(whole(0, 365)) });
export const reason = needed(line(300));
export const minutesOfWork = whole(0, 10_000);
const span = shape({ low: needed(number(0, 1e12)), high: needed(number(0, 1e12)) });

export const mostStrokes = 200;
/** x and y in turn. */
export const mostNumbersOfStroke = 4000;
/** Strokes of a hand on a field, in whole units of the field. */
export const signature = shape({
  width: needed(whole(50, 4000)),
  height: needed(whole(30, 2000)),
  strokes: needed(
    list(list(whole(-100, 4100)).min(2).max(mostNumbersOfStroke))
      .min(1)
      .max(mostStrokes),
  ),
});

const billEntry = chosenBy(
  'kind',
  {},
  {
    item: { code: needed(line(80)), count: needed(whole(1, 1000)) },
    work: { title: needed(line(200)), minutes: needed(number(0, 100_000)) },
    priced: { title: needed(line(200)), amount: needed(amount) },
    callOut: {},
  },
);

const agreedOption = shape({
  id: needed(optionId),
  title: needed(line(200)),
  effects: needed(list(effect).max(20)),
  entries: needed(list(billEntry).max(50)),
  price: needed(span),
  minutes: needed(span),
});

const said = {
  who: optionalLine(80),
  how: needed(choice(...agreementWays)),
  words: optionalLine(500),
  heardAt: number(0, 4_102_444_800_000),
  signature,
  declined: needed(list(line(200)).max(40)),
};

export const paperLines = list(line(400)).max(30);

const change = shape({
  title: line(120),
  what: line(400),
  minutes: minutesOfWork,
  parts: amount,
  days,
  warranty: line(200),
  unproven: line(300),
});

export const offerField = chosenBy(
  'kind',
  {},
  {
    own: {
      id: needed(optionId),
      option: needed(
        shape({
          title: needed(line(120)),
          what: optionalLine(400),
          minutes: needed(minutesOfWork),
          parts: needed(amount),
          days: needed(days),
          warranty: optionalLine(200),
          unproven: optionalLine(300),
          effects: needed(list(effect).max(20)),
        }),
      ),
      reason,
    },
    change: { option: needed(optionId), change: needed(change), reason },
    hide: { option: needed(optionId), reason },
    show: { option: needed(optionId) },
    agree: { options: needed(list(agreedOption).min(1).max(20)), limit: needed(orNull(amount)), book: needed(whole(0, 1e9)), ...said },
    decline: said,
    paper: { section: needed(choice(...paperSections)), lines: needed(paperLines) },
    lookBack: { stayed: needed(choice(...stayedAnswers)), note: optionalLine(300) },
  },
);
