import { mulberry32 } from '@evenround/core/random'

/** What the description of the API says of a value, as far as it is drawn from. */
export interface Schema {
  $ref?: string
  type?: string | string[]
  format?: string
  enum?: unknown[]
  const?: unknown
  pattern?: string
  minimum?: number
  maximum?: number
  minLength?: number
  maxLength?: number
  minItems?: number
  maxItems?: number
  properties?: Record<string, Schema>
  required?: string[]
  items?: Schema
  anyOf?: Schema[]
  oneOf?: Schema[]
  allOf?: Schema[]
  additionalProperties?: boolean | Schema
}
interface Operation {
  parameters?: { name: string; in: string; schema?: Schema }[]
  requestBody?: { content: Record<string, { schema?: Schema }> }
}
export interface Description {
  paths: Record<string, Record<string, Operation>>
  components?: { schemas?: Record<string, Schema> }
}

/** A route that stands before the sign-in, with a body it takes: the description has those that stand behind it. */
export interface Door {
  method: string
  path: string
  body?: Schema
}
const text = (more: Schema = {}): Schema => ({ type: 'string', ...more })
const object = (properties: Record<string, Schema>): Schema => ({ type: 'object', properties, required: Object.keys(properties) })
export const DOORS: readonly Door[] = [
  { method: 'GET', path: '/api/health' },
  { method: 'GET', path: '/api/ready' },
  { method: 'GET', path: '/api/metrics' },
  { method: 'GET', path: '/api/openapi.json' },
  { method: 'GET', path: '/api/sign-in-hints' },
  { method: 'GET', path: '/api/setup' },
  { method: 'POST', path: '/api/setup', body: object({ code: text(), firm: object({ name: text() }), owner: object({ name: text() }) }) },
  { method: 'POST', path: '/api/setup/file', body: text() },
  { method: 'GET', path: '/api/feeds/{file}' },
  { method: 'POST', path: '/api/auth/sign-in', body: object({ email: text({ format: 'email' }), password: text() }) },
  { method: 'POST', path: '/api/auth/second', body: object({ code: text(), kind: { enum: ['app', 'recovery'] } }) },
  { method: 'POST', path: '/api/auth/passkey/ask' },
  { method: 'POST', path: '/api/auth/passkey', body: object({ response: { type: 'object' } }) },
  { method: 'POST', path: '/api/auth/links/ask', body: object({ token: text() }) },
  { method: 'POST', path: '/api/auth/links/use', body: object({ token: text(), password: text() }) },
  { method: 'POST', path: '/api/auth/forgot', body: object({ email: text({ format: 'email' }) }) },
  {
    method: 'POST',
    path: '/api/telemetry',
    body: object({ readings: { type: 'array', items: object({ seq: { type: 'integer' }, at: text({ format: 'date-time' }) }) } }),
  },
  { method: 'POST', path: '/api/auth/sign-out' },
]

export interface Drawn {
  /** `GET /api/sites/{id}`, as the description has it. */
  route: string
  method: string
  path: string
  headers: Record<string, string>
  body: string | undefined
}

const deep = (levels: number): unknown => {
  let value: unknown = 1
  for (let level = 0; level < levels; level++) value = level % 2 === 0 ? [value] : { a: value }
  return value
}
/** What nobody means and somebody sends. */
const ODD: readonly unknown[] = [
  null,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '0000-01-01',
  '9999-12-31',
  '0000-00-00T00:00:00Z',
  '+275760-09-13T00:00:00.000Z',
  '2026-02-30',
  -1,
  0,
  1.5,
  1e308,
  -1e308,
  2 ** 53,
  'NaN',
  '-',
  "'; drop table site; --",
  '../../etc/passwd',
  '\u202egnihton',
  'x'.repeat(5000),
  true,
  [],
  {},
  [[[]]],
  { __proto__: 1, constructor: 2 },
  deep(40),
]
const METHODS_OF_BODIES = new Set(['post', 'put', 'patch'])
const TYPES = [
  'application/json',
  'application/json; charset=utf-8',
  'text/plain',
  'application/xml',
  'multipart/form-data; boundary=x',
  '',
]

/** A schema whose definitions stand beside it, as one of the description's. */
export function withDefinitions(name: string, schema: Schema & { $defs?: Record<string, Schema> }): [Schema, Record<string, Schema>] {
  const renamed = JSON.parse(JSON.stringify(schema).replaceAll('"#/$defs/', `"#/$defs/${name}.`)) as typeof schema
  const { $defs = {}, ...own } = renamed
  return [own, Object.fromEntries(Object.entries($defs).map(([key, value]) => [`${name}.${key}`, value]))]
}

interface DrawerOptions {
  description: Description
  doors: readonly Door[]
  /** Ids that are there, to get behind the first look-up. */
  known: readonly string[]
  /** Bodies that would be taken, by route: drawn with one thing of them changed. */
  samples?: Readonly<Record<string, () => unknown>>
  /** Routes that are dear: asked for in one round of eight. */
  seldom?: readonly string[]
  seed: number
}
const SELDOM = 8

/** Draws requests by the description, each a little or quite wrong; the same seed draws the same ones. */
export function drawer({ description, doors, known, samples = {}, seldom = [], seed }: DrawerOptions) {
  const random = mulberry32(seed)
  const chance = (share: number): boolean => random() < share
  const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1))
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T
  const id = (): string =>
    chance(0.8) && known.length > 0 ? one(known) : `01a210be-51fe-72a1-83c2-${String(whole(0, 1e12 - 1)).padStart(12, '0')}`
  const day = (): string => `${whole(1990, 2035)}-${String(whole(1, 12)).padStart(2, '0')}-${String(whole(1, 28)).padStart(2, '0')}`
  const stringOf = ({ format, pattern, minLength = 0, maxLength = 40 }: Schema): string => {
    if (format === 'uuid' || pattern?.includes('[0-9a-fA-F]{8}')) return id()
    if (format === 'date' || pattern?.includes('\\d{4}-')) return day()
    if (format === 'date-time') return `${day()}T0${whole(0, 9)}:00:00.000Z`
    if (format === 'email') return `${one(['tam', 'isla', 'nobody'])}@fennick.example`
    const length = whole(minLength, Math.min(maxLength, Math.max(minLength, 12)))
    return Array.from({ length }, () => one([...'abcdefghij 0123456789-'])).join('')
  }
  const value = (schema: Schema | undefined, level = 0): unknown => {
    if (chance(0.04)) return one(ODD)
    if (schema === undefined || level > 12) return one(ODD)
    if (schema.$ref !== undefined) return value(description.components?.schemas?.[schema.$ref.split('/').at(-1) ?? ''], level + 1)
    if (schema.const !== undefined) return schema.const
    if (schema.enum !== undefined) return one(schema.enum)
    const some = schema.anyOf ?? schema.oneOf
    if (some !== undefined) return value(one(some), level + 1)
    if (schema.allOf !== undefined) return Object.assign({}, ...schema.allOf.map((part) => value(part, level + 1)))
    const type = Array.isArray(schema.type) ? one(schema.type) : schema.type
    const { minimum = -10, maximum = 1000 } = schema
    if (type === 'string') return stringOf(schema)
    if (type === 'integer') return whole(minimum, Math.min(maximum, minimum + 100))
    if (type === 'number') return minimum + random() * (Math.min(maximum, 1e6) - minimum)
    if (type === 'boolean') return chance(0.5)
    if (type === 'null') return null
    if (type === 'array')
      return Array.from({ length: whole(schema.minItems ?? 0, Math.min(schema.maxItems ?? 3, 3)) }, () => value(schema.items, level + 1))
    if (type === 'object' || schema.properties !== undefined) {
      const { properties = {}, required = [] } = schema
      const names = Object.keys(properties).filter((name) => (required.includes(name) ? !chance(0.02) : chance(0.6)))
      const made = Object.fromEntries(names.map((name) => [name, value(properties[name], level + 1)]))
      return chance(0.03) ? { ...made, nobodyAsked: one(ODD) } : made
    }
    return one(ODD)
  }
  const routes = [
    ...Object.entries(description.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ method, path, operation })),
    ),
    ...doors.map(({ method, path, body }) => ({
      method: method.toLowerCase(),
      path,
      operation: (body === undefined ? {} : { requestBody: { content: { 'application/json': { schema: body } } } }) as Operation,
    })),
  ]
  const inPath = (): string => encodeURIComponent(String(chance(0.85) ? id() : one(ODD)).replaceAll(/\p{Cs}/gu, '\ufffd'))
  const queryOf = ({ parameters = [] }: Operation): string => {
    const query = new URLSearchParams()
    for (const { name, in: where, schema } of parameters)
      if (where === 'query' && chance(0.7)) {
        const drawn = value(schema)
        query.set(name, typeof drawn === 'string' ? drawn : JSON.stringify(drawn))
      }
    return query.size === 0 ? '' : `?${query}`
  }
  const bodyOf = (method: string, { requestBody }: Operation): string | undefined => {
    if (!METHODS_OF_BODIES.has(method) && !chance(0.02)) return undefined
    const [schema] = Object.values(requestBody?.content ?? {})
    if (chance(0.02)) return one(['{', 'null', '[]', '"', '{"a":1}{', `${'['.repeat(9000)}`, '\u0000', '{"a":1e999}'])
    return requestBody === undefined && chance(0.9) ? undefined : JSON.stringify(value(schema?.schema))
  }
  /** The same with one leaf of it odd, or as it is. */
  const bent = (sample: unknown): unknown => {
    if (chance(0.15)) return one(ODD)
    if (Array.isArray(sample)) {
      const at = whole(0, sample.length)
      return sample.map((item, index) => (index === at ? bent(item) : item))
    }
    if (typeof sample !== 'object' || sample === null) return chance(0.5) ? one(ODD) : sample
    const names = Object.keys(sample)
    const name = one([...names, ''])
    return Object.fromEntries(Object.entries(sample).map(([key, item]) => [key, key === name ? bent(item) : item]))
  }
  const draw = ({ method, path, operation }: (typeof routes)[number]): Drawn => {
    const sample = samples[`${method.toUpperCase()} ${path}`]
    const body = sample !== undefined && chance(0.8) ? JSON.stringify(bent(sample())) : bodyOf(method, operation)
    const type = chance(0.95) ? 'application/json' : one(TYPES)
    return {
      route: `${method.toUpperCase()} ${path}`,
      method: method.toUpperCase(),
      path: `${path.replaceAll(/\{\w+\}/g, inPath)}${queryOf(operation)}`,
      headers: {
        ...(body === undefined || type === '' ? {} : { 'content-type': type }),
        ...(chance(0.01) ? { 'content-encoding': 'gzip' } : {}),
        ...(chance(0.02) ? { 'accept-language': one(['de', 'xx', '*', ';;;', 'x'.repeat(300)]) } : {}),
      },
      body,
    }
  }
  // Every route in turn, so that none is left out however few are drawn.
  let turn = 0
  const next = (): Drawn => {
    const route = routes[turn % routes.length] as (typeof routes)[number]
    const round = Math.floor(turn++ / routes.length)
    return seldom.includes(`${route.method.toUpperCase()} ${route.path}`) && round % SELDOM !== 0 ? next() : draw(route)
  }
  return { routes: routes.length, next }
}
