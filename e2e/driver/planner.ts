import { expect, type Locator, type Page } from '@playwright/test'
import type { Technician } from './technician'

/** Somebody who plans the round, at a desk. */
export class Planner {
  constructor(readonly who: Technician) {}

  get page(): Page {
    return this.who.page
  }
  button(name: string | RegExp): Locator {
    return this.page.getByRole('button', { name })
  }
  get panel(): Locator {
    return this.page.getByTestId('visit-panel')
  }
  visits(): Locator {
    return this.page.locator('[data-testid^="visit-"]:not([data-testid="visit-panel"])')
  }
  lines(): Locator {
    return this.page.locator('[data-testid^="line-"]')
  }

  async nameOf(visit: Locator): Promise<string> {
    return (await visit.getAttribute('aria-label'))?.split(',')[0] ?? ''
  }

  /** Carries a visit to another day by pointer, with its price shown before it is let go; that day's line, or null where it can't go there. */
  async carry(visit: Locator, line: Locator): Promise<string | null> {
    const { page } = this
    // While it is carried it stands elsewhere among the visits.
    const name = await this.nameOf(visit)
    const to = await line.getAttribute('data-testid')
    const own = await visit.locator('xpath=ancestor::*[starts-with(@data-testid, "line-")][1]').getAttribute('data-testid')
    if (to === null || to === own) return null
    const [from, box] = [await visit.boundingBox(), await line.boundingBox()]
    if (!from || !box) throw new Error('nothing to carry')
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
    await page.mouse.down()
    await page.mouse.move(from.x + 40, from.y + 30, { steps: 4 })
    await page.mouse.move(box.x + box.width / 2, box.y + 30, { steps: 8 })
    const isPriced = await page
      .getByTestId('price-total')
      .waitFor({ timeout: 5000 })
      .then(() => true)
      .catch(() => false)
    if (isPriced) await expect(page.getByTestId('price-card')).toContainText(name)
    else await page.keyboard.press('Escape')
    await page.mouse.up()
    return isPriced ? to : null
  }

  async open(): Promise<void> {
    await this.who.go('/round')
    await expect(this.page.getByRole('heading', { level: 1, name: 'The round' })).toBeVisible()
    await expect(this.page.getByTestId('round-summary')).toBeVisible()
  }

  /** Plans and takes what came out. */
  async planAndTake(): Promise<void> {
    await this.button(/^Plan the quarter|^Plan again/).click()
    // Named here too: pictures are taken without the tests' own limits.
    await expect(this.page.getByTestId('proposal')).toBeVisible({ timeout: 90_000 })
    await this.button('Apply plan').click()
    await expect(this.page.getByTestId('proposal')).toBeHidden()
  }

  /** Turns weeks until one has a visit that may be carried, and opens it; its name. */
  async openVisit(after = 1): Promise<string> {
    for (let week = 0; week < after; week++) await this.button(/›$/).click()
    await this.visits().first().click()
    await expect(this.panel).toBeVisible()
    return (await this.panel.getByRole('heading', { level: 2 }).innerText()).trim()
  }

  async publish(): Promise<number> {
    await this.button('Publish…').click()
    const card = this.page.getByTestId('publish-card')
    await expect(card).toBeVisible()
    await card.getByRole('button', { name: 'Publish' }).click()
    const told = this.page.getByText(/^Published as number \d+\.$/)
    await expect(told).toBeVisible()
    return Number(/\d+/.exec(await told.innerText())?.[0])
  }
}
