export { type DueStage, type Group, type GroupTerms, groupingCost, groupStages } from './group'
export { taskKg, taskMinutes } from './tasks'
export { type ComingDue, comingDue, type StageWorth, stageWorth, type WorthTerms } from './worth'
