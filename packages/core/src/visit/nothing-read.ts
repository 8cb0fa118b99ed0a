/** Of a stage reading everything that was not read. */
export const NOTHING_READ = {
  counterL: null,
  counterStartedOver: false,
  inKpa: null,
  outKpa: null,
  flowLMin: null,
  cleanFlowLMin: null,
  chlorineAfterMgL: null,
  lampHours: null,
  intensityPercent: null,
  productLMin: null,
  waterC: null,
  hardnessInMgL: null,
  hardnessOutMgL: null,
  saltKg: null,
} as const
