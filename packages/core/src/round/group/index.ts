export { type DueStage, type Group, type GroupTerms, groupingCost, groupStages } from './group'
export { type StageWorth, stageWorth, type WorthTerms } from './worth'
