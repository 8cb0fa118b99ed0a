import { type Dimension, inUnit } from './parse'

/** What a firm's screens and papers speak. */
export interface ShownUnits {
  volume: 'L' | 'gal'
  pressure: 'kPa' | 'bar' | 'psi'
  temperature: 'C' | 'F'
  /** Which gallon is meant. */
  gallon: 'us' | 'imperial'
}

export type ShownDimension = 'volume' | 'flow' | 'pressure' | 'temperature' | 'concentration' | 'hardness' | 'mass'

/** The unit of a dimension in these settings: as it is written, and as it is parsed when somebody types a bare number. */
export function unitOf(dimension: ShownDimension, { volume, pressure, temperature, gallon }: ShownUnits): { text: string; parse: string } {
  const gal = gallon === 'us' ? 'us-gal' : 'imp-gal'
  switch (dimension) {
    case 'volume':
      return volume === 'L' ? { text: 'L', parse: 'l' } : { text: 'gal', parse: gal }
    case 'flow':
      return volume === 'L' ? { text: 'L/min', parse: 'l/min' } : { text: 'gal/min', parse: `${gal}/min` }
    case 'pressure':
      return { text: pressure, parse: pressure.toLowerCase() }
    case 'temperature':
      return { text: `°${temperature}`, parse: temperature.toLowerCase() }
    case 'hardness':
      return volume === 'gal' && gallon === 'us' ? { text: 'gpg', parse: 'gpg' } : { text: 'mg/L', parse: 'mg/l' }
    case 'mass':
      return volume === 'gal' && gallon === 'us' ? { text: 'lb', parse: 'lb' } : { text: 'kg', parse: 'kg' }
    // The same figure in dilute water; where gallons are US ones the trade says ppm.
    case 'concentration':
      return volume === 'gal' && gallon === 'us' ? { text: 'ppm', parse: 'ppm' } : { text: 'mg/L', parse: 'mg/l' }
  }
}

/** A value of the SI-side unit (litres, L/min, kPa, °C) in the unit these settings show, unrounded. */
export const toShown = (value: number, dimension: ShownDimension, units: ShownUnits): number =>
  inUnit(value, dimension satisfies Dimension, unitOf(dimension, units).parse)

export const METRIC: ShownUnits = { volume: 'L', pressure: 'kPa', temperature: 'C', gallon: 'us' }
