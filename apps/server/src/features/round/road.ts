import { MoreThanOrEqual } from 'typeorm'
import { Person, Site, Stop, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { sitePlaces } from '../travel/site-places'

/** A stop on the road with the names a person knows it by. */
export interface RoadStop {
  stop: Stop
  siteName: string
  village: string
  island: string
  systemName: string
  technician: string
  place: { lon: number; lat: number } | null
}

/** The published stops from a day on, of one person or of all, in order. */
export async function roadFrom(scope: FirmScope, from: string, personId: string | null): Promise<RoadStop[]> {
  const stops = await scope.find(
    Stop,
    { day: MoreThanOrEqual(from), ...(personId === null ? {} : { technicianId: personId }) },
    { day: 'ASC', technicianId: 'ASC', orderNo: 'ASC' },
  )
  const sites = new Map((await scope.find(Site)).map((site) => [site.id, site]))
  const systems = new Map((await scope.find(System)).map(({ id, name }) => [id, name]))
  const people = new Map((await scope.find(Person)).map(({ id, name }) => [id, name]))
  const places = await sitePlaces(scope)
  return stops.flatMap((stop) => {
    const site = sites.get(stop.siteId)
    if (!site) return []
    const { name, village, island } = site
    return [
      {
        stop,
        siteName: name,
        village,
        island,
        systemName: systems.get(stop.systemId) ?? '',
        technician: people.get(stop.technicianId) ?? '',
        place: places.of(site),
      },
    ]
  })
}
