import { expect, type Locator, type Page } from '@playwright/test'
import { stopAt, tickUntil } from './ahead'

export const PASSWORD = 'skellan-sound'

interface Measured {
  untreated: string
  treated: string
  temperature?: string
}

/** What stands on the screen at a step, or at the next tap of a block. */
interface Seen {
  /** All that names it: another one stands there once it is done. */
  text: string
  /** Its words: the step's, or those of each step of the next tap. */
  lines: string[]
  label: string
  /** How many parts it asks about: how they came out. */
  found: number
  /** It asks whether the train is as drawn. */
  drawn: boolean
}

/**
 * In the page: what names the present step, or the steps of the next tap, where that is not `was`; its clock and what was chosen leave it
 * alone.
 */
function rungOtherThan(was: string | null): string | null {
  const rung = document.querySelector<HTMLElement>('[data-testid="rung"]')
  const parts = [/^(Step|Block) \d+/.exec(rung?.innerText ?? '')?.[0]]
  for (const selector of ['h1', '[aria-label="Steps of the next tap"]']) parts.push(rung?.querySelector<HTMLElement>(selector)?.innerText)
  const name = parts.join(' | ')
  return name === was ? null : name
}

/** A person at work with the app, on a phone or at a desk: the same acts, whatever the size. */
export class Technician {
  constructor(
    readonly page: Page,
    readonly url: string,
  ) {}

  get act(): Locator {
    return this.page.getByTestId('rung-act')
  }

  /** By its address: the program is loaded anew. */
  async load(path: string): Promise<void> {
    await this.page.goto(`${this.url}${path}`)
  }

  /** To another screen as a link within the program leads there; by its address where the program is not open yet. */
  async go(path: string): Promise<void> {
    if (!this.page.url().startsWith(this.url)) return this.load(path)
    await this.page.evaluate((to) => {
      history.pushState(null, '', to)
      dispatchEvent(new PopStateEvent('popstate'))
    }, path)
  }

  /** Goes to one of the five places as a thumb does; where no bar of places stands, by its address. */
  private async toPlace(path: '/today' | '/sites'): Promise<void> {
    if (new URL(this.page.url()).pathname === path) return
    const link = this.page.getByRole('navigation', { name: 'Places' }).locator(`a[href="${path}"]`)
    if (await link.isVisible()) await link.click()
    else await this.go(path)
  }

  /** Signed in by the same route the page uses; the page itself is tried where sign-in is the matter. */
  async signIn(email = 'tam@fennick.example', password = PASSWORD): Promise<void> {
    await this.signedIn(email, password)
    await this.load('/today')
    await this.atHome()
  }

  /** Signed in, with no screen open yet: for who begins elsewhere than on Today. */
  async signedIn(email = 'tam@fennick.example', password = PASSWORD): Promise<void> {
    const answer = await this.page.context().request.post(`${this.url}/api/auth/sign-in`, { data: { email, password } })
    expect(answer.status()).toBe(200)
  }

  private async atHome(): Promise<void> {
    await expect(this.page.getByRole('navigation', { name: 'Places' })).toBeVisible()
    await expect(this.page.getByText(/driving|No stops today|eeds action|othing to act on/)).toBeVisible()
  }

  /** Signs in with the keyboard, as anywhere. */
  async signInByHand(email = 'tam@fennick.example', password = PASSWORD): Promise<void> {
    await this.go('/sign-in')
    await this.page.getByLabel('E-mail').fill(email)
    await this.page.getByLabel('Password').fill(password)
    await this.page.getByLabel('Password').press('Enter')
    await this.atHome()
  }

  /** Waits until the program and what this page shows are kept on the device, so that both open without a network. */
  async onDevice(): Promise<void> {
    const { page } = this
    await expect.poll(() => page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)).toBe('activated')
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null)
    const [, kind, id] = new URL(page.url()).pathname.split('/')
    const root = kind === 'disinfect' ? 'disinfection' : kind
    // What the page asked for stands in the device's own store.
    await expect.poll(async () => (await this.stored('even-round-kept', 'answers')).join()).toContain(`"queryKey":["${root}","${id}"`)
  }

  /** Waits until the server has every fact of this device: a clock that moves while one is on its way makes it look badly set. */
  async allSent(): Promise<void> {
    await expect.poll(() => this.stored('even-round', 'outbox')).not.toContainEqual(expect.objectContaining({ state: 'waiting' }))
  }

  /** How many facts this device keeps that the server has not taken. */
  async waiting(): Promise<number> {
    const all = (await this.stored('even-round', 'outbox')) as { state: string }[]
    return all.filter(({ state }) => state === 'waiting').length
  }

  /** All that the device keeps under a name. */
  private stored(database: string, store: string): Promise<unknown[]> {
    return this.page.evaluate(
      ([name, which]) =>
        new Promise<unknown[]>((resolve, reject) => {
          const open = indexedDB.open(name)
          open.onerror = () => reject(open.error)
          open.onsuccess = () => {
            const read = open.result.transaction(which).objectStore(which).getAll()
            read.onerror = () => reject(read.error)
            read.onsuccess = () => {
              open.result.close()
              resolve(read.result)
            }
          }
        }),
      [database, store] as const,
    )
  }

  async openStop(site: string): Promise<void> {
    await this.toPlace('/today')
    const day = this.page.getByRole('main')
    await expect(day.getByText(site).first()).toBeVisible()
    const row = this.page.getByRole('listitem').filter({ hasText: site })
    if ((await row.count()) > 0) {
      await row.first().click()
      if (!this.page.url().includes('/stop/')) await this.page.keyboard.press('Enter')
    } else {
      await this.page.getByRole('link', { name: site }).click()
    }
    await expect(this.page).toHaveURL(/\/stop\//)
    await expect(this.page.getByRole('heading', { level: 1, name: site })).toBeVisible()
  }

  /** Finds a site by the first letters of its name. */
  async openSite(site: string): Promise<void> {
    await this.toPlace('/sites')
    await this.page.getByRole('textbox', { name: 'Search sites by name or place' }).fill(site)
    await this.page
      .getByRole('link', { name: new RegExp(`^${site}`) })
      .first()
      .click()
    await expect(this.page.getByRole('heading', { level: 1, name: site })).toBeVisible()
  }

  /** A stop nobody planned, begun at once; `putOnToday` takes the way of a thumb there. */
  async workHere(site: string, system: string, media: readonly (string | number)[] | 'all'): Promise<void> {
    await this.go(`/stop/${await stopAt(this.page, this.url, site, system, media)}`)
    await this.page.getByRole('button', { name: 'Start: measure first' }).click()
  }

  /** A stop nobody planned: what is due is ticked on the site's page, then it stands on today. */
  async putOnToday(site: string, system: string, stages: readonly string[]): Promise<void> {
    const { page } = this
    await this.openSite(site)
    const systems = page.getByRole('heading', { level: 2, name: system, exact: true })
    await systems.locator('xpath=..').getByRole('button', { name: 'Work here today' }).click()
    const choice = page.getByRole('group', { name: `What is done at ${system}` })
    // What was saved a moment ago may still be on its way to this page.
    for (const stage of stages) await expect(choice.getByRole('checkbox', { name: new RegExp(stage) }).first()).toBeVisible()
    for (const box of await choice.getByRole('checkbox').all()) {
      const label = await box.innerText()
      const should = stages.some((stage) => label.includes(stage))
      if (((await box.getAttribute('aria-checked')) === 'true') !== should) await box.click()
    }
    await choice.getByRole('button', { name: 'Put it on today' }).click()
    await expect(page).toHaveURL(/\/stop\//)
    await expect(page.getByRole('button', { name: 'Start: measure first' })).toBeVisible()
  }

  async typeReadings({ untreated, treated, temperature }: Measured): Promise<void> {
    await this.page.getByLabel('Treated', { exact: true }).fill(treated)
    await this.page.getByLabel('Untreated', { exact: true }).fill(untreated)
    if (temperature !== undefined) await this.page.getByLabel('Water temperature').fill(temperature)
  }

  async measure(measured: Measured): Promise<void> {
    await this.typeReadings(measured)
    await this.page.getByTestId('measured').click()
    await expect(this.page).toHaveURL(/\/sheet$/)
  }

  /** What the present rung says. */
  present(): Promise<string> {
    return this.page.getByRole('heading', { level: 1 }).first().innerText()
  }

  /** Does the present step, or what the next tap of a block ticks, whatever it asks for; false when the sheet is at its end. */
  async step(after: Measured): Promise<boolean> {
    const { page } = this
    const seen = await this.look()
    if (seen === null) return false
    const { text, label, found, drawn } = seen
    if (label === 'Measure') {
      await this.act.click()
      await this.measure(after)
    } else {
      for (let part = 0; part < found; part++) {
        await page
          .getByRole('radio', { name: /^expected/ })
          .nth(part)
          .click()
        const dirt = page.getByRole('radio', { name: 'Clean after it' }).nth(part)
        if (await dirt.isVisible()) await dirt.click()
      }
      if (drawn) await page.getByRole('radio', { name: 'Yes, as drawn' }).click()
      const salt = page.getByLabel('Salt filled in', { exact: true })
      if (await salt.isVisible()) await salt.fill('10')
      const starts = (await this.act.innerText()).startsWith('Start the')
      await this.act.click()
      if (starts) {
        await expect(page.getByTestId('rung').getByRole('timer')).toBeVisible()
        await this.act.click()
      }
    }
    // Waits for the screen itself, not for the next look at it: there are eighty steps. What is found can change how many there are in all.
    await page.waitForFunction(rungOtherThan, text)
    return true
  }

  /** What the next tap does as it stands on the screen, in one look; null at the end of the sheet. */
  private async look(): Promise<Seen | null> {
    const { page } = this
    await this.act.or(page.getByTestId('to-finish')).waitFor()
    const name = (await page.evaluate(rungOtherThan, null)) ?? ''
    return page.evaluate((named): Seen | null => {
      const all = (selector: string): HTMLElement[] =>
        [...document.querySelectorAll<HTMLElement>(selector)].filter((one) => one.checkVisibility())
      const text = (selector: string): string => all(selector)[0]?.innerText ?? ''
      if (all('[data-testid="to-finish"]').length > 0) return null
      return {
        text: named,
        lines: [text('h1'), ...all('[aria-label="Steps of the next tap"] [role="listitem"]').map((line) => line.innerText)],
        label: text('[data-testid="rung-act"]'),
        found: all('[role="radiogroup"][aria-label="How was it?"]').length,
        drawn: all('[role="radiogroup"][aria-label="Your answer"]').length > 0,
      }
    }, name)
  }

  /** Sees the sheet in blocks, each ticked at once, from here on. */
  async inBlocks(): Promise<void> {
    await this.page.getByRole('radio', { name: 'Blocks' }).click()
    await expect(this.page.getByTestId('rung')).toContainText('Block ')
  }

  /** Follows the sheet until the present rung says this. */
  async stepUntil(text: string | RegExp, after: Measured): Promise<void> {
    for (let steps = 0; steps < 120; steps++) {
      const lines = (await this.look())?.lines ?? []
      if (lines.some((line) => (typeof text === 'string' ? line === text : text.test(line)))) return
      if (!(await this.step(after))) throw new Error(`the sheet ended before ${text}`)
    }
  }

  /** Goes on at a step further down: what stands before it is ticked off elsewhere. */
  async beginAt(text: RegExp): Promise<void> {
    const [, id = ''] = /stop\/([^/]+)/.exec(this.page.url()) ?? []
    await this.allSent()
    await tickUntil(this.page, this.url, id, text)
    await this.page.reload()
    await expect(this.page.getByTestId('rung').getByRole('heading', { level: 1 })).toHaveText(text)
  }

  async toTheEnd(after: Measured): Promise<number> {
    let steps = 0
    while (await this.step(after)) steps += 1
    return steps
  }

  async finish(): Promise<void> {
    await this.page.getByTestId('to-finish').click()
    await expect(this.page.getByRole('heading', { level: 1, name: 'Finish' })).toBeVisible()
    await this.page.getByTestId('finish').click()
    await expect(this.page.getByText(/It is in the book/)).toBeVisible()
  }
}
