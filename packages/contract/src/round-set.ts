import type { RoundInput } from '@evenround/core/round'
import type { RoundSet } from './rounds'

/** A visit of today's or a pinned technician's is nobody else's: a skill only that person has. */
export const onlyBy = (personId: string): string => `only:${personId}`

/** The set as the core takes it. */
export function inputOfSet(set: RoundSet): RoundInput {
  const { days, technicians, travel, visits, terms } = set
  return {
    days,
    technicians: technicians.map(({ id, base, fromMin, toMin, overtimeMin, skills, daysOff, vanKg, levelMin }) => ({
      id,
      base,
      fromMin,
      toMin,
      overtimeMin,
      skills: [...skills, onlyBy(id)],
      daysOff,
      ...(vanKg === null ? {} : { vanKg }),
      levelMin,
    })),
    places: travel.places.map((id) => ({ id })),
    travelMin: travel.travelMin,
    ...(travel.land ? { land: travel.land } : {}),
    ...(travel.travelByHour.length > 0 ? { travelByHour: travel.travelByHour } : {}),
    visits: visits.map((visit) => ({
      id: visit.id,
      place: visit.place,
      serviceMin: visit.serviceMin,
      dueDay: visit.dueDay,
      windowDays: visit.windowDays,
      latePerDay: visit.latePerDay,
      earlyPerDay: visit.earlyPerDay,
      ...(visit.open === null ? {} : { open: visit.open }),
      ...(visit.closedDays.length > 0 ? { closedDays: visit.closedDays } : {}),
      ...(visit.skills.length > 0 ? { skills: visit.skills } : {}),
      ...(visit.loadKg > 0 ? { loadKg: visit.loadKg } : {}),
      ...(visit.pinnedDay === null ? {} : { pinnedDay: visit.pinnedDay }),
      ...(visit.promisedDay === null ? {} : { promisedDay: visit.promisedDay }),
    })),
    weights: { overtime: 2, unevenness: terms.unevenness, change: terms.change },
    seed: 1,
  }
}
