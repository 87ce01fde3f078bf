import { cantSee, type Identification, identify, modelOf } from '../core/identify';
import { CannotUse } from './fail';
import { library } from './library';

/** `identify`: which family, from answers written as `question=value,…`. */
export function identifySeen(folders: string[], written: string): Pick<Identification, 'families' | 'ask' | 'state'> {
  const { features, families } = library(folders);
  const seen: Record<string, string> = {};
  for (const part of written.split(',').filter((p) => p.trim() !== '')) {
    const [name = '', value = ''] = part.split('=').map((p) => p.trim());
    const feature = features.find((f) => f.id === name);
    if (!feature) throw new CannotUse(`--seen: "${name}" is not a question. Use one of: ${features.map((f) => f.id).join(', ')}.`);
    const values = [...Object.keys(feature.values), cantSee];
    if (!values.includes(value)) throw new CannotUse(`--seen: ${name}: "${value}" is not an answer. Use one of: ${values.join(', ')}.`);
    if (name in seen) throw new CannotUse(`--seen: ${name} appears twice. Leave one answer.`);
    seen[name] = value;
  }
  return identify(modelOf(features, [...families.values()]), seen);
}
