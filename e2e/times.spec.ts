import { Planner } from './driver/planner'
import { expect, test, type World } from './world'

// Days off and calls change what is planned: a world of their own.
test.use({ ownWorld: 'times' })
test.describe.configure({ mode: 'default' })

const one = async <R>(world: World, sql: string): Promise<R> => (await world.query<R & object>(sql))[0] as R

test('working times, a holiday typed, a calendar brought in: the round has other days', async ({ desk, world }) => {
  await desk.signedIn('isla@fennick.example')
  const { page } = desk
  await desk.go('/firm')
  await page.getByText('Working times, days off, what the round is planned by').click()
  const tam = page.getByTestId('times-Tam Orrin')
  await tam.getByRole('checkbox', { name: 'Fri' }).click()
  await tam.getByLabel('To', { exact: true }).fill('14.30')
  await tam.getByRole('button', { name: 'Save the times' }).click()
  await expect(page.getByTestId('times-Tam Orrin').getByLabel('To', { exact: true })).toHaveValue('14:30')
  const { weekdays, to_min } = await one<{ weekdays: number[]; to_min: number }>(
    world,
    `select w.weekdays, w.to_min from work_time w join person p on p.id = w.id where p.name = 'Tam Orrin'`,
  )
  expect([weekdays, to_min]).toEqual([[2, 4, 5], 870])
  // What cannot be is said at the field and not sent.
  await tam.getByLabel('From', { exact: true }).fill('half past')
  await tam.getByRole('button', { name: 'Save the times' }).click()
  await expect(tam.getByText('like 8:00')).toBeVisible()

  const { day } = await one<{ day: string }>(
    world,
    `select to_char(date_trunc('week', test_clock()::date + 21) + interval '3 days', 'YYYY-MM-DD') as day`,
  )
  await page.getByLabel('First day').fill(day)
  await page.getByLabel('Why').fill('Lamp night')
  await page.getByRole('button', { name: 'Add the days' }).click()
  await expect(page.getByText('Lamp night')).toBeVisible()
  const calendar = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//a//b//EN', 'BEGIN:VEVENT', 'UID:1', 'DTSTART;VALUE=DATE:20270101']
  const text = [...calendar, 'RRULE:FREQ=YEARLY', 'SUMMARY:New year', 'END:VEVENT', 'END:VCALENDAR'].join('\r\n')
  const pick = page.getByLabel('Import holidays (iCalendar)')
  await pick.setInputFiles({ name: 'holidays.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) })
  await expect(page.getByText(/added, 0 known already/)).toBeVisible()
  await pick.setInputFiles({ name: 'notes.ics', mimeType: 'text/calendar', buffer: Buffer.from('milk, bread') })
  await expect(page.getByText(/iCalendar file|did not understand|not right/).first()).toBeVisible()

  const isla = new Planner(desk)
  await isla.open()
  await isla.planAndTake()
  const set = await one<{ off: boolean; fridays: number }>(
    world,
    `select not (s.set::jsonb->'days' ? '${day}') as off, (select count(*)::int from json_array_elements_text(s.set->'days') d where extract(isodow from d::date) = 5) as fridays
     from round_draft d join round_set s on s.id = d.set_id`,
  )
  expect(set.off).toBe(true)
  expect(set.fridays).toBeGreaterThan(8)
})

test('a site’s quiet hours are kept by the plan, and bad ones are said at the field', async ({ desk, world }) => {
  await desk.signIn('isla@fennick.example')
  const { page } = desk
  await desk.openSite('Lantern bakery')
  await page.getByRole('button', { name: 'Hours and closings' }).click()
  const field = page.getByLabel('Service hours')
  await field.fill('13-15, 9-10')
  await field.blur()
  await expect(page.getByText('Times like 8-12, 13:30-16, one after another')).toBeVisible()
  await field.fill('9-10:30, 13-15')
  await page.getByRole('checkbox', { name: 'Mon', exact: true }).click()
  await page.getByRole('button', { name: 'Save the hours' }).click()
  await expect(field).toHaveValue('09:00-10:30, 13:00-15:00')
  const isla = new Planner(desk)
  await isla.open()
  await isla.planAndTake()
  const starts = await world.query<{ start: number; leave: number }>(
    `select (stop->>'startMin')::float as start, (stop->>'leaveMin')::float as leave from round_draft d join round_set s on s.id = d.set_id,
     json_array_elements(s.set->'visits') v, jsonb_array_elements(d.plan->'days') line, jsonb_array_elements(line->'stops') stop
     where v->>'siteName' = 'Lantern bakery' and stop->>'visit' = v->>'id'`,
  )
  expect(starts.length).toBeGreaterThan(0)
  for (const { start, leave } of starts) expect((start >= 540 && leave <= 630) || (start >= 780 && leave <= 900)).toBe(true)
})

test('somebody calls: a visit is asked for and a place is found for it within its days', async ({ desk, world }) => {
  await desk.signIn('isla@fennick.example')
  const isla = new Planner(desk)
  const { page } = isla
  await isla.open()
  await isla.button('Somebody called…').click()
  const form = page.getByTestId('called')
  await form.getByLabel('Which site').selectOption({ label: 'Tern House' })
  await form.getByLabel('What is the matter').fill('No water at the tap')
  await form.getByRole('radio', { name: 'a week' }).click()
  await form.getByRole('button', { name: 'Find a place for it' }).click()
  await expect(page.getByTestId('proposal')).toContainText('Tern House: no day →')
  await isla.button('Apply plan').click()
  await expect(page.getByTestId('proposal')).toBeHidden()
  const [row] = await world.query<{ n: string }>(
    `select count(*) as n from round_draft d join round_extra e on e.firm_id = d.firm_id, jsonb_array_elements(d.plan->'days') line,
     jsonb_array_elements(line->'stops') stop where stop->>'visit' = e.id::text`,
  )
  expect(row?.n).toBe('1')
})

test('a promise is kept within its window, a forbidden day left, a missing part waited for', async ({ desk, world }) => {
  await desk.signIn('isla@fennick.example')
  const isla = new Planner(desk)
  await isla.open()
  if (await isla.button('Plan the quarter').isVisible()) await isla.planAndTake()
  await isla.openVisit(2)
  await isla.panel.getByRole('button', { name: 'Promise…' }).click()
  await isla.panel.getByLabel('from').fill('11')
  await isla.panel.getByLabel('to', { exact: true }).fill('9')
  await expect(isla.panel.getByText('It must end after it begins')).toBeVisible()
  await isla.panel.getByLabel('to', { exact: true }).fill('12:30')
  await isla.panel.getByRole('button', { name: 'Keep the promise' }).click()
  await expect(isla.panel).toBeHidden()
  const promised = await one<{ visit_id: string; day: string }>(world, `select visit_id, day::text from round_mark where kind = 'promise'`)
  const starts = async (): Promise<{ start: number; day: string } | undefined> =>
    (
      await world.query<{ start: number; day: string }>(
        `select (stop->>'startMin')::float as start, s.set->'days'->>((line->>'day')::int) as day from round_draft d join round_set s on s.id = d.set_id,
         jsonb_array_elements(d.plan->'days') line, jsonb_array_elements(line->'stops') stop where stop->>'visit' = $1`,
        [promised.visit_id],
      )
    )[0]
  await expect.poll(async () => (await starts())?.day).toBe(promised.day)
  const { start } = (await starts()) ?? { start: 0 }
  expect(start).toBeGreaterThanOrEqual(660)
  expect(start).toBeLessThanOrEqual(750)
  await isla.openVisit(2)
  const name = await isla.panel.getByRole('heading', { level: 2 }).innerText()
  await isla.panel.getByRole('button', { name: 'Forbid this day' }).click()
  await expect(isla.panel).toBeHidden()
  const forbidden = await one<{ visit_id: string; day: string }>(world, `select visit_id, day::text from round_mark where kind = 'forbid'`)
  expect(name.length).toBeGreaterThan(0)
  const takeProposal = async (): Promise<void> => {
    const proposal = isla.page.getByTestId('proposal')
    await expect(proposal).toContainText('no day →')
    await isla.button('Apply plan').click()
    await expect(proposal).toBeHidden()
  }
  const dayOf = async (visit: string): Promise<string | undefined> =>
    (
      await world.query<{ day: string }>(
        `select s.set->'days'->>((line->>'day')::int) as day from round_draft d join round_set s on s.id = d.set_id,
         jsonb_array_elements(d.plan->'days') line, jsonb_array_elements(line->'stops') stop where stop->>'visit' = $1`,
        [visit],
      )
    )[0]?.day
  await takeProposal()
  const found = await dayOf(forbidden.visit_id)
  expect(found).toBeDefined()
  expect(found).not.toBe(forbidden.day)
  await isla.openVisit(0)
  await isla.panel.getByRole('button', { name: 'Part not there…' }).click()
  const { there } = await one<{ there: string }>(world, `select to_char(test_clock()::date + 45, 'YYYY-MM-DD') as there`)
  await isla.panel.getByLabel('The part is there from').fill(there)
  await isla.panel.getByRole('button', { name: 'Not before that day' }).click()
  await takeProposal()
  const waiting = await one<{ visit_id: string }>(world, `select visit_id from round_mark where kind = 'not-before'`)
  expect((await dayOf(waiting.visit_id)) ?? '').toMatch(/^\d/)
  expect(((await dayOf(waiting.visit_id)) ?? '') >= there).toBe(true)
})
