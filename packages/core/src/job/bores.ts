/** A pipe as it is sold and what it is inside, mm. */
export interface Bore {
  material: 'copper' | 'pex' | 'pe' | 'pvc' | 'steel'
  nominal: string
  boreMm: number
}

/** Usual bores by nominal size: outer diameter less twice the wall of the common series of each material (inch copper type L, PEX SDR 9, PE by its inside). */
export const BORES: readonly Bore[] = [
  { material: 'copper', nominal: '12 mm', boreMm: 10.4 },
  { material: 'copper', nominal: '15 mm', boreMm: 13.6 },
  { material: 'copper', nominal: '22 mm', boreMm: 20.2 },
  { material: 'copper', nominal: '28 mm', boreMm: 26.2 },
  { material: 'copper', nominal: '35 mm', boreMm: 32.6 },
  { material: 'pex', nominal: '16 mm', boreMm: 12 },
  { material: 'pex', nominal: '20 mm', boreMm: 16 },
  { material: 'pex', nominal: '25 mm', boreMm: 20.4 },
  { material: 'pex', nominal: '32 mm', boreMm: 26.2 },
  { material: 'pe', nominal: '25 mm', boreMm: 20.4 },
  { material: 'pe', nominal: '32 mm', boreMm: 26.2 },
  { material: 'pe', nominal: '40 mm', boreMm: 32.6 },
  { material: 'pe', nominal: '50 mm', boreMm: 40.8 },
  { material: 'pe', nominal: '63 mm', boreMm: 51.4 },
  { material: 'copper', nominal: '1/2 in', boreMm: 13.8 },
  { material: 'copper', nominal: '3/4 in', boreMm: 19.9 },
  { material: 'copper', nominal: '1 in', boreMm: 26 },
  { material: 'copper', nominal: '1 1/4 in', boreMm: 32.1 },
  { material: 'pex', nominal: '1/2 in', boreMm: 12.3 },
  { material: 'pex', nominal: '3/4 in', boreMm: 17.3 },
  { material: 'pex', nominal: '1 in', boreMm: 22.2 },
  { material: 'pe', nominal: '3/4 in', boreMm: 20.9 },
  { material: 'pe', nominal: '1 in', boreMm: 26.6 },
  { material: 'pe', nominal: '1 1/4 in', boreMm: 35.1 },
  { material: 'pvc', nominal: '1/2 in', boreMm: 15.8 },
  { material: 'pvc', nominal: '3/4 in', boreMm: 20.9 },
  { material: 'pvc', nominal: '1 in', boreMm: 26.6 },
  { material: 'pvc', nominal: '1 1/4 in', boreMm: 35.1 },
  { material: 'pvc', nominal: '1 1/2 in', boreMm: 40.9 },
  { material: 'pvc', nominal: '2 in', boreMm: 52.5 },
  { material: 'steel', nominal: '1/2 in', boreMm: 16.1 },
  { material: 'steel', nominal: '3/4 in', boreMm: 21.7 },
  { material: 'steel', nominal: '1 in', boreMm: 27.3 },
  { material: 'steel', nominal: '1 1/2 in', boreMm: 41.9 },
  { material: 'steel', nominal: '2 in', boreMm: 53.1 },
]
