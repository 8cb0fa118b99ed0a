export { addDays, addMonths, dayOfYear, daysBetween, fromEpochDay, isIsoDay, isoWeekday, monthOf, toEpochDay, weekStart } from './days'
export { atLeast, atMost, median } from './numbers'
export { type Dimension, inUnit, type ParsedQuantity, parseQuantity, type QuantityOptions } from './parse'
export { METRIC, type ShownDimension, type ShownUnits, toShown, unitOf } from './shown'
