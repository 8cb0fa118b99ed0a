export { type Belief, type BeliefReading, beliefOf, dayOfChance, endedBy, readBelief } from './belief'
export { permeateAt25 } from './channels'
export { type Due, type DueRule, dueOf } from './due'
export { calendarFactor, chlorineFactor, peopleFactor, sourceFactor, throughputFactor, usualLitresPerDay } from './factors'
export { type ForecastResult, forecast } from './forecast'
export { type Narrowing, narrowing, type ReadingKind } from './narrowing'
export { AS_LIKELY_AS_NOT, PRIORS } from './priors'
export { renewed } from './renewed'
export { usualResin } from './resin'
export { type DueCosts, riskDay } from './risk-day'
export { learnSpread, logEvidence } from './spread'
export { dueCosts, LATE_DAYS_WORTH, type StageSummary, summarise } from './summary'
export type {
  Cause,
  CauseForecast,
  FoundGrade,
  Spread,
  WaterSource,
  WearForecast,
  WearInput,
  WearReading,
  WearSchool,
  WearStage,
} from './types'
export { STAGE_VALUES, WATER_SOURCES } from './types'
export { watersSeenBy } from './waters'
