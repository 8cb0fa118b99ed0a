import type { JobPlan } from '../../disinfection/plan'
import type { SheetStep } from '../../train'
import { caution, say } from '../../words'
import { type Guarded, type JobPhase, type JobStep, step } from './types'

const SKIPPED_VERBS: readonly SheetStep['verb'][] = ['dose', 'strip', 'measure', 'record']

/** One step of a train's own list, as the machine proved it; its strips are the job's. */
function ofStep(phase: JobPhase, { systemId, systemName, protection }: Guarded, one: SheetStep): JobStep {
  const stage = one.at[0] ?? ''
  const due = protection.tasks.some((task) => task.stage === stage)
  return step(phase, `${systemId}/${one.key}`, {
    ...(one.evidence === 'timer' ? { kind: 'clock' as const, minutes: one.minutes } : {}),
    ...(one.evidence === 'finding' && due ? { kind: 'finding' as const, stageId: stage } : {}),
    ...(one.verb === 'fit' && due ? { kind: 'part' as const, stageId: stage } : {}),
    ...(one.verb === 'ask'
      ? {
          kind: 'choice' as const,
          options: [
            { id: 'yes', text: say`Yes` },
            { id: 'no', text: say`No: look further up` },
          ],
        }
      : {}),
    text: one.text,
    why: one.why,
    ...(one.caution === undefined ? {} : { caution: one.caution }),
    system: systemName,
  })
}

/** What is done at one train: before the dose, with it (a unit on its own), or once the chlorine is out. */
export const ofTrain = (phase: JobPhase, guarded: Guarded, steps: readonly SheetStep[]): JobStep[] =>
  steps.filter(({ verb }) => !SKIPPED_VERBS.includes(verb)).map((one) => ofStep(phase, guarded, one))

/** The heater where no drawing shows one. */
export function heaterBy(plan: JobPlan, guarded: readonly Guarded[], phase: 'protect' | 'back'): JobStep[] {
  const drawn = guarded.some(({ protection }) => protection.things.some(({ what }) => what === 'heater-off'))
  if (plan.heater === 'none' || drawn) return []
  if (phase === 'protect')
    return [
      step('protect', 'heater', {
        text:
          plan.heater === 'bypass'
            ? say`Water heater: power or gas off, bypassed, tagged`
            : say`Water heater: power or gas off, tagged; it stays in the way of the dose`,
        why:
          plan.heater === 'bypass'
            ? say`Its hot pipes are dosed through the bypass all the same.`
            : say`It is filled with clean water before it heats again, always.`,
        caution: caution`Hot water, mains electricity and gas. Descaling with acid belongs to another day.`,
      }),
    ]
  return [
    step('back', 'heater-fill', {
      text:
        plan.heater === 'bypass'
          ? say`Water heater: bypass back, open a hot tap until it runs without air`
          : say`Water heater: open a hot tap until it runs clear and without air`,
      why: caution`Full first: a heater that heats dry is ruined, and dangerous.`,
    }),
    step('back', 'heater-on', {
      text: say`Now power or gas on, and the tag off`,
      why: say`It is full.`,
      caution: caution`Only after water ran at the hot tap.`,
    }),
  ]
}
