import type { SystemDto } from '@evenround/contract/site'
import { markText } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { showSystems } from './effects'
import { type KnownPart, NOT_RATED, partIn } from './new-stage'
import { type NewFact, record } from './outbox'
import { queryClient } from './queries'

/** Who says it, and the device's day, ISO. */
export interface Said {
  name: string
  today: string
}

/** Noon of a day on this device: whoever remembers a day remembers no hour. */
const noonOf = (day: string): string => new Date(`${day}T12:00:00`).toISOString()

/** Parts that are known to sit somewhere already, as facts of the days they went in. */
export function factsOfKnown(siteId: string, positions: ReadonlyMap<string, number>, parts: readonly KnownPart[], said: Said): NewFact[] {
  const visitId = uuidv7()
  return parts.flatMap(({ stageId, partNumber, fittedOn, part }): NewFact[] => {
    const position = positions.get(stageId)
    if (position === undefined) return []
    return [
      {
        kind: 'part-fitted',
        siteId,
        visitId,
        stageId,
        partId: part?.id ?? null,
        partNumber,
        position,
        markText: markText({ position, partNumber, day: fittedOn ?? said.today, person: said.name }),
        dateKnown: fittedOn !== null,
        rated: part?.rated ?? NOT_RATED,
        ...(fittedOn === null ? {} : { at: noonOf(fittedOn) }),
      },
    ]
  })
}

/** Writes down what already sits in systems of a site: shown on this device at once, and sent when there is a network. */
export async function writeKnownParts(
  siteId: string,
  systems: readonly SystemDto[],
  parts: readonly KnownPart[],
  said: Said,
): Promise<void> {
  const stages = systems.flatMap((system) => system.stages)
  const facts = factsOfKnown(siteId, new Map(stages.map(({ id, position }) => [id, position])), parts, said)
  const known = new Map(parts.map((part) => [part.stageId, part]))
  showSystems(
    queryClient,
    systems.map((system) => ({
      ...system,
      stages: system.stages.map((stage) => {
        const part = known.get(stage.id)
        return part ? { ...stage, part: partIn(part, said.today) } : stage
      }),
    })),
  )
  await record(...facts)
}
