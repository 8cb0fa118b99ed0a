export { addressText, placeText } from './place'
export { hasRight, RIGHTS, type Right, ROLES, type Role, SECOND_FACTOR_RULES, type SecondFactorRule } from './rights'
export {
  CHLORINE_FIELDS,
  DUE_RULE_FIELDS,
  MEDIUM_FIELDS,
  PART_FIELDS,
  PART_FIGURES,
  RATED,
  RULE_LEVELS,
  type RuleLevel,
  SITE_FIELDS,
  type SiteContact,
  USE_FIELDS,
  USE_LEVELS,
} from './things'
