import { needed } from '../base/field';
import { rowId } from '../base/fields';
import { parseForm } from '../base/parseForm';

const removeForm = { id: needed(rowId) };
/** What came from another shop, by its row. */
export const parseRemoveLearned = (data: unknown) => parseForm(removeForm, data);
