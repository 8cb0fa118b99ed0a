export { type ContactAsked, contactAsked, plannedContact } from './asked'
export { BORES, type Bore } from './bores'
export * from './cautions'
export { CERTIFICATE_FORMAT, type Certificate, type CertificatePeople, certificate, repeatMonths } from './certificate'
export { CHLORINE_PER, demandMgL, demandParts } from './demand'
export {
  CLEAR_MGL,
  type JobDose,
  type JobFigures,
  type JobRefusal,
  type JobWarning,
  jobFigures,
  type SchoolFigures,
  type Shift,
  schoolsSideBySide,
  strengthOf,
  type Thumb,
} from './figures'
export { minutesBetween, plusHours } from './instants'
export { LABORATORY_COLUMNS, type LaboratoryLine, type LaboratoryRead, readLaboratory } from './laboratory'
export { ARRIVED_SHARE, arrivalMinutes, arrivedAt, lateAfterMinutes, type NoArrival, noArrivalAdvice, runningOrder } from './outlets'
export * from './proof'
export { isOwnUnit, isTank, isWell, SCHOOLS, type School, schoolOf, schoolsFor, storedIsFit, UNIT_SCHOOL } from './schools'
export {
  CONTACT_END_KEY,
  chemicalsPossible,
  clearKey,
  clearLimit,
  isFlushed,
  JOB_STANDS,
  type JobStand,
  type JobState,
  jobState,
  type NextAct,
  nextAct,
  notProved,
  type OutletState,
  outletKey,
  proofFor,
  REDOSE,
  standsMgL,
  type Tide,
} from './state'
export { type Guarded, JOB_PHASES, type JobHold, type JobKnown, type JobPhase, type JobStep, jobSteps, type StepValue } from './steps'
export { type Supply, supplies } from './supplies'
