import { QueryClientProvider } from '@tanstack/react-query'
import { configure, render } from '@testing-library/react'
import type { ReactElement, ReactNode } from 'react'
import { queryClient } from '../data/queries'
import { type Answer, type Asked, serverThat } from './device'

/** Who is signed in where a test says nothing else. */
export const ME = {
  person: {
    id: 'isla',
    name: 'Isla Fennick',
    email: 'isla@fennick.example',
    role: 'owner',
    skills: [],
    van: 'Van 1',
    active: true,
    version: 1,
  },
  rights: [
    'edit-sites',
    'change-ratings',
    'change-schools',
    'manage-people',
    'plan-rounds',
    'publish-round',
    'record-facts',
    'mend-at-door',
  ],
  firm: {
    id: 'firm',
    name: 'Fennick & Daughter',
    timeZone: 'Atlantic/Azores',
    currency: 'EUR',
    gallon: 'us',
    units: { volume: 'L', pressure: 'kPa', temperature: 'C' },
    schools: {
      change: 'earliest',
      membrane: 'fixed-floor',
      closing: 'hand-only',
      seals: 'reuse',
      order: 'one-at-a-time',
      tankWater: 'keep',
    },
    version: 3,
  },
  today: '2026-11-25',
}

// Limits catch what hangs, not what is slow.
configure({ asyncUtilTimeout: 60_000 })
// No style is looked at here, and to hold every element against all rules is most of finding one by its role.
document.getElementById('react-native-stylesheet')?.remove()

/** What stands round every screen, for a part that is shown alone. */
export const inProgram = ({ children }: { children: ReactNode }): ReactElement => (
  <QueryClientProvider client={queryClient}>{children}</QueryClientProvider>
)

const path = ({ path: full }: Asked): string => new URL(full, 'http://device').pathname

/**
 * Shows a screen to somebody who is signed in, with a server that has these answers by path; what it is asked for comes back.
 * A path without an answer is one without a network; an act (`POST /api/x`) is answered by its method and path.
 */
export function show(
  screen: ReactElement,
  answers: Readonly<Record<string, unknown>>,
  me: object = ME,
): { asked: Asked[]; acts: () => string[] } {
  queryClient.clear()
  const all: Record<string, unknown> = { '/api/me': me, ...answers }
  const { asked } = serverThat((one): Answer => {
    const name = one.method === 'GET' ? path(one) : `${one.method} ${path(one)}`
    const body = all[name]
    if (body === undefined) return 'no network'
    if (typeof body === 'object' && body !== null && 'error' in body) return { status: 400, body }
    return { status: 200, body }
  })
  render(screen, { wrapper: inProgram })
  const acts = (): string[] => asked.flatMap((one) => (one.method === 'GET' ? [] : [`${one.method} ${path(one)}`]))
  return { asked, acts }
}
