import { elseNull, line, optionalLine, orElse, orEmpty, record, text } from '../base/field';
import { contentName, systemChoice } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { film } from '../ledger/forms';

/** What was said on the phone; nothing of it is needed, since callers hang up. */
export const parseCall = (data: unknown) =>
  parseForm(
    {
      customer: optionalLine(80),
      phone: optionalLine(40),
      vehicle: optionalLine(120),
      plate: optionalLine(16),
      words: orEmpty(text(2000)),
      system: orEmpty(systemChoice),
      /** By question; the security light of a known system by its pattern. */
      answers: orElse(record(contentName, line(60)).max(40), {}),
      film: elseNull(film.empty(null)),
    },
    data,
  );
export type CallForm = ReturnType<typeof parseCall>;
