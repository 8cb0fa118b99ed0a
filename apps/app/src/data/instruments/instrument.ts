/** What each kind of instrument tells. */
export interface Samples {
  'tds-meter': { display: number; timesTen: boolean; temperatureC: number; settled: boolean }
  'pulse-counter': { displayL: number }
  'lamp-controller': { hours: number; intensityPercent: number }
  photometer: { mgL: number; over: boolean }
}
export type InstrumentKind = keyof Samples

export interface Measuring<S> {
  /** The sample the instrument ended with: settled, or held. Rejects when it is stopped or lost. */
  ended: Promise<S>
  /** Takes the value as it stands. */
  hold: () => void
  stop: () => void
}

/**
 * An instrument the screens can read, whoever speaks to it: a stand-in, or a driver of a real device over whatever it speaks. `where`
 * names what it is put to (a water, a stage); samples come as they are shown, until it settles, is held or is stopped.
 */
export interface Instrument<K extends InstrumentKind> {
  kind: K
  name: string
  measure: (where: string, onSample: (sample: Samples[K]) => void) => Measuring<Samples[K]>
}
export type Instruments = { [K in InstrumentKind]: Instrument<K> | null }
