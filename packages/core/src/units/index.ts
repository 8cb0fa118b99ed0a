export { addDays, dayOfYear, daysBetween, fromEpochDay, isIsoDay, isoWeekday, toEpochDay, weekStart } from './days'
export { atLeast, atMost, median } from './numbers'
export { type Dimension, type ParsedQuantity, parseQuantity, type QuantityOptions } from './parse'
