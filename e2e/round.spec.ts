import { Planner } from './driver/planner'
import { Technician } from './driver/technician'
import { expect, test, type World } from './world'

// Publishing writes everybody's days anew, where other files count theirs.
test.use({ ownWorld: 'round' })
test.describe.configure({ mode: 'default' })

const one = async <R>(world: World, sql: string, values: unknown[] = []): Promise<R> => (await world.query<R & object>(sql, values))[0] as R

test('a quarter is planned, argued with, carried, pinned, mended after a sick day and published; Tam’s phone and calendar have it', async ({
  desk,
  browser,
  world,
}) => {
  await desk.signIn('isla@fennick.example')
  const isla = new Planner(desk)
  const { page } = isla
  await isla.open()
  await expect(page.getByText('not published yet')).toBeVisible()
  await expect(page.getByTestId('round-summary')).toContainText('unscheduled')
  await isla.button('Plan the quarter').click()
  await expect(page.getByTestId('planning')).toBeVisible()
  const proposal = page.getByTestId('proposal')
  await expect(proposal).toBeVisible()
  await expect(proposal).toContainText('workload imbalance')
  // The page is closed before anybody decides: the plan is offered again.
  await page.reload()
  await expect(proposal).toContainText('Planned by the server for Isla Fennick')
  // Nothing is taken by looking.
  expect((await one<{ n: number }>(world, "select jsonb_array_length(plan->'unplanned') as n from round_draft")).n).toBeGreaterThan(0)
  await isla.button('Apply plan').click()
  await expect(proposal).toBeHidden()
  await expect(page.getByTestId('round-summary')).toContainText('everything is scheduled')

  await test.step('why this day, and a carry by pointer with its price before it is let go', async () => {
    await isla.button(/›$/).click()
    const first = isla.visits().first()
    await first.click()
    await expect(page.getByTestId('why')).toContainText(/Why \w+day\?/)
    await isla.panel.getByRole('button', { name: 'Close' }).click()
    const lines = isla.lines()
    const blocks = await isla.visits().count()
    let carried = false
    // Where every other day of the week is shut to one visit, the next one is tried.
    for (let tried = 0; tried < blocks * (await lines.count()) && !carried; tried++) {
      const block = isla.visits().nth(tried % blocks)
      const target = lines.nth((await lines.count()) - 1 - Math.floor(tried / blocks))
      const name = await isla.nameOf(block)
      const { version } = await one<{ version: number }>(world, 'select version from round_draft')
      const to = await isla.carry(block, target)
      if (to === null) continue
      carried = true
      await expect.poll(async () => (await one<{ version: number }>(world, 'select version from round_draft')).version).toBe(version + 1)
      await expect(page.getByTestId(to).getByRole('button', { name: new RegExp(`^${name}`) })).toBeVisible()
    }
    expect(carried).toBe(true)
  })

  const pinned = await test.step('pinned by key: planning again leaves it on its day', async () => {
    await page.keyboard.press('Escape')
    await page.keyboard.press('j')
    await expect(isla.panel).toBeVisible()
    await isla.panel.getByRole('button', { name: 'Pin to this day' }).click()
    await expect.poll(async () => (await one<{ n: string }>(world, "select count(*) as n from round_mark where kind = 'pin'")).n).toBe('1')
    const mark = await one<{ visit_id: string; day: string }>(world, "select visit_id, day::text from round_mark where kind = 'pin'")
    await isla.planAndTake()
    return mark
  })
  const dayOf = async (visit: string): Promise<string | undefined> =>
    (
      await one<{ day?: string } | undefined>(
        world,
        `select s.set->'days'->>((line->>'day')::int) as day from round_draft d join round_set s on s.firm_id = d.firm_id and s.id = d.set_id,
         jsonb_array_elements(d.plan->'days') line, jsonb_array_elements(line->'stops') stop where stop->>'visit' = $1`,
        [visit],
      )
    )?.day
  expect(await dayOf(pinned.visit_id)).toBe(pinned.day)

  await test.step('somebody is ill: a proposal with the few moves, and the day is free', async () => {
    await isla.button('Somebody is ill…').click()
    const ill = page.getByTestId('ill')
    await ill.getByRole('radio', { name: 'Tam' }).click()
    const days = ill.getByRole('radiogroup', { name: 'Which day' }).getByRole('radio')
    await days.nth(2).click()
    await ill.getByRole('button', { name: 'Find other days' }).click()
    const proposal = page.getByTestId('proposal')
    await expect(proposal).toBeVisible()
    await expect(proposal).toContainText(/→|Nothing would move/)
    await isla.button('Apply plan').click()
    await expect(proposal).toBeHidden()
    const off = await one<{ n: string }>(
      world,
      `select count(*) as n from round_draft d join round_set s on s.firm_id = d.firm_id and s.id = d.set_id join day_off o on o.firm_id = d.firm_id,
       jsonb_array_elements(d.plan->'days') line where line->>'technician' = o.person_id::text and s.set->'days'->>((line->>'day')::int) = o.from_day::text`,
    )
    expect(off.n).toBe('0')
  })

  const number = await isla.publish()
  expect(number).toBe(1)
  const planned = await world.query<{ day: string; site: string }>(
    `select s.day, site.name as site from stop s join site on site.firm_id = s.firm_id and site.id = s.site_id join person p on p.firm_id = s.firm_id
     and p.id = s.technician_id where p.name = 'Tam Orrin' and s.publication = 1 order by s.day, s.order_no`,
  )
  expect(planned.length).toBeGreaterThan(8)

  await test.step('on Tam’s phone: what is new, his days, his calendar', async () => {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
    try {
      const tam = new Technician(await context.newPage(), world.url)
      await tam.signIn()
      await expect(tam.page.getByText(`Round number ${number} is published`)).toBeVisible()
      await tam.page.getByRole('button', { name: 'Dismiss' }).click()
      await expect(tam.page.getByText(`Round number ${number} is published`)).toBeHidden()
      await tam.go('/round')
      await expect(tam.page.getByText(planned[0]?.site ?? '').first()).toBeVisible()
      await expect(tam.page.getByRole('button', { name: 'Publish…' })).toBeHidden()
      await tam.go('/round-files')
      const [file] = await Promise.all([tam.page.waitForEvent('download'), tam.page.getByText('Your round as a calendar file').click()])
      const text = await (await file.createReadStream()).toArray().then((parts) => Buffer.concat(parts as Buffer[]).toString())
      expect(text).toContain('BEGIN:VCALENDAR')
      for (const { site } of planned.slice(0, 3)) expect(text.replaceAll('\r\n ', '')).toContain(site.replace(',', '\\,'))
      await tam.page.getByRole('button', { name: 'Make a secret address' }).click()
      const address = await tam.page.getByTestId('feed-address').innerText()
      const feed = await (await browser.newContext()).request.get(address)
      expect([feed.status(), (await feed.text()).includes('BEGIN:VEVENT')]).toEqual([200, true])
    } finally {
      await context.close()
    }
  })
})

test('two plan at once: both moves stand, and what one changed the other sees', async ({ desk, browser, world }) => {
  await desk.signIn('isla@fennick.example')
  const isla = new Planner(desk)
  await isla.open()
  if (await isla.button('Plan the quarter').isVisible()) await isla.planAndTake()
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  try {
    const second = new Technician(await context.newPage(), world.url)
    await second.signIn('isla@fennick.example')
    const other = new Planner(second)
    await other.open()
    const first = await isla.openVisit(2)
    const theirs = await other.openVisit(3)
    const offered = (planner: Planner) => planner.panel.locator('[data-testid^="carry-"]').first()
    const { version } = await one<{ version: number }>(world, 'select version from round_draft')
    await offered(isla).click()
    await expect(isla.panel).toBeHidden()
    await offered(other).click()
    await expect(other.panel).toBeHidden()
    expect((await one<{ version: number }>(world, 'select version from round_draft')).version).toBe(version + 2)
    expect([first, theirs].every((name) => name.length > 0)).toBe(true)
  } finally {
    await context.close()
  }
})

test.describe('without a network', () => {
  test.use({ keepsProgram: true })

  test('without a network one person’s round is planned on the device and taken when there is one again', async ({ desk, world }) => {
    await desk.signIn('isla@fennick.example')
    const isla = new Planner(desk)
    const { page } = isla
    await isla.open()
    await page.getByRole('radio', { name: 'Tam', exact: true }).click()
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null)
    await page.context().setOffline(true)
    await isla.button(/^Plan the quarter|^Plan again/).click()
    await expect(page.getByText(/Planning on this device/)).toBeVisible()
    await expect(page.getByTestId('proposal')).toBeVisible()
    await page.context().setOffline(false)
    await isla.button('Apply plan').click()
    await expect(page.getByTestId('proposal')).toBeHidden()
    expect((await one<{ n: number }>(world, "select jsonb_array_length(plan->'days') as n from round_draft")).n).toBeGreaterThan(5)
  })
})

test('the van is loaded by ticks; what is short says by when to order', async ({ phone }) => {
  await phone.signIn()
  const { page } = phone
  await page.getByRole('link', { name: /Load the van/ }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Load Dipper' })).toBeVisible()
  const part = page.getByTestId('van-BRK-SED-10')
  await part.click()
  await expect(part).toHaveAttribute('aria-checked', 'true')
  await part.click()
  await expect(part).toContainText(/order/)
  await page.reload()
  await expect(page.getByTestId('van-BRK-SED-10')).toContainText(/Short/)
  await page.getByRole('radio', { name: 'Seven days' }).click()
  await expect(page.getByText(/of \d+ in the van/)).toBeVisible()
})
