import type { PlaceDto } from '@evenround/contract/rounds'
import type { Site } from '../../db/entities/master'
import { Place } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'

type Sited = Pick<Site, 'id' | 'name' | 'village' | 'island' | 'lat' | 'lon'>

/** Doors that lie closer than this share a place: about eleven metres. */
const DECIMALS = 4

/** Where sites lie for the road: each by its own coordinates, else by the place of its village; nothing for one that has neither. */
export class SitePlaces {
  private readonly byName: ReadonlyMap<string, PlaceDto>

  constructor(readonly known: readonly PlaceDto[]) {
    this.byName = new Map(known.map((place) => [`${place.island}/${place.name}`, place]))
  }

  of({ name, village, island, lat, lon }: Sited): PlaceDto | null {
    if (lat === null || lon === null) return this.byName.get(`${island}/${village}`) ?? null
    return { id: `@${lat.toFixed(DECIMALS)},${lon.toFixed(DECIMALS)}`, name: village || name, island, lat, lon }
  }

  /** The places the firm keeps and those of these sites, each once, in the order of their ids. */
  among(sites: readonly Sited[]): PlaceDto[] {
    const all = new Map(this.known.map((place) => [place.id, place]))
    for (const site of sites) {
      const place = this.of(site)
      if (place) all.set(place.id, all.get(place.id) ?? place)
    }
    return [...all.values()].sort((a, b) => (a.id < b.id ? -1 : 1))
  }
}

export const sitePlaces = async (scope: FirmScope): Promise<SitePlaces> =>
  new SitePlaces((await scope.find(Place, {}, { id: 'ASC' })).map(({ id, name, island, lon, lat }) => ({ id, name, island, lon, lat })))
