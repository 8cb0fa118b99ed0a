/** The round's screens come together, with the planner they share. */
export { Round } from './round'
export { RoundFiles } from './round-files'
