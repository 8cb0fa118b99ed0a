export { type CounterCount, type CounterReading, type CounterStep, countLitres, litresSince } from './counter'
export { type Fitness, fitness, MEMBRANE_WORTH_MGL, SPOT_FREE_MGL, type Taste } from './fitness'
export { RESIN_TARGET_MGL, USUAL_MEMBRANE, USUAL_RESIN_EQ_PER_L } from './limits'
export {
  type MembraneBy,
  type MembraneInput,
  type MembraneJudged,
  type MembraneResult,
  type MembraneSchool,
  type MembraneVerdict,
  membrane,
  membraneBy,
} from './membrane'
export { type PairDoubt, type PairDoubtWhy, pairDoubt, type Treats, type Water } from './plausible'
export { type ResinInput, type ResinResult, type ResinVerdict, resin } from './resin'
export { settled } from './settled'
export { type TdsFlag, type TdsInput, type TdsResult, TENFOLD, tds } from './tds'
