export { type CheckEnd, type CheckResult, check } from './check'
export { type CheckInput, type Finding, RULES, type RuleId } from './types'
export { unmeasuredBefore } from './whole'
