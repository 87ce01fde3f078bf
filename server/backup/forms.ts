import { needed, whole } from '../base/field';
import { parseForm } from '../base/parseForm';

export const parseBackupRule = (data: unknown) =>
  parseForm({ everyHours: needed(whole(1, 168)), days: needed(whole(1, 60)), weeks: needed(whole(0, 60)), months: needed(whole(0, 120)) }, data);
