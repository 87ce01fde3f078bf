export { type Problem, type Result, failed, never, ok } from './result';
export { formatChance, formatDuration, formatLeft, formatQuantity } from './format';
export { generator } from './draws';
