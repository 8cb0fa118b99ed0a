export { type Mutant, mutantsOf, traceOf } from './mutants'
