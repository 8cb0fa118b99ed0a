export { type Drawn, drawRound } from './drawn'
