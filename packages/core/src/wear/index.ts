export { calendarFactor, chlorineFactor, peopleFactor, sourceFactor, throughputFactor, usualLitresPerDay } from './factors'
export { type ForecastResult, forecast } from './forecast'
export { PRIORS } from './priors'
export type { Cause, CauseForecast, FoundGrade, WaterSource, WearForecast, WearInput, WearReading, WearSchool, WearStage } from './types'
