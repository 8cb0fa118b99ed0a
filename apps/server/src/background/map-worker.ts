import './below'
import type { MapFeature } from '@evenround/contract/geo'
import { outlinesRound } from '../features/travel/outlines'

export default function work(places: readonly { lat: number; lon: number }[]): MapFeature[] {
  return outlinesRound(places)
}
