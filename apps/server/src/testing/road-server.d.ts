/** How the server behaves from now on. */
export type Behaviour = 'sound' | 'slow' | 'page' | 'short' | 'metres' | 'busy' | 'no-roads' | 'elsewhere'
export interface StandInRoads {
  address: string
  /** Questions answered so far, by how many points each asked about. */
  asked: number[]
  behave: (how: Behaviour) => void
  close: () => Promise<void>
}
/**
 * Seconds in a made-up land: roads run in two directions only, a little askew to north; every kilometre and a half has a junction that costs
 * time, more to the east of zero; southwards the lanes are one-way and lead round a block. Nothing of it is how the program estimates.
 */
export declare function secondsInMadeUpLand([lonA, latA]: readonly [number, number], [lonB, latB]: readonly [number, number]): number
/**
 * A stand-in for a routing server that speaks the open table interface, on loopback: `GET /table/v1/driving/lon,lat;…?annotations=duration`.
 * It can be told to be slow, or to answer what is no answer.
 */
export declare function standInRoads(port?: number): Promise<StandInRoads>
