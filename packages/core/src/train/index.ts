export { actionsFor } from './actions'
export { isBegun, isFitted, type WorkChange } from './changed'
export {
  addOutlet,
  addTank,
  changeNode,
  insertAfter,
  type KnownOfNode,
  moveStage,
  removeNode,
  renumbered,
  sayKnown,
  setBypass,
  withKinds,
} from './edit'
export { FAMILIES, type Family, type FamilyStage, familyTrain } from './families'
export { flowPath, isHot, nodeById, stagesInFlow } from './graph'
export { inWords, lineLabel, stageLabel, stageNoun, tapLabel, valveLabel } from './labels'
export { stageOf } from './machine/state'
export { type MergedTrain, mergeTrains } from './merge'
export { minutesOf, type SheetMinutes } from './minutes'
export { isPutBack } from './phases/back'
export { LIFTED } from './phases/change'
export { SOAK_MOST_HOURS } from './phases/soak'
export { CARBON_SOAK_HOURS, soakHoursOf, soaks as soaksInTank } from './plan'
export { type PlayedTrain, playTrain } from './play'
export { fillTemplate, type MessageTemplate, type MessageValues } from './say'
export { type SheetInput, sheet } from './sheet'
export { leftStanding } from './standing'
export {
  SURPRISES,
  type Surprise,
  type SurpriseId,
  stagesWorked,
  surpriseAnswer,
  surpriseOf,
  surprisesFor,
  surpriseWords,
} from './surprises'
export { bedsByVisit } from './turns'
export type {
  Action,
  HoldKind,
  OutletNode,
  Sheet,
  SheetHold,
  SheetRefusal,
  SheetResult,
  SheetSchools,
  SheetStep,
  SheetVisit,
  StageNode,
  Task,
  Train,
  TrainNode,
  TrainPipe,
  Verb,
} from './types'
export { HOLD_KINDS, VERBS } from './types'
export { shapeKey, visitMinutes } from './visit-minutes'
export { type TrainWarning, trainWarnings } from './warn'
