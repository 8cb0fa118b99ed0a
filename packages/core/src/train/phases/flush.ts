import type { MediaProfile } from '../../catalogue/media-profiles'
import type { Medium } from '../../catalogue/names'
import { caution, say } from '../../words'
import { flowOf } from '../flow'
import { type Isolation, NOTHING_SHUT } from '../isolation'
import { lineLabel, stageLabel } from '../labels'
import { flushOf, outlets, type Plan, tanks } from '../plan'
import type { StageNode } from '../types'
import { type ApartFlush, ownDrain } from '../ways'
import type { Work } from '../work'
import { isolateAgain, relieveAgain } from './isolate'
import { closeTaps, openSlowly, openUp } from './open-up'

const FLUSH_WHY: Record<NonNullable<MediaProfile['flush']>['kind'], string> = {
  get 'to-clear'() {
    return say`Dirt shaken loose by the change goes to waste, until it runs clear.`
  },
  get fines() {
    return say`New carbon sheds black fines: to waste, never onward into the next stage.`
  },
  get alone() {
    return say`This medium is flushed alone: what it sheds would settle in every later housing.`
  },
  get preservative() {
    return say`The membrane is packed in preservative: it goes to waste through the drain side with the tank shut.`
  },
  get cloud() {
    return say`Cloudy water with air, into a jug, before storage is connected.`
  },
  get grey() {
    return say`The first water of a new post carbon is grey: to waste.`
  },
  get 'first-litres'() {
    return say`The first litres of a new bed are above target: to waste.`
  },
  get own() {
    return say`What it sheds when it is new goes to waste, never onward into the next stage.`
  },
}

/** Beds whose control head backwashes them by itself. */
const BACKWASHES: readonly Medium[] = ['iron-bed', 'ph-bed']

function backwashed(phase: string, stage: StageNode, work: Work): void {
  if (work.state.stages.get(stage.id)?.flushed || work.steps.some(({ verb, at }) => verb === 'backwash' && at.includes(stage.id))) return
  const drain = ownDrain(work.train, stage)
  work.add(phase, 'backwash', [stage.id], {
    ...(drain ? { to: drain } : {}),
    text: say`Start the backwash of ${stageLabel(stage)} by hand at its control head and let it run through`,
    why: say`It settles the bed and carries its dust off by its own drain; without a control head, from the outlet to a hose, gently, until clear. Look that the drain takes the flow.`,
    minutes: 10,
  })
}

/** Adds one flush through these stages; minutes and litres are the most any of them asks for, whichever comes last. */
export function addFlush(phase: string, stages: readonly StageNode[], to: string, where: string, work: Work): void {
  const needs = stages.flatMap((stage) => flushOf(stage) ?? [])
  const main = needs.at(-1)
  if (!main) return
  for (const stage of stages) if (BACKWASHES.includes(stage.media)) backwashed(phase, stage, work)
  const litres = Math.max(...needs.map((need) => need.litres))
  // At the outlet's own flow where somebody measured it, else at the most that its kind gives.
  const outlet = outlets(work.train).find(({ id }) => id === to)
  const minutes = Math.max(...needs.map((need) => need.minutes), Math.ceil(litres / flowOf(outlet, 'most')))
  work.add(
    phase,
    'flush',
    stages.map(({ id }) => id),
    {
      to,
      text: say`Flush ${stages.map(stageLabel).join(say`, then `)} ${where}: at least ${minutes} minutes and {litres}, and until clear`,
      values: { litres },
      why: FLUSH_WHY[main.kind],
      evidence: 'timer',
      minutes,
      litres,
      tools: ['bucket'],
    },
  )
}

/** People who must have water are told before a flush stops it: the set runs to waste and nothing goes on. */
export function warnStop(phase: string, plan: Plan, isolation: Isolation, minutes: number, work: Work): void {
  if (isolation.bypass === null || !outlets(plan.train).some(({ mustGoOn }) => mustGoOn)) return
  work.add(phase, 'tell', [isolation.bypass], {
    text: say`Say that the water stops for about ${minutes} minutes: this part is flushed to waste`,
    why: say`This step cannot be bypassed: it wants a quiet hour, agreed before it begins.`,
    caution: caution`Wait for a quiet hour if somebody is drawing water now.`,
  })
}

/** Each new part that would foul what follows is run to waste through the opened line behind it. */
export function flushApart(prefix: string, plan: Plan, isolation: Isolation, apart: readonly ApartFlush[], work: Work): void {
  for (const { main, lines, runs } of apart) {
    const phase = `${prefix}flush-${main.id}`
    const tank = tankFor(plan, isolation, { main, lines, runs }, work)
    if (tank !== null) {
      fromTank(phase, plan, tank, { main, lines, runs }, work)
      continue
    }
    withLinesOff(phase, plan, isolation, lines, work, () => {
      warnStop(
        phase,
        plan,
        isolation,
        runs.reduce((sum, { stages }) => sum + Math.max(0, ...stages.map((one) => flushOf(one)?.minutes ?? 0)), 5),
        work,
      )
      openUp(phase, plan, isolation, work)
      for (const { stages, to } of runs)
        addFlush(
          runs.length > 1 && !stages.includes(main) ? `${phase}-with` : phase,
          stages,
          to,
          to.includes('>') ? say`into the bucket` : say`to the drain, tank shut`,
          work,
        )
    })
  }
}

/** So many times what a flush takes has to be in storage that feeds it. */
const TANK_HOLDS = 1.5

/**
 * Storage that can run this part out by itself: it stands shut and full right before it. The set then stays in its bypass, and nobody's
 * water stops once more.
 */
function tankFor(plan: Plan, { bypass }: Isolation, { main, lines, runs }: ApartFlush, work: Work): string | null {
  const [only, ...more] = runs
  const wants = flushOf(main)?.litres ?? 0
  if (bypass === null || more.length > 0 || only?.stages.length !== 1 || lines.length !== 1) return null
  const found = tanks(plan.train).find(({ id, valve, volumeL }) => {
    const beside = plan.train.pipes.filter(({ to }) => to === id).map(({ from }) => from)
    const feeds = plan.train.pipes.some(({ from, to }) => to === main.id && (from === id || beside.includes(from)))
    return (
      valve && feeds && volumeL >= wants * TANK_HOLDS && work.state.shut.has(id) && !work.state.emptied.has(id) && !plan.untrusted.has(id)
    )
  })
  return found?.id ?? null
}

function fromTank(phase: string, plan: Plan, tank: string, { lines, runs }: ApartFlush, work: Work): void {
  withLinesOff(phase, plan, NOTHING_SHUT, lines, work, () => {
    openSlowly(phase, plan, tank, work)
    for (const { stages, to } of runs) addFlush(phase, stages, to, say`into the bucket, with the tank’s water`, work)
    work.add(phase, 'close', [tank], { text: say`Shut the tank valve`, why: say`The line goes back on without water behind it.` })
  })
}

/** Takes lines off an isolated set, does something with water on, shuts it again and puts them back. */
export function withLinesOff(phase: string, plan: Plan, isolation: Isolation, lines: readonly string[], work: Work, run: () => void): void {
  relieveAgain(`${phase}-before`, plan, lines, work)
  for (const line of lines) {
    if (work.state.apart.has(line)) continue
    work.add(phase, 'disconnect', [line], {
      text: say`Free ${lineLabel(plan.train, line)} and hold it over the bucket`,
      why: say`What the new part sheds ends in the bucket and not in the next stage.`,
      tools: ['bucket'],
    })
  }
  closeTaps(phase, plan, work)
  run()
  isolateAgain(phase, plan, isolation, lines, work)
  for (const line of lines) {
    work.add(phase, 'connect', [line], {
      text: say`Put ${lineLabel(plan.train, line)} back, push it home and tug it`,
      why: say`A check valve or restrictor in this line stays with it.`,
    })
  }
}
