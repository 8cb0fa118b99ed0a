export { joinPlans } from './join'
export { type RoundPart, splitRound } from './split'
