export { type GivenYear, type YearBroken, yearCost } from './cost'
export { planYear, type YearOptions } from './plan'
export type { YearArea, YearChain, YearCost, YearInput, YearPlan, YearSite, YearVisit, YearWeek } from './types'
