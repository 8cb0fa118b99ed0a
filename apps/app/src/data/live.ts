import { STALE_BY_EDIT } from '@evenround/contract/edits'
import type { News } from '@evenround/contract/live'
import { STALE_BY_FACT } from '@evenround/contract/stale'
import type { FactKind } from '@evenround/core/visit'
import type { QueryClient } from '@tanstack/react-query'
import { create } from 'zustand'
import { newsCame } from './answers'
import { askAgain } from './effects'
import { waitAfter } from './sending'

/** Whether the server tells this device what changes; while it does not, screens ask by themselves. */
export const useLive = create<{ connected: boolean }>(() => ({ connected: false }))

/** Kinds that are of interest on their visit alone. */
const OF_THE_SHEET: readonly string[] = ['step-done', 'block-done', 'timer-started', 'step-surprise']
/** What other devices' facts change on this one beyond what their kinds say: the visits themselves, and the stops they stand on. */
const OF_OTHERS = ['today', 'stop', 'site'] as const

/** Asks for what the news says has changed, where it is on a screen. */
export function hear(client: QueryClient, news: News, deviceId: string): void {
  const again = (...key: string[]): void => void client.invalidateQueries({ queryKey: key })
  // This device's own facts came back with the answer.
  if (news.what === 'facts' && news.deviceId === deviceId) return
  newsCame()
  switch (news.what) {
    case 'facts':
      for (const id of news.visitIds) {
        again('visit', id)
        again('disinfection', id)
      }
      // A tick of another phone is of interest on its visit alone.
      if (news.kinds.every((kind) => OF_THE_SHEET.includes(kind))) return
      for (const root of OF_OTHERS) again(root)
      askAgain(
        client,
        (Object.keys(STALE_BY_FACT) as FactKind[]).filter((kind) => news.kinds.includes(kind)),
      )
      return
    case 'round':
      again('round')
      if (news.published) for (const root of ['today', 'week', 'stop', 'van', 'offline']) again(root)
      return
    case 'edited':
      for (const root of STALE_BY_EDIT[news.thing]) again(root)
      return
    case 'forecasts':
      for (const root of ['due', 'sites', 'round']) again(root)
      return
    case 'again':
      void client.invalidateQueries()
  }
}

/** `EventSource.CLOSED`: the answer was no stream, a sign-in that is over for one, and the browser does not ask again. */
const CLOSED = 2

/** One stream a sign-in; opened again after trouble, by the browser or, where that gives up, from here. Returns how to end it. */
export function listen(client: QueryClient, deviceId: string): () => void {
  let source: EventSource
  let before = false
  let failures = 0
  let again: ReturnType<typeof setTimeout> | undefined
  const open = (): void => {
    source = new EventSource('/api/live')
    source.onopen = () => {
      failures = 0
      useLive.setState({ connected: true })
      // What happened while nobody listened was not heard.
      if (before) hear(client, { what: 'again' }, deviceId)
      before = true
    }
    source.onerror = () => {
      useLive.setState({ connected: false })
      if (source.readyState !== CLOSED) return
      failures += 1
      clearTimeout(again)
      again = setTimeout(open, waitAfter(failures, Math.random()))
    }
    source.onmessage = ({ data }: MessageEvent<string>) => {
      hear(client, JSON.parse(data) as News, deviceId)
    }
  }
  open()
  return () => {
    clearTimeout(again)
    source.close()
    useLive.setState({ connected: false })
  }
}
