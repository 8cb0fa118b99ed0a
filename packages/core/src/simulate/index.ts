export { runToEnd, runToMoment, type SimMoment, type SimPast, type SimVisits } from './history'
export {
  type Dip,
  type LampController,
  lampControllerAt,
  meterDrift,
  PHOTOMETER_MOST_MG_L,
  type PulseCounter,
  photometerOf,
  pulseCounterAt,
  type TdsDisplay,
  tdsMeterAt,
} from './instruments'
export {
  gradeOf,
  readPart,
  type SimGrade,
  type SimReading,
  trueChlorineAfter,
  trueDropKpa,
  trueIntensityPercent,
  truePassage,
  trueProductLMin,
} from './measure'
export {
  lifeUsed,
  litresOn,
  liveDay,
  medianLives,
  newPart,
  SIM_CAUSES,
  type SimCause,
  type SimPart,
  type SimStage,
  type SimWorld,
  shareUsed,
} from './part'
export { type Rng, seeded } from './rng'
export { drawTrain } from './trains'
export { coldWaterC, dirtOn, drawSite, type SimSite, type SimSource, type SimSpread, type SimStay, USUAL_SPREAD, useOn } from './water'
