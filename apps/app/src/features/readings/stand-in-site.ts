import type { StopPageDto } from '@evenround/contract/site'
import { DECHLORINATES } from '@evenround/core/catalogue'
import { median } from '@evenround/core/units'
import { usualLitresPerDay, type WearInput } from '@evenround/core/wear'
import type { StandInSite } from '../../data/instruments/stand-ins'

const USUAL_TDS = 200
const SOUND_PASSAGE = 0.05
const NEW_RESIN_MG_L = 1
const HOURS_PER_DAY = 24

const at = (day: string): number => Date.parse(`${day}T12:00:00Z`)
/** A number of its own for each system, so that two meters do not drift alike. */
const seedOf = (id: string): number => Number.parseInt(id.replaceAll('-', '').slice(-7), 16)

/** What the demo's instruments find at a stop: the site's own past, gone on to now, and new parts doing what new parts do. */
export function standInSite({ stop, history, wear, counter }: StopPageDto, phase: 'before' | 'after'): StandInSite {
  const { system, site, tasks } = stop
  const untreatedMgL = history.untreatedMgL.length > 0 ? median(history.untreatedMgL) : USUAL_TDS
  const changed = (media: string): boolean =>
    phase === 'after' && system.stages.some((stage) => stage.media === media && tasks.some(({ stageId }) => stageId === stage.id))
  const before = history.treatedMgL[0] ?? untreatedMgL
  const treatedMgL = changed('deionising-resin') ? NEW_RESIN_MG_L : changed('membrane') ? untreatedMgL * SOUND_PASSAGE : before
  const inputs = wear.map(({ input }) => input as WearInput)
  const carbon = inputs.find(({ stage }) => DECHLORINATES.includes(stage.media))
  const lamp = inputs.find(({ stage }) => stage.media === 'uv-lamp')
  const lit = lamp?.readings.filter(({ lampHours }) => lampHours !== undefined).at(-1)
  const first = inputs[0]
  return {
    seed: seedOf(system.id),
    untreatedMgL,
    treatedMgL,
    waterC: 11,
    chlorineMgL: changed('carbon-block')
      ? 0
      : (carbon?.readings.findLast(({ chlorineAfterMgL }) => chlorineAfterMgL !== undefined)?.chlorineAfterMgL ??
        (site.chlorineMgL ?? 0) * 0.05),
    counter:
      first === undefined
        ? null
        : {
            displayL: counter?.displayL ?? 0,
            atMs: counter ? Date.parse(counter.at) : at(first.stage.fittedOn),
            litresPerDay: usualLitresPerDay(first.stage),
          },
    lamp:
      lamp === undefined
        ? null
        : lit
          ? { hours: lit.lampHours ?? 0, atMs: at(lit.on) }
          : { hours: HOURS_PER_DAY / 24, atMs: at(lamp.stage.fittedOn) },
  }
}
