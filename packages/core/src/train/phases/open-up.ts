import { caution, say } from '../../words'
import { comesTo } from '../graph'
import type { Isolation } from '../isolation'
import { pumpLabel, tapLabel, valveLabel } from '../labels'
import { inOf } from '../machine/network'
import { nodesOf, type Plan } from '../plan'
import type { Work } from '../work'

/** Pressure comes back to about half, is looked at, and only then fully: the same wherever a valve was shut. */
export function openSlowly(phase: string, plan: Plan, id: string, work: Work): void {
  const name = valveLabel(plan.train, id)
  work.add(phase, 'open', [id], {
    to: 'half',
    text: say`Open ${name} to about half`,
    why: say`Slowly: a hammer of water lifts seals and breaks elements. Air spits at the first opening.`,
  })
  lookForLeaks(phase, id, work)
  // A leak that was mended meanwhile may have opened it already.
  if (!work.state.half.has(id)) return
  work.add(phase, 'open', [id], {
    to: 'full',
    text: say`Open ${name} fully`,
    why: say`Half open it throttles the flow and wears its seat.`,
  })
}

const LOOKS = {
  half: {
    get text() {
      return say`Look and feel under every joint you opened`
    },
    get why() {
      return say`A drip now is a seal lifted or doubled. Shut, relieve and look for a second gasket; do not turn harder.`
    },
  },
  last: {
    get text() {
      return say`Look once more, with full pressure`
    },
    get why() {
      return say`Under flow and at rest: a slow drip shows only after some minutes.`
    },
  },
  behind: {
    get text() {
      return say`Look once more behind the appliance, with full pressure, then push it back without kinking the line`
    },
    get why() {
      return say`A slow drip shows only after some minutes, and nobody sees it once the appliance stands there. A kinked line starves it.`
    },
  },
}

function look(phase: string, at: string, when: keyof typeof LOOKS, work: Work): void {
  work.looked(work.add(phase, 'leak-check', [at], { ...LOOKS[when], tools: ['torch', say`dry tissue`] }))
}

export const lookForLeaks = (phase: string, at: string, work: Work): void => look(phase, at, 'half', work)
/** The last look, with every valve as service needs it. */
export const lookLast = (phase: string, at: string, work: Work, behind = false): void => look(phase, at, behind ? 'behind' : 'last', work)

export function closeTaps(phase: string, plan: Plan, work: Work): void {
  for (const tap of [...work.state.taps]) {
    work.add(phase, 'close', [tap], {
      text: say`Close ${tapLabel(plan.train, tap)}`,
      why: say`The leak check starts at rest, with full pressure behind every seal.`,
    })
  }
}

/** Lets the air out of what stands filled behind nothing but shut taps. */
export function airOut(phase: string, plan: Plan, why: string, work: Work): void {
  work.add(phase, 'open', [plan.tap], { text: say`Open ${tapLabel(plan.train, plan.tap)} until it runs without air, to waste`, why })
  closeTaps(phase, plan, work)
}

/** Water back to the set: pumps, shut-offs half and then full, the bypass to service. Tanks stay shut. */
export function openUp(phase: string, plan: Plan, isolation: Isolation, work: Work): void {
  const pumps = isolation.pumps.filter((id) => work.state.still.has(id))
  // A pump behind a shut valve would run dry: it waits until water stands before it.
  const early = pumps.filter((id) => !isolation.close.some((valve) => comesTo(plan.train, valve, id)))
  const shut = isolation.close.filter((id) => work.state.shut.has(id))
  // Not before the last of several: it would run against the others meanwhile.
  shut.slice(0, -1).forEach((id) => void openSlowly(phase, plan, id, work))
  for (const pump of early) switchOn(phase, plan, pump, work)
  for (const id of shut.slice(-1)) openSlowly(phase, plan, id, work)
  for (const pump of pumps.filter((id) => !early.includes(id))) switchOn(phase, plan, pump, work)
  const { bypass } = isolation
  if (bypass === null || !work.state.bypassed.has(bypass)) return
  work.add(phase, 'turn', [bypass], {
    to: 'service',
    text: say`Turn the bypass to service, slowly`,
    why: say`The set fills and the air goes out: slowly, or it hammers.`,
  })
  lookForLeaks(`${phase}-service`, bypass, work)
}

function switchOn(phase: string, plan: Plan, pump: string, work: Work): void {
  work.add(phase, 'power-on', [pump], {
    text: say`Switch ${pumpLabel(plan.train, pump)} on`,
    why: say`Water stands before it, and its section is closed again.`,
  })
}

export function heatersOn(phase: string, plan: Plan, work: Work): void {
  for (const { id } of nodesOf(plan.train, 'heater')) {
    // Only once water stands in it again.
    if (!work.state.off.has(id) || !work.state.watered.has(inOf(plan.train, id))) continue
    work.add(phase, 'power-on', [id], {
      text: say`Switch the water heater on, once water runs at a hot tap`,
      why: caution`Full first: a heater that heats dry is ruined, and dangerous.`,
      caution: caution`Only when it is full: open a hot tap until it runs without air.`,
    })
  }
}
