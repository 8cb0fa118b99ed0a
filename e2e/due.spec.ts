import type { Technician } from './driver/technician'
import { expect, test } from './world'

// Rules and uses that are chosen here move what other files look at.
test.use({ ownWorld: 'due' })
test.describe.configure({ mode: 'default' })

/** Opens the page of a stage from its site's page. */
async function openStage(person: Technician, site: string, nr: number): Promise<void> {
  await person.openSite(site)
  await person.page.getByRole('link', { name: /why$/ }).nth(nr).click()
  await expect(person.page.getByRole('heading', { name: /^The day to change: / })).toBeVisible()
}

const SENTENCE = /^(Change by|Overdue since|Spent, very likely|Probably spent)/

test('a contract is chosen for a system: one day on the stage, the site and the list, and the firm’s page counts it', async ({
  phone,
  world,
}) => {
  const { page } = phone
  await phone.signIn('isla@fennick.example')
  await openStage(phone, 'Tern House', 2)
  await page.getByRole('button', { name: 'Change the rule' }).click()
  await page.getByRole('radio', { name: 'this system' }).click()
  await page.getByRole('radio', { name: 'By contract' }).click()
  await page.getByRole('button', { name: 'Save the rule' }).click()
  await expect(page.getByText('A whole number of months, 1 to 240')).toBeVisible()
  await page.getByLabel('Every', { exact: true }).fill('36')
  await expect(page.getByRole('status').filter({ hasText: /due day/ })).toBeVisible()
  await page.getByRole('button', { name: 'Save the rule' }).click()
  await expect(page.getByRole('heading', { name: 'The day to change: contract of 3 years' })).toBeVisible()
  await expect(page.getByText(/^Chosen for this system\./)).toBeVisible()
  const sentence = await page.getByText(SENTENCE).first().innerText()
  await phone.openSite('Tern House')
  await expect(page.getByText(sentence, { exact: true }).first()).toBeVisible()
  const stages = await world.query<{ stage_id: string; due: { due: string; setBy: string } }>(
    `select f.stage_id, f.due from stage_forecast f join site on site.id = f.site_id where site.name = 'Tern House' and f.rule->>'by' = 'contract'`,
  )
  expect(stages.length).toBeGreaterThan(0)
  const listed = await page.evaluate(async () => (await fetch('/api/due?text=Tern%20House&limit=100')).json())
  for (const { stage_id, due } of stages) {
    const row = listed.rows.find(({ stageId }: { stageId: string }) => stageId === stage_id)
    expect(row.due.due).toBe(due.due)
    const stage = await page.evaluate(async (id) => (await fetch(`/api/stages/${id}`)).json(), stage_id)
    expect(stage.due.due).toBe(due.due)
  }
  await phone.go('/rules')
  await expect(page.getByText('As it was done')).toBeVisible()
  await expect(page.getByText(/1 system\b/)).toBeVisible()
})

test('what is spent stands first in the list, is counted on Today and is ticked where work begins', async ({ phone, world }) => {
  const { page } = phone
  const [spent] = await world.query<{ name: string; system: string; position: string }>(
    `select site.name, y.name as system from stage_forecast f join site on site.id = f.site_id join system y on y.id = f.system_id
     where f.spent_on <= test_clock()::date order by f.due_on limit 1`,
  )
  if (!spent) throw new Error('nothing is spent in this world')
  await phone.signIn()
  await expect(page.getByText(/^In the firm: \d+ spent/)).toBeVisible()
  await page.getByText(/^In the firm: /).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Due' })).toBeVisible()
  await expect(page.getByRole('link', { name: /: due (now|since)/ }).first()).toBeVisible()
  await phone.openSite(spent.name)
  await expect(page.getByText(/^(Spent, very likely|Probably spent) \(\d+ in 100\)\. Change it now: /).first()).toBeVisible()
  const system = page.getByRole('heading', { level: 2, name: spent.system, exact: true }).locator('xpath=..')
  await system.getByRole('button', { name: 'Work here today' }).click()
  await expect(
    page
      .getByRole('group', { name: `What is done at ${spent.system}` })
      .getByRole('checkbox', { checked: true })
      .first(),
  ).toBeVisible()
})

test('a café’s guests are typed: the litres a day follow, and what was said is shown beside', async ({ phone }) => {
  const { page } = phone
  await phone.signIn()
  await openStage(phone, 'Rope walk café', 1)
  await expect(page.getByRole('heading', { name: 'Drawn: about 2.4 L a day' })).toBeVisible()
  await page.getByRole('button', { name: 'Say how much is drawn' }).click()
  await page.getByRole('radio', { name: 'Guests a day' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('A number above 0')).toBeVisible()
  await page.getByLabel('How much').fill('80')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  // 80 guests at 0.6 L each.
  await expect(page.getByRole('heading', { name: 'Drawn: about 48 L a day' })).toBeVisible()
  await expect(page.getByText('Said of this system: 80 guests a day.')).toBeVisible()
})

test('a reading at the door, without a visit: the slip is asked about, kept and marked; what the water is fit for is said', async ({
  phone,
  world,
}) => {
  const { page } = phone
  await phone.signIn()
  await phone.openSite('Net loft cottage')
  await page.getByRole('button', { name: 'Take a reading' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'A reading at the door' })).toBeVisible()
  await page.getByLabel('Treated', { exact: true }).fill('9400')
  await page.getByLabel('Untreated', { exact: true }).fill('95')
  await expect(page.getByText(/Nothing in this set puts so much into the water/)).toBeVisible()
  await page.getByTestId('keep-reading').click()
  await expect(page.getByText('Answer the question about the reading first.')).toBeVisible()
  await page.getByLabel('Treated', { exact: true }).fill('94')
  await expect(page.getByText(/To drink it tastes excellent/)).toBeVisible()
  await page.getByTestId('keep-reading').click()
  await expect(page.getByText('Kept as a reading of this system')).toBeVisible()
  await expect
    .poll(() =>
      world.query(
        `select 1 from fact_tds_reading f join site on site.id = f.site_id where site.name = 'Net loft cottage' and f.tds_mg_l in (94, 95) and f.at > test_clock() - interval '1 hour'`,
      ),
    )
    .toHaveLength(2)
})
