import { expect, test, type World } from './world'

// A dozen visits on one day: a world of their own.
test.use({ ownWorld: 'families' })
test.describe.configure({ mode: 'default' })

/** Every family of the catalogue once, all its stages, in blocks: the taps it takes at most, and what the firm does there. */
const FAMILIES = [
  { family: 'two housings under a sink', site: 'Lantern bakery', system: 'Proofing room', taps: 11 },
  { family: 'three housings under a sink', site: 'Fulmar view', system: 'Kitchen three-stage', taps: 14 },
  { family: 'quarter-turn heads', site: 'Kittiwake terrace 12', system: 'Utility room', taps: 14 },
  { family: 'a counter set with fluoride medium', site: 'Heron Bank', system: 'Counter set', taps: 14 },
  { family: 'reverse osmosis with a tank', site: 'Rope walk café', system: null, taps: 20 },
  { family: 'a portable pure-water unit', site: 'Causeway garage', system: 'Screen wash', taps: 14 },
  { family: 'a lamp behind prefilters', site: 'Dunlin cottage', system: 'Ultraviolet', taps: 16 },
  { family: 'a washable prefilter', site: 'Weir cottage', system: 'Prefilter', taps: 11 },
  { family: 'an inline cartridge of a refrigerator', site: 'Tern House', system: 'Refrigerator', taps: 12 },
  { family: 'a cartridge in a refrigerator', site: 'Harbour office', system: 'Staff refrigerator', taps: 12 },
  { family: 'two large housings', site: 'Murrow dairy', system: 'Wash-down', taps: 12 },
  { family: 'a softener', site: 'Weaving mill', system: null, taps: 12 },
] as const

/** What was last read there: nobody is asked whether that can be right. */
async function lastRead(world: World, site: string, system: string, water: 'untreated' | 'treated'): Promise<string> {
  const [row] = await world.query<{ display: number }>(
    `select r.tds_mg_l as display from fact_tds_reading r join system y on y.id = r.system_id join site s on s.id = y.site_id
     where s.name = $1 and y.name = $2 and r.water = $3 and r.phase = 'after' order by r.at desc limit 1`,
    [site, system, water],
  )
  return String(Math.round(row?.display ?? 150))
}

for (const { family, site, system: named, taps: most } of FAMILIES) {
  test(`${family}: the whole visit in at most ${most} taps`, async ({ phone, world }) => {
    const { page } = phone
    const [{ system, stages }] = (await world.query<{ system: string; stages: number }>(
      `select y.name as system, count(*)::int as stages from system y join site s on s.id = y.site_id join stage t on t.system_id = y.id
       where s.name = $1 and ($2::text is null or y.name = $2) group by y.name limit 1`,
      [site, named],
    )) as [{ system: string; stages: number }]
    const readings = {
      untreated: await lastRead(world, site, system, 'untreated'),
      treated: await lastRead(world, site, system, 'treated'),
    }
    // A new membrane, and new resin, make better water than the worn ones did.
    const better = Number(readings.treated) < Number(readings.untreated) / 2
    const resin = family === 'a portable pure-water unit'
    const after = resin
      ? { ...readings, treated: '3' }
      : better
        ? { ...readings, treated: String(Math.round(Number(readings.untreated) * 0.03)) }
        : readings
    await phone.signedIn()
    await phone.workHere(site, system, 'all')
    await phone.measure(readings)
    await phone.inBlocks()
    let taps = 1
    while (await phone.step(after)) taps += 1
    expect(taps).toBeLessThanOrEqual(most)
    await expect(page.getByText('Under pressure')).toBeVisible()
    await phone.finish()
    await phone.allSent()
    const [row] = await world.query<{ ticks: number; blocks: number; worked: number }>(
      `with visit as (select b.visit_id, jsonb_array_length(b.tasks) as worked from fact_visit_begun b join site s on s.id = b.site_id
         where s.name = $1 order by b.at desc limit 1)
       select worked, (select count(*)::int from fact_step_done d where d.visit_id = visit.visit_id) as ticks,
         (select count(*)::int from fact_block_done d where d.visit_id = visit.visit_id) as blocks from visit`,
      [site],
    )
    expect(row?.worked).toBe(stages)
    expect(row?.blocks).toBeGreaterThan(2)
    expect((row?.ticks ?? 99) + (row?.blocks ?? 99)).toBeLessThanOrEqual(2 * most)
  })
}
