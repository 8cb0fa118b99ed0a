import type { StopDto } from '@evenround/contract/site'
import type { Train } from '@evenround/core/train'
import { type Fact, type VisitState, visitState } from '@evenround/core/visit'
import { useMemo } from 'react'
import { useOutbox } from './outbox'
import { useVisitPage } from './queries'

/** The visit on this stop: begun here or, as the server knows, on another device. */
export function useVisitOfStop(stop: StopDto | undefined): string | null {
  const local = useOutbox(
    ({ entries }) =>
      entries.findLast(({ fact }) => fact.kind === 'visit-begun' && stop !== undefined && fact.stopId === stop.id)?.fact.visitId,
  )
  return local ?? stop?.visit?.id ?? null
}

interface Visit {
  state: VisitState
  /** The train as it was when the visit began, where the server knows it. */
  train: Train | null
  /** False until both the device and the server were asked. */
  ready: boolean
  error: unknown
}

/** A visit from its facts: what the server has and what still waits on this device. */
export function useVisit(visitId: string | null): Visit {
  const page = useVisitPage(visitId)
  const entries = useOutbox((outbox) => outbox.entries)
  const loaded = useOutbox((outbox) => outbox.loaded)
  const state = useMemo(() => {
    const local = entries.filter(({ fact, state: sent }) => fact.visitId === visitId && sent !== 'refused').map(({ fact }) => fact)
    const stored: Fact[] = (page.data?.facts ?? []).map(({ fact }) => fact)
    return visitState([...stored, ...local])
  }, [entries, page.data, visitId])
  // A visit begun here is on this device; of another's it is enough that the server once answered or could not. Asking again takes
  // nothing away: the work on the screen stays where it is.
  const known = visitId === null || state.begun !== null || page.data !== undefined || page.errorUpdateCount > 0
  return { state, train: page.data?.system?.train ?? null, ready: loaded && known, error: page.error }
}
