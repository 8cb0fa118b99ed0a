import { z } from 'zod'

const position = z.tuple([z.number(), z.number()])
const line = z.object({ type: z.literal('LineString'), coordinates: z.array(position).min(2) })
const span = z.tuple([z.number(), z.number()])
/** A feature of the map (GeoJSON, RFC 7946): an outline of the world, an island's coast, a place, a road, a ferry with its timetable in minutes after midnight. */
export const mapFeatureSchema = z.union([
  z.object({
    type: z.literal('Feature'),
    properties: z.object({ kind: z.literal('outline'), what: z.enum(['coast', 'border']) }),
    geometry: line,
  }),
  z.object({
    type: z.literal('Feature'),
    properties: z.object({ kind: z.literal('island'), name: z.string() }),
    geometry: z.object({ type: z.literal('Polygon'), coordinates: z.array(z.array(position)) }),
  }),
  z.object({
    type: z.literal('Feature'),
    properties: z.object({ kind: z.literal('place'), id: z.string(), name: z.string(), island: z.string() }),
    geometry: z.object({ type: z.literal('Point'), coordinates: position }),
  }),
  z.object({
    type: z.literal('Feature'),
    properties: z.object({
      kind: z.literal('road'),
      from: z.string(),
      to: z.string(),
      minutes: z.number().positive(),
      name: z.string().optional(),
      open: z.array(span).optional(),
    }),
    geometry: line,
  }),
  z.object({
    type: z.literal('Feature'),
    properties: z.object({
      kind: z.literal('ferry'),
      from: z.string(),
      to: z.string(),
      minutes: z.number().positive(),
      boardMin: z.number().min(0),
      departures: z.array(z.number()),
    }),
    geometry: line,
  }),
])
export type MapFeature = z.infer<typeof mapFeatureSchema>
