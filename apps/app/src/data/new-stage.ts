import type { PartDto } from '@evenround/contract/shelf'
import type { StageDto } from '@evenround/contract/site'
import type { stagesInFlow } from '@evenround/core/train'
import { USUAL_RULE, type WearSchool } from '@evenround/core/wear'

/** What is in a place of the new system: a part number, where it is known, and the day it went in, where that is. */
export interface KnownPart {
  stageId: string
  partNumber: string
  fittedOn: string | null
  /** The part of the catalogue that has this number; null where the firm does not have it. */
  part: Pick<PartDto, 'id' | 'rated'> | null
}
/** Earlier readings of a system nobody has measured yet. */
export const NO_HISTORY = { untreatedMgL: [], treatedMgL: [], baselinePassage: null }
/** What a part is rated at that the catalogue does not have. */
export const NOT_RATED = { days: null, litres: null, milliequivalents: null, hours: null }

/** A part as a stage shows it, before the server has said more of it. `today` is the device's day, ISO. */
export const partIn = ({ partNumber, fittedOn, part }: KnownPart, today: string): NonNullable<StageDto['part']> => ({
  partNumber,
  fittedOn: fittedOn ?? today,
  dateKnown: fittedOn !== null,
  rated: part?.rated ?? NOT_RATED,
})

/** A stage that was made on this device: nothing is forecast of it until the server knows it. `today` is the device's day, ISO. */
export const newStage = (node: ReturnType<typeof stagesInFlow>[number], school: WearSchool, part?: KnownPart, today = ''): StageDto => ({
  id: node.id,
  position: node.position,
  media: node.media,
  housing: node.housing,
  part: part ? partIn(part, today) : null,
  forecast: null,
  due: null,
  rule: { ...USUAL_RULE, from: 'firm' },
  school: { inForce: school, from: 'firm' },
  nextPart: null,
})
