import { createHmac, randomBytes } from 'node:crypto'
import { parse } from 'hono/utils/cookie'
import { sameSecret } from './token'

const YEAR_S = 31_536_000
/** People who share a device, such as the one in the workshop. */
const MOST_PEOPLE = 5

/**
 * A device somebody has signed in on before: its tries are counted apart from those of strangers, who could otherwise keep the right
 * person out by guessing wrong. The cookie says no more than that the device was in, and for whom only the server can tell.
 */
export function knownDevices(secret: string, secure: boolean) {
  const name = `${secure ? '__Secure-' : ''}even-round.known`
  const markOf = (email: string, id: string): string => createHmac('sha256', secret).update(`known:${id}:${email}`).digest('base64url')
  const read = (headers: Headers): { id: string; marks: string[] } | null => {
    const [id = '', ...marks] = (parse(headers.get('cookie') ?? '', name)[name] ?? '').split('.')
    return /^[\w-]{16,64}$/.test(id) ? { id, marks } : null
  }
  return {
    /** Under what tries for this e-mail are counted. */
    countedAs(email: string, headers: Headers): string {
      const device = read(headers)
      const known = device?.marks.some((mark) => sameSecret(mark, markOf(email, device.id))) === true
      return known ? `${email} on ${device.id}` : email
    },
    /** The cookie of a device on which this person has just signed in. */
    cookieFor(email: string, headers: Headers): string {
      const device = read(headers)
      const id = device?.id ?? randomBytes(18).toString('base64url')
      const own = markOf(email, id)
      const marks = [own, ...(device?.marks ?? []).filter((mark) => mark !== own)].slice(0, MOST_PEOPLE)
      return `${name}=${[id, ...marks].join('.')}; Max-Age=${YEAR_S}; Path=/api/auth; HttpOnly; SameSite=Lax${secure ? '; Secure' : ''}`
    },
  }
}
