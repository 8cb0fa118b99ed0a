import { say } from '../../words'
import { stagesInFlow } from '../graph'
import { lineLabel, partNoun } from '../labels'
import { isInline, play } from '../machine/state'
import type { Plan } from '../plan'
import type { SheetStep, StageNode } from '../types'
import { Work } from '../work'
import { inspectBody, putLinesBack, sealBody, shutBody } from './bodies'

const PUT_BACK = 'back-'
/** Whether a step puts the old part back, of what is left for another day. */
export const isPutBack = ({ key, verb }: Pick<SheetStep, 'key' | 'verb'>): boolean => key.startsWith(PUT_BACK) && verb === 'fit'

/** A body that was opened for a part that is left for another day: closed again, with the old part in it. */
function putOldBack(plan: Plan, stage: StageNode, work: Work): void {
  const phase = `${PUT_BACK}${stage.id}`
  const now = () => work.state.stages.get(stage.id)
  if (work.state.cocks.has(stage.id))
    work.add(phase, 'close', [`${stage.id}.cock`], {
      text: say`Shut the cock`,
      why: say`An open cock floods the floor when water comes back.`,
    })
  if (now()?.element === 'none') {
    if (!now()?.inspected) inspectBody(phase, plan, stage, work)
    work.add(phase, 'fit', [stage.id], {
      text: say`Put ${partNoun(stage, 'old')} back as it sat, if it is whole`,
      why: say`The old one serves until its successor goes in. Torn, broken or already thrown away it is not put back: leave this step, and end the visit with the water shut.`,
      ...(stage.media === 'uv-lamp' ? { consumables: [say`clean gloves`] } : {}),
    })
  }
  if (isInline(stage)) putLinesBack(phase, plan, stage, work)
  else if (now()?.open) {
    if (!now()?.sealed) sealBody(phase, plan, stage, work)
    shutBody(phase, plan, stage, work)
  }
}

/** Lines that came off for what is left now. */
function joinLines(plan: Plan, lines: readonly string[], work: Work): void {
  for (const line of lines) {
    if (!work.state.apart.has(line)) continue
    work.add(`${PUT_BACK}lines`, 'connect', [line], {
      text: say`Put ${lineLabel(plan.train, line)} back, push it home and tug it`,
      why: say`A check valve or restrictor in this line stays with it.`,
    })
  }
}

/** What was opened for work that is left now is closed again after the step at this place, before water comes back; the steps are added to. */
export function putBack(plan: Plan, steps: SheetStep[], after: number): void {
  const work = new Work(plan.train)
  for (const step of steps.slice(0, after + 1)) play(plan.train, work.state, step)
  const later = steps.slice(after + 1)
  const comes = (verbs: readonly SheetStep['verb'][], id: string): boolean =>
    later.some(({ verb, at }) => verbs.includes(verb) && at[0] === id)
  // A sleeve goes in before the lamp inside it.
  const inOrder = stagesInFlow(plan.train).toSorted((a, b) => Number(a.media === 'uv-lamp') - Number(b.media === 'uv-lamp'))
  for (const stage of inOrder) {
    const now = work.state.stages.get(stage.id)
    if (now && (now.open || now.element === 'none' || work.state.cocks.has(stage.id)) && !comes(['fit', 'close-housing'], stage.id))
      putOldBack(plan, stage, work)
  }
  joinLines(
    plan,
    [...work.state.apart].filter((line) => !comes(['connect'], line)),
    work,
  )
  steps.splice(after + 1, 0, ...work.steps)
}
