export { type Problem, type Result, failed, never, ok } from './result';
export { formatDuration, formatLeft, formatQuantity } from './format';
export { generator } from './draws';
