import { FIRST, type JobState } from '@evenround/core/job'
import { caution, midSentence, say } from '@evenround/core/words'
import { instantText } from '../../ui/format'
import { TARGET_WORDS } from './words'

interface HouseholdInput {
  firm: string
  site: string
  zone: string
  state: JobState
}

/** What the household is given in words: what stands in their pipes or was done, what to hold off from, until when, and what comes next. */
export function householdText({ firm, site, zone, state }: HouseholdInput): string {
  const { plan, tide, window, holds, lifted, results } = state
  const open = holds.filter(({ id }) => !lifted.has(id)).map(({ text }) => text)
  const what = plan?.targets.map((target) => midSentence(TARGET_WORDS[target])).join(', ') ?? ''
  const next: Partial<Record<JobState['stand'], string>> = {
    contact: say`We flush no sooner than ${tide ? instantText(tide.earliestEnd, zone) : say`the time we agree on`}.`,
    flushing: caution`We are flushing now: no tap until we say so.`,
    'sample-due': window ? say`We take a sample between ${instantText(window.from, zone)} and ${instantText(window.to, zone)}.` : '',
    'result-due': say`The sample is at the laboratory; we call with its result.`,
    flushed: say`The chlorine is out. Nothing is proved of germs: for that a laboratory looks at a sample.`,
    positive: caution`Germs were found. We look for the cause and come again.`,
    'e-coli': caution`E. coli was found: do not drink it. We call you, and the health authority where local rules ask for it.`,
  }
  const result = results.at(-1)
  const clean =
    state.stand === 'clean' && result
      ? [say`Laboratory report ${result.reportNumber} of ${result.day}: no coliforms. The water may be used.`]
      : []
  const blocks = [
    [firm, say`Disinfection at ${site}: ${what}`],
    open.length > 0 ? [caution`PLEASE HOLD OFF`, ...open] : [],
    [...clean, ...(next[state.stand] ? [next[state.stand] as string] : [])],
    [caution`Chlorine on skin or in eyes: rinse with clean water for 15 minutes and get help.`, FIRST()],
  ]
  return blocks
    .filter((block) => block.length > 0)
    .map((block) => block.join('\n'))
    .join('\n\n')
}
