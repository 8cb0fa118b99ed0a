export { type CounterCount, type CounterLook, type CounterStep, countLitres, litresSince } from './counter'
export { type MembraneInput, type MembraneResult, type MembraneSchool, type MembraneVerdict, membrane } from './membrane'
export { type ResinInput, type ResinResult, type ResinVerdict, resin } from './resin'
export { type TdsFlag, type TdsInput, type TdsResult, TENFOLD, tds } from './tds'
