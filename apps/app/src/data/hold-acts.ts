import type { HoldTold } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { record } from './outbox'

/** A hold is over: the customer knows, and what it rests on is said. */
export const liftHold = (siteId: string, visitId: string, holdId: string, proof: string) =>
  record({ kind: 'hold-lifted', siteId, visitId, holdId, proof })

/** Somebody of the household was told of a hold, or nobody could be reached. */
export const tellHold = (siteId: string, holdId: string, whom: string, how: HoldTold['how']) =>
  record({ kind: 'hold-told', siteId, visitId: uuidv7(), holdId, whom, how })
