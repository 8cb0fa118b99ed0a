import axe from 'axe-core'
import type { Technician } from './driver/technician'
import { expect, opened, type Page, test, type World } from './world'

const SCREENS: readonly [string, string, RegExp][] = [
  ['Today', '/today', /driving|No stops today|eeds action|othing to act on/],
  ['Round', '/round', /Unscheduled/],
  ['The year', '/year', /Each thing is planned when it is due/],
  ['Calendar and files', '/round-files', /secret address/],
  ['The van', '/van', /in the van|Nothing to load/],
  ['Times', '/times', /What the round is planned by/],
  ['Driving times', '/driving-times', /Address of the routing server/],
  ['Crossings', '/crossings', /Add a crossing/],
  ['Due', '/due?until=now', /since/],
  ['Due, nothing found', '/due?text=nowhere', /Nothing is due here/],
  ['Sites', '/sites', /Boatyard/],
  ['Shelf', '/shelf', /Parts for the coming/],
  ['Catalogue', '/shelf?show=parts', /BRK-SED-10/],
  ['Media', '/shelf?show=media', /Fingers along the pleats|our default/],
  ['Housings', '/shelf?show=housings', /Pressure leaves by/],
  ['Chlorine', '/shelf?show=chlorine', /by its label/],
  ['Import a list', '/intake', /Choose a file/],
  ['Book', '/book', /Fitted/],
  ['Settings', '/me', /Signed in on/],
  ['The firm', '/firm', /Methods/],
  ['The firm’s data', '/firm-data', /Everything in one file/],
  ['Customers who left', '/sites/left', /Nobody has left/],
]

const WHOLE_FORM = 6000

/** At a desk the wide layouts of these differ from the phone's. */
const AT_A_DESK = ['Today', 'Round', 'Due', 'Sites', 'Shelf', 'Book']

declare global {
  interface Window {
    axe: typeof axe
  }
}

/** What is broken on the page as it stands, by one look: the rules are brought to it once a load. */
async function serious(page: Page, rules: string[] | null): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  return page.evaluate(async (only) => {
    const { violations } = await window.axe.run(document, {
      resultTypes: ['violations'],
      ...(only === null ? {} : { runOnly: { type: 'rule', values: only } }),
    })
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html} ${nodes[0]?.any[0]?.message ?? ''}`)
  }, rules)
}
/** Every rule in the light theme; the dark one differs by its colours alone. */
async function check(page: Page, name: string): Promise<void> {
  expect({ name, light: await serious(page, null) }).toEqual({ name, light: [] })
  await page.emulateMedia({ colorScheme: 'dark', reducedMotion: 'reduce' })
  await expect(page.locator('html')).toHaveClass(/dark/)
  expect({ name, dark: await serious(page, ['color-contrast']) }).toEqual({ name, dark: [] })
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' })
  await expect(page.locator('html')).not.toHaveClass(/dark/)
}

async function inTheLight(page: Page, world: World, size: 'phone' | 'desk'): Promise<Technician> {
  const person = await opened(page, world, size)
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' })
  return person
}

test('no serious violation on the wide layouts of a desk', async ({ page, world }) => {
  const person = await inTheLight(page, world, 'desk')
  await person.signedIn('isla@fennick.example')
  for (const [name, path, there] of SCREENS.filter(([one]) => AT_A_DESK.includes(one))) {
    await person.go(path)
    await expect(page.getByText(there).first()).toBeVisible()
    expect({ name, light: await serious(page, null) }).toEqual({ name, light: [] })
  }
})

test('no serious violation on any screen of a phone, in both themes', async ({ page, world }) => {
  const person = await inTheLight(page, world, 'phone')
  await person.go('/sign-in')
  await expect(page.getByText('Demo: Skellan Sound')).toBeVisible()
  await check(page, 'Sign-in')
  await person.signedIn('isla@fennick.example')
  const jobs = await world.query<{ id: string; stand: string; site_id: string }>('select id, stand, site_id from disinfection')
  const [one] = jobs
  const ofJobs: typeof SCREENS = [
    ['Plan a disinfection', `/disinfect/new?site=${one?.site_id}`, /Every outlet it must reach/],
    ...jobs.map(({ id, stand }): (typeof SCREENS)[number] => [`Disinfection, ${stand}`, `/disinfect/${id}`, /drilled well/]),
  ]
  for (const [name, path, there] of [...SCREENS, ...ofJobs]) {
    await person.go(path)
    await expect(page.getByText(there).first()).toBeVisible()
    // A label that is scrolled away counts as hidden: a long form is looked at whole.
    const whole = (path.startsWith('/disinfect') || path === '/times') && page.viewportSize()
    if (whole) await page.setViewportSize({ ...whole, height: WHOLE_FORM })
    await check(page, name)
    if (whole) await page.setViewportSize(whole)
  }
})

test('no serious violation on the pages of one site, one stage, one system of pipes, in both themes', async ({ page, world }) => {
  const person = await inTheLight(page, world, 'phone')
  await person.signedIn('isla@fennick.example')
  const [site] = await world.query<{ id: string }>(`select id from site where name = 'Lighthouse guesthouse'`)
  await person.go(`/sites/${site?.id}`)
  await expect(page.getByText('Access')).toBeVisible()
  await check(page, 'A site with a hold')
  await person.go(`/hours/${site?.id}`)
  await expect(page.getByText('Shut for a season')).toBeVisible()
  const seen = page.viewportSize()
  if (seen) await page.setViewportSize({ ...seen, height: WHOLE_FORM })
  await check(page, 'Hours of a site')
  if (seen) await page.setViewportSize(seen)
  const [stage] = await world.query<{ stage_id: string }>(
    `select f.stage_id from stage_forecast f join site on site.id = f.site_id where site.name = 'Gannet Row 3' and f.media = 'membrane'`,
  )
  await person.go(`/stage/${stage?.stage_id}`)
  await expect(page.getByText('What sat here')).toBeVisible()
  await check(page, 'A stage')
  const [system] = await world.query<{ id: string }>(`select id from system where name = 'Bottling line'`)
  await person.go(`/system/${system?.id}`)
  await page.getByRole('button', { name: /^2 · Carbon/ }).click()
  await expect(page.getByRole('button', { name: 'Later' })).toBeVisible()
  // The label of a field that is scrolled away counts as hidden.
  await page.getByRole('textbox', { name: 'Name' }).scrollIntoViewIfNeeded()
  await page.getByRole('main').hover()
  await page.mouse.wheel(0, -5000)
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeInViewport()
  await check(page, 'Plumbing')
})

test('no serious violation on a visit from the stop to the book, in both themes', async ({ page, world }) => {
  const person = await inTheLight(page, world, 'phone')
  await person.signedIn('isla@fennick.example')
  const [stop] = await world.query<{ id: string }>(
    `select stop.id from stop join site on site.id = stop.site_id where site.name = 'Rope walk café'`,
  )
  await person.go(`/stop/${stop?.id}`)
  await expect(page.getByText('Access')).toBeVisible()
  await check(page, 'The stop')
  await person.go(`/stop/${stop?.id}/measure`)
  await expect(page.getByLabel('Untreated', { exact: true })).toBeVisible()
  await person.typeReadings({ untreated: '26', treated: '41' })
  await expect(page.getByText('Is 26 right')).toBeVisible()
  await check(page, 'Measure, with a doubt')
  await person.typeReadings({ untreated: '262', treated: '28' })
  await check(page, 'Measure, with a verdict')
  await page.getByTestId('measured').click()
  await expect(person.act).toBeVisible()
  await check(page, 'The run sheet')
  await person.go(`/stop/${stop?.id}/finish`)
  await expect(page.getByTestId('finish')).toBeVisible()
  await check(page, 'Finish')
  const [visit] = await world.query<{ visit_id: string }>('select visit_id from fact_visit_finished order by at desc limit 1')
  await person.go(`/book/${visit?.visit_id}`)
  await expect(page.getByText('Parts')).toBeVisible()
  await check(page, 'A visit in the book')
})
