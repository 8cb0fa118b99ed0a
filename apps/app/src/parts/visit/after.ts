import type { StopPageDto } from '@evenround/contract/site'
import { tds } from '@evenround/core/readings'
import type { ShownUnits } from '@evenround/core/units'
import { type AfterDoubt, type AfterLook, afterDoubts, readingKey, type TdsReading, type VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { percent, quantity } from '../../ui/format'

type Waters = { untreatedMgL: number | null; treatedMgL: number | null }

const mgLOf = (reading: TdsReading | null): number | null => (reading === null ? null : tds(reading).tdsMgL)
const watersOf = ({ untreated, treated }: VisitState['readings']['before']): Waters => ({
  untreatedMgL: mgLOf(untreated),
  treatedMgL: mgLOf(treated),
})

/** What the readings after the work ask about; `typed`: the two waters as they stand on the screen, before they are recorded. */
export function doubtsAfter(
  { stop, history, wear }: StopPageDto,
  state: VisitState,
  typed: Waters = watersOf(state.readings.after),
): AfterDoubt[] {
  const { stages } = stop.system
  const flows = stages.flatMap(({ id }) => {
    const after = state.stageReadings.get(readingKey('after', id))?.flowLMin
    const earlier = wear.find(({ stageId }) => stageId === id)?.input.readings.findLast(({ cleanFlowLMin }) => cleanFlowLMin !== undefined)
    const against = earlier?.cleanFlowLMin ?? state.stageReadings.get(readingKey('before', id))?.flowLMin
    return after != null && against != null ? [{ stageId: id, afterLMin: after, againstLMin: against }] : []
  })
  return afterDoubts({
    stages,
    renewed: new Set(state.fitted.keys()),
    before: watersOf(state.readings.before),
    after: typed,
    untreatedHistoryMgL: history.untreatedMgL,
    flows,
  })
}

const LOOKS: Record<AfterLook, string> = {
  mark: say`The meter’s ×10 mark: was it on at both?`,
  swapped: say`Are treated and untreated swapped, or was the probe not rinsed?`,
  rinse: say`Rinse longer: the first litres of a new part are not its water.`,
  air: say`Air in the body: let it run with the outlet down, tap the body.`,
  seal: say`The seals at both ends of the element: doubled, missing, lifted.`,
  seat: say`The membrane in its seat: pushed home with a jolt?`,
  tube: say`The tubes: does the water go through it, or past it?`,
  restrictor: say`The flow restrictor in the drain line: in its place, not blocked?`,
  valve: say`Every valve and the bypass: fully open, in service?`,
  direction: say`The element the right way up, the arrow along the water?`,
}
export const lookWords = (look: AfterLook): string => LOOKS[look]

/** What is asked about, in a line with its figures. */
export function doubtTitle({ why, measured, expected }: AfterDoubt, units: ShownUnits): string {
  const water = (mgL: number): string => quantity(mgL, 'concentration', units)
  switch (why) {
    case 'not-measured':
      return say`The water after the work is not measured`
    case 'resin-equal':
      return say`Treated is as untreated: ${water(measured)} behind a new resin`
    case 'resin-over-target':
      return say`${water(measured)} behind a new resin: under ${water(expected)} is usual`
    case 'membrane-passes':
    case 'membrane-high':
      return say`A new membrane passes ${percent(measured)}: under ${percent(expected)} is good`
    case 'flow-low':
      return say`Flow ${quantity(measured, 'flow', units)}, under half of ${quantity(expected, 'flow', units)}`
    case 'untreated-jumped':
      return say`Untreated ${water(measured)} where it was ${water(expected)}`
  }
}
