import type { RoundPage, RoundState } from '@evenround/contract/rounds'
import type { Person } from './world'

/** What was asked for; a refusal is an error of the test. */
export async function good<T>(asked: Promise<{ status: number; body: T; text: string }>): Promise<T> {
  const { status, body, text } = await asked
  if (status !== 200) throw new Error(text)
  return body
}

/** The round with its set, as a screen puts the two together. */
export const withSet = async (who: Person, { setId, ...state }: RoundState): Promise<RoundPage> => ({
  set: await good(who.ask('GET', `/api/round/sets/${setId}`)),
  ...state,
})

/** The round as it stands today. */
export const roundOf = async (who: Person): Promise<RoundPage> => withSet(who, await good(who.ask('POST', '/api/round/open')))
/** The round with everything that is to be planned looked up anew. */
export const freshRoundOf = async (who: Person): Promise<RoundPage> => withSet(who, await good(who.ask('POST', '/api/round/fresh')))
