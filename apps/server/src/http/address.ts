import { BlockList, isIP } from 'node:net'
import type { Context } from 'hono'
import type { Env } from './env'

const FAMILY = { 4: 'ipv4', 6: 'ipv6' } as const
const plain = (address: string): string => address.trim().replace(/^::ffff:(?=\d+\.)/i, '')

/** Addresses and networks ("10.0.0.0/8") of proxies that are believed about who asked them; throws on what is neither. */
export function networksOf(list: string): BlockList {
  const networks = new BlockList()
  for (const one of list.split(/[\s,]+/).filter(Boolean)) {
    const [address = '', bits] = one.split('/')
    const family = isIP(address)
    if (family === 0) throw new RangeError(`not an address or a network: ${one}`)
    if (bits === undefined) networks.addAddress(address, FAMILY[family as 4 | 6])
    else networks.addSubnet(address, Number(bits), FAMILY[family as 4 | 6])
  }
  return networks
}

/** The last address that no trusted proxy wrote: what stands before it in the header anybody may have made up. */
export function addressBehind(socket: string, forwarded: string, trusted: BlockList): string {
  let address = plain(socket)
  const hops = forwarded.split(',').map(plain).filter(Boolean)
  while (isIP(address) !== 0 && trusted.check(address, FAMILY[isIP(address) as 4 | 6])) {
    const before = hops.pop()
    if (before === undefined) break
    address = before
  }
  return networkOf(address)
}

const HALF_OF_V6 = 4
/** Whom to count: an address; of IPv6 the network of 64 bits that one household or office has. */
function networkOf(address: string): string {
  if (isIP(address) !== 6) return address
  const [before = '', after] = address.split('::')
  const [first, last] = [before.split(':').filter(Boolean), (after ?? '').split(':').filter(Boolean)]
  const missing = after === undefined ? 0 : 8 - first.length - last.length
  const parts = [...first, ...Array<string>(missing).fill('0'), ...last]
  return `${parts.slice(0, HALF_OF_V6).join(':')}::/64`
}

/** Who is asking, by the connection or by what a trusted proxy says of it. */
export const addressOf =
  (trusted: BlockList) =>
  (c: Context<Env>): string => {
    const incoming: unknown = Reflect.get(Object(c.env), 'incoming')
    const socket: unknown = Reflect.get(Object(Reflect.get(Object(incoming), 'socket')), 'remoteAddress')
    return addressBehind(typeof socket === 'string' ? socket : '', c.req.header('x-forwarded-for') ?? '', trusted)
  }
