export { DOORS, drawer } from '../../apps/server/src/testing/fuzz/draw'
