import type { StopDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'

type Stage = StopDto['system']['stages'][number]

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase()

/** Part numbers that belong here, the one the catalogue would fit first. */
export const numbersFor = ({ nextPart }: Stage): string[] =>
  nextPart === null ? [] : [nextPart, ...nextPart.equivalents].map(({ partNumber }) => partNumber)

/** What is wrong with fitting this number here, before the housing is closed; null where nothing is known against it. */
export function partProblem(stop: StopDto, stage: Stage, typed: string): string | null {
  const own = numbersFor(stage)
  if (typed.trim() === '' || own.length === 0 || own.some((number) => same(number, typed))) return null
  const other = stop.system.stages.find((one) => one.id !== stage.id && numbersFor(one).some((number) => same(number, typed)))
  if (other)
    return say`${typed.trim()} is the part of position ${other.position}, not of position ${stage.position}. Swap it before you close.`
  return say`${typed.trim()} is not known for position ${stage.position}: ${own.join(say` or `)} is. Look at the label once more.`
}
