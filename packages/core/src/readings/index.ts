export { type MembraneInput, type MembraneResult, type MembraneSchool, type MembraneVerdict, membrane } from './membrane'
export { type ResinInput, type ResinResult, type ResinVerdict, resin } from './resin'
export { TENFOLD, type TdsFlag, type TdsInput, type TdsResult, tds } from './tds'
