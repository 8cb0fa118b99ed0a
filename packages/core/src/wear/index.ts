export { permeateAt25 } from './channels'
export { CARES, DUE_BASES, type Due, type DueRule, type DueState, dueOf, type KeptRule, ruleOf, USUAL_RULE } from './due'
export { calendarFactor, chlorineFactor, peopleFactor, sourceFactor, throughputFactor, usualLitresPerDay } from './factors'
export { type ForecastResult, forecast } from './forecast'
export { type Hindsight, type HindsightAsk, hindsightOf, type Served, type Spent } from './hindsight'
export type { RatedBy } from './label'
export { type Narrowing, narrowing, type ReadingKind } from './narrowing'
export { AS_LIKELY_AS_NOT, PRIORS } from './priors'
export { renewed } from './renewed'
export { usualResin } from './resin'
export { saltDays } from './salt'
export { learnSpread, logEvidence } from './spread'
export { type RuledStage, type StageSummary, stateOn, summarise, usualLateDays } from './summary'
export {
  dayOfChance,
  daysPastEnd,
  failureProbability,
  failureProbabilityAtAge,
  readSurvivalCurve,
  type SurvivalCurve,
  type SurvivalReading,
  survivalCurveOf,
} from './survival-curve'
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
export {
  type ExpectedUse,
  expectedUse,
  learnedUse,
  litresPerDayOf,
  PLACE_KINDS,
  type PlaceKind,
  type StatedUse,
  USE_MEASURES,
  type Use,
} from './use'
export { watersSeenBy } from './waters'
