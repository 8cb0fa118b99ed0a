export { type DateOrder, dateOrderOf, type FamilyKey } from './cells'
export { INTAKE_FIELDS, INTAKE_GROUPS, INTAKE_LABELS, type IntakeField, matchColumns, plainWords } from './fields'
export {
  type CataloguePart,
  matchPartsColumns,
  PARTS_FIELDS,
  PARTS_LABELS,
  type PartsField,
  type PlannedPart,
  planParts,
} from './parts-list'
export { readingKey } from './place'
export { planIntake, shapeOfSystem } from './plan'
export type { ReadRow, RowProblem } from './rows'
export type { IntakePlan, Known, KnownPart, KnownSite, KnownStagePart, KnownSystem, PlannedSystem } from './types'
