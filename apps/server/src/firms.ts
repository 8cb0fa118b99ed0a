import { parseArgs } from 'node:util'
import { firmNewSchema } from '@evenround/contract/begin'
import { emailSchema } from '@evenround/contract/firm'
import { UNIT_SETS } from '@evenround/contract/unit-sets'
import { ROLES } from '@evenround/core/firm'
import { v7 as uuidv7 } from 'uuid'
import { z } from 'zod'
import { dataSource } from './db/data-source'
import { Person } from './db/entities/master'
import { authScope, type FirmScope, firmScopes, type InFirm } from './db/scope'
import { openToOwners } from './features/begin/brought-in'
import { writeFirm } from './features/begin/new-firm'
import { makeLink } from './features/firm/links'
import { addInvited } from './features/firm/people'
import { removeSecond } from './features/firm/second'
import { record } from './features/records/audit'
import { firmFilesOf } from './firm-file'
import { FirmFileRefused } from './firm-file/read'
import { ApiError } from './http/errors'

/**
 * Firms of a server, from its shell: bin/firm create | list | invite | second-off | disable | enable | out | in.
 * DATABASE_URL and DATABASE_AS_APP_ROLE as for the server; PUBLIC_URL for the links it prints.
 */
const HELP = `bin/firm: the firms of this server

  bin/firm create --name "Weir Water" --zone Europe/Lisbon --currency EUR --owner "Hale Wick" --email hale@weir.example
                  [--units metric|us|imperial]   prints a link with which the owner chooses a password
  bin/firm list                                  every firm with its id, people and sites
  bin/firm invite FIRM --name NAME --email E-MAIL [--role owner|planner|technician|viewer]
  bin/firm second-off FIRM --email E-MAIL         takes away a second factor that was lost; the password stays
  bin/firm disable FIRM                          nobody of it is in any more; nothing is deleted
  bin/firm enable FIRM
  bin/firm out FIRM --file firm.zip              everything it keeps, in one file
  bin/firm in --file firm.zip                    the same firm here; prints a link for each of its owners

FIRM is the id that list prints, or the whole name where only one firm has it.`

class Wrong extends Error {}

const USUAL_WEEK = { weekdays: [1, 2, 3, 4, 5], fromMin: 8 * 60, toMin: 16 * 60 + 30 }

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    name: { type: 'string' },
    zone: { type: 'string' },
    currency: { type: 'string' },
    owner: { type: 'string' },
    email: { type: 'string' },
    units: { type: 'string', default: 'metric' },
    role: { type: 'string', default: 'technician' },
    file: { type: 'string' },
    help: { type: 'boolean' },
  },
})
const [command, asked] = positionals

const say = (line: string): void => void process.stdout.write(`${line}\n`)
const given = (name: 'name' | 'zone' | 'currency' | 'owner' | 'email' | 'file'): string => {
  const value = values[name]
  if (!value?.trim()) throw new Wrong(`--${name} is missing.`)
  return value
}
function checked<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  throw new Wrong(parsed.error.issues.map(({ path, message }) => `${path.join('.') || 'value'}: ${message}`).join('\n'))
}
const linkOf = (token: string): string => `${(process.env.PUBLIC_URL ?? 'http://127.0.0.1:4310').replace(/\/+$/, '')}/welcome?link=${token}`

async function run(): Promise<void> {
  const url = process.env.DATABASE_URL
  if (!url) throw new Wrong('DATABASE_URL is not set.')
  const source = dataSource({ url, poolSize: 2, asAppRole: process.env.DATABASE_AS_APP_ROLE === '1' })
  await source.initialize()
  try {
    await act(
      firmScopes(source),
      firmFilesOf(source, () => new Date()),
      async () => {
        const rows = await authScope(source)<{ firm_id: string }[]>((manager) => manager.query('select distinct firm_id from auth_user'))
        return rows.map(({ firm_id }) => firm_id)
      },
    )
  } finally {
    await source.destroy()
  }
}

async function act(inFirm: InFirm, files: ReturnType<typeof firmFilesOf>, ids: () => Promise<string[]>): Promise<void> {
  const about = (scope: FirmScope) =>
    scope.query<{ name: string; disabled: boolean; people: number; sites: number }>(
      `select f.name, f.disabled_at is not null as disabled,
         (select count(*)::int from person p where p.firm_id = f.firm_id and p.active) as people,
         (select count(*)::int from site s where s.firm_id = f.firm_id and s.gone_at is null) as sites
       from firm f where f.firm_id = $1`,
    )
  const all = async () =>
    (await Promise.all((await ids()).map(async (id) => (await inFirm(id, about)).map((row) => ({ id, ...row }))))).flat()
  const meant = async (): Promise<string> => {
    if (!asked) throw new Wrong('Which firm? Say its id or its whole name.')
    const found = (await all()).filter(({ id, name }) => id === asked || name === asked)
    if (found.length > 1) throw new Wrong(`${found.length} firms are called ${asked}: say the id.`)
    const [one] = found
    if (!one) throw new Wrong(`There is no firm ${asked}. bin/firm list shows them.`)
    return one.id
  }
  const switched = async (disabledAt: Date | null): Promise<void> => {
    const id = await meant()
    await inFirm(id, async (scope) => {
      await scope.query('update firm set disabled_at = $2 where firm_id = $1', [disabledAt])
      if (disabledAt) await scope.query('delete from auth_session where firm_id = $1')
    })
    say(disabledAt ? 'Switched off: nobody of it is in any more. bin/firm enable undoes it.' : 'Switched on.')
  }
  const now = new Date()
  switch (command) {
    case 'list': {
      const rows = await all()
      if (rows.length === 0) say('No firm yet.')
      for (const { id, name, disabled, people, sites } of rows)
        say(
          `${id}  ${name}${disabled ? ' (switched off)' : ''}, ${people} ${people === 1 ? 'person' : 'people'}, ${sites} ${sites === 1 ? 'site' : 'sites'}`,
        )
      return
    }
    case 'create': {
      const units = UNIT_SETS[checked(z.enum(['metric', 'us', 'imperial']), values.units)]
      const firm = checked(firmNewSchema, { name: given('name'), timeZone: given('zone'), currency: given('currency'), ...units })
      const owner = { name: given('owner'), email: checked(emailSchema, given('email')), password: null }
      const id = uuidv7()
      const link = await inFirm(id, async (scope) => {
        const personId = await writeFirm(scope, { firm, owner, base: null, week: USUAL_WEEK }, { now, newId: uuidv7 })
        return makeLink(scope, { kind: 'invitation', personId, madeBy: null, now, newId: uuidv7 })
      })
      say(`${firm.name} is there: ${id}`)
      say(`${owner.name} opens this link once, within two weeks:\n${linkOf(link.token)}`)
      return
    }
    case 'second-off': {
      const email = checked(emailSchema, given('email'))
      const name = await inFirm(await meant(), async (scope) => {
        const person = await scope.findOne(Person, { email })
        if (!person) throw new Wrong(`Nobody of this firm signs in with ${email}.`)
        await removeSecond(scope, person.id, { id: uuidv7(), at: now, personId: null })
        return person.name
      })
      say(`${name} signs in with the password alone now, on every device anew.`)
      return
    }
    case 'invite': {
      const person = {
        id: uuidv7(),
        name: given('name'),
        email: checked(emailSchema, given('email')),
        role: checked(z.enum(ROLES), values.role),
        skills: [],
        van: null,
      }
      const link = await inFirm(await meant(), async (scope) => {
        await addInvited(scope, person, now)
        return makeLink(scope, { kind: 'invitation', personId: person.id, madeBy: null, now, newId: uuidv7 })
      })
      say(`${person.name} opens this link once, within two weeks:\n${linkOf(link.token)}`)
      return
    }
    case 'out': {
      const id = await meant()
      const rows = await files.write(id, given('file'), now)
      await inFirm(id, (scope) =>
        record(scope, {
          id: uuidv7(),
          at: now,
          personId: null,
          what: 'firm-exported',
          about: null,
          said: 'The whole firm was written to a file by bin/firm out.',
        }),
      )
      say(`${rows} rows and pictures are in ${given('file')}. Keep it as you keep the customers’ keys.`)
      return
    }
    case 'in': {
      const brought = await files.bringIn(given('file'))
      const { firmId, firm, rows, pictures } = brought
      say(`${firm} is here: ${firmId}, ${rows} rows and ${pictures} pictures.`)
      const owners = await inFirm(firmId, (scope) => openToOwners(scope, brought, { now, newId: uuidv7, by: 'bin/firm in' }))
      for (const { name, token } of owners) say(`${name} opens this link once, within two weeks:\n${linkOf(token)}`)
      return
    }
    case 'disable':
      return switched(now)
    case 'enable':
      return switched(null)
    default:
      throw new Wrong(`There is no command ${command}.\n\n${HELP}`)
  }
}

try {
  if (values.help || command === undefined) say(HELP)
  else await run()
} catch (error) {
  if (!(error instanceof Wrong || error instanceof ApiError || error instanceof FirmFileRefused)) throw error
  process.stderr.write(`${error.message}\n`)
  process.exitCode = 2
}
