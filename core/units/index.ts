export { type Problem, type Result, failed, never, ok } from './result';
export { formatChance, formatDuration, formatLeft, formatQuantity } from './format';
export { generator } from './draws';
export { type Digits, type Quantity, quantityWords, readDigits, readQuantity } from './quantity';
export { dateWords, fromShopTemperature, moneyRange, moneyWords, type ShopUnits, type Times, timesIn, toShopTemperature, usUnits } from './shopUnits';
export { shopUnitChoices } from './unitChoices';
export { inSentence } from './inSentence';
