import { v7 as uuidv7 } from 'uuid'
import planAtOnce from './background/round-worker'
import { dataSource } from './db/data-source'
import { migrate } from './db/migrate'
import { authScope } from './db/scope'
import { demoDay, loadDemo } from './demo/load'
import { publishDemoRound } from './demo/planned'

/**
 * Brings a database up to date before the server starts, and loads the demo where it is wanted and nothing is there.
 * LOAD_DEMO: `1` always where the demo is not there yet, `if-empty` only where nobody signs in yet.
 * DEMO_ROUND: `0` leaves the demo's round unplanned: tests plan their own.
 * FACT_MONTHS_AHEAD: how many months of facts get a partition ahead of time.
 * Prints one JSON line: { migrations, demo: "loaded" | "there" | "none", demoDay, anybody, asAppRole }; anybody: somebody can sign in.
 */
const url = process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set')
const now = new Date()

const owner = dataSource({ url, poolSize: 2 })
await owner.initialize()
const monthsAhead = process.env.FACT_MONTHS_AHEAD === undefined ? {} : { monthsAhead: Number(process.env.FACT_MONTHS_AHEAD) }
const migrations = await migrate(owner, now, { mustTakeOn: process.env.DATABASE_OWNER_URL === undefined, ...monthsAhead })
const [{ owns } = { owns: false }] = await owner.query<{ owns: boolean }[]>(
  `select exists (select 1 from pg_class where relname = 'firm' and relowner = (select oid from pg_roles where rolname = current_user)) as owns`,
)
await owner.destroy()

const serverUrl = process.env.DATABASE_URL ?? url
const asAppRole = process.env.DATABASE_OWNER_URL === undefined && owns
const source = dataSource({ url: serverUrl, poolSize: 2, asAppRole })
await source.initialize()
const [{ anybody } = { anybody: false }] = await authScope(source)<{ anybody: boolean }[]>((manager) =>
  manager.query('select exists (select 1 from auth_user) as anybody'),
)
let demo: 'loaded' | 'there' | 'none' = 'none'
let day = await demoDay(source)
if (day !== null) demo = 'there'
else if (process.env.LOAD_DEMO === '1' || (process.env.LOAD_DEMO === 'if-empty' && !anybody)) {
  await loadDemo(source, now, uuidv7)
  if (process.env.DEMO_ROUND !== '0') await publishDemoRound(source, now, uuidv7, async (ask) => planAtOnce(ask))
  demo = 'loaded'
  day = await demoDay(source)
}
await source.destroy()
process.stdout.write(`${JSON.stringify({ migrations, demo, demoDay: day, anybody: anybody || demo === 'loaded', asAppRole })}\n`)
