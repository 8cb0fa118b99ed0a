export { Year } from './year'
