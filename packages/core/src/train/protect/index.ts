export { type ProtectedThing, type Protection, type ProtectOptions, protection } from './protect'
