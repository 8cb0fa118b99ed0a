import { type Action, actionsFor, FAMILIES, type Family, familyTrain, type SheetSchools, stagesInFlow, type Task, type Train } from '.'

/** What tests of sheets begin from: a family's train, everything in it due, the usual schools. */
export const USUAL: SheetSchools = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }

export function trainOf(name: keyof typeof FAMILIES): Train {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}

export const allDue = (train: Train): Task[] =>
  stagesInFlow(train).map((stage) => ({ stage: stage.id, action: actionsFor(stage)[0] as Action }))
