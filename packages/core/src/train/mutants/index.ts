export { type Harm, harmsOf } from './harms'
export { type Mutant, mutantsOf, traceOf } from './mutants'
