import type { Action } from '@evenround/core/train'
import { say, sayFor } from '@evenround/core/words'

/** What is done to a stage, inside a line: "change". */
export const ACTION_WORDS: Record<Action, string> = {
  change: say`change`,
  wash: say`wash`,
  clean: sayFor('work')`clean`,
  refill: say`refill`,
}

const DONE_TO: Record<Action, (places: string) => string> = {
  change: (places) => sayFor('work')`Change ${places}`,
  wash: (places) => say`Wash ${places}`,
  clean: (places) => say`Clean ${places}`,
  refill: (places) => say`Refill ${places}`,
}

/** "Change 1, 2 and 5": an action with the positions it is done at. */
export const doneTo = (action: Action, places: string): string => DONE_TO[action](places)
