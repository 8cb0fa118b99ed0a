import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { say } from '@evenround/core/words'

/** What a new password has to be, and what makes a good one. */
export const PASSWORD_HINT = say`At least ${SHORTEST_PASSWORD} characters; a few words are easier to remember than signs`
