import { expect, type Locator, type Page } from '@playwright/test'
import type { Technician } from './technician'

/** What strips read where nothing else is said: the dose on arrival, nothing after the flush. */
interface Strips {
  arrival: string
  clear: string
}
const USUAL: Strips = { arrival: '50', clear: '0' }

/** How a step is done that wants no figure. */
const ACTS = ['Done', 'It is in', 'It is in its place', 'The household knows', 'None', 'Yes', 'Ruled out', 'An emptied housing']

/** What stands on the screen at a step. */
interface Seen {
  /** "Prepare · 3 of 12". */
  place: string
  words: string
  /** It asks what a strip shows. */
  strip: boolean
  buttons: string[]
}

/** Somebody who disinfects: plans it, follows its ladder, reads strips. */
export class Disinfector {
  readonly page: Page
  constructor(readonly person: Technician) {
    this.page = person.page
  }

  get rung(): Locator {
    return this.page.getByTestId('job-rung')
  }

  button(name: string | RegExp): Locator {
    return this.page.getByRole('button', { name, exact: typeof name === 'string' })
  }

  /**
   * Presses an act that takes its own button away. Where the page moves under the press it goes beside it: a person presses again,
   * and so it is done here, with a word about it.
   */
  async press(name: string): Promise<void> {
    const button = this.button(name)
    for (let times = 1; times <= 3; times++) {
      await button.click()
      const gone = await button.waitFor({ state: 'hidden', timeout: 20_000 }).then(
        () => true,
        () => false,
      )
      if (gone) return
      process.stderr.write(`"${name}" was pressed ${times} times and still stands\n`)
    }
    await expect(button).toBeHidden()
  }

  async fill(values: Record<string, string>): Promise<void> {
    for (const [label, value] of Object.entries(values)) await this.page.getByLabel(label, { exact: true }).first().fill(value)
  }

  async outlets(...names: string[]): Promise<void> {
    for (const name of names) await this.button(`+ ${name}`).click()
  }

  /** Begins a plan from a site's page. */
  async planAt(site: string): Promise<void> {
    await this.person.openSite(site)
    await this.button('Plan a disinfection').click()
    await expect(this.page.getByRole('heading', { level: 1, name: 'Plan a disinfection' })).toBeVisible()
  }

  /** Keeps the plan; the job's own address comes back. */
  async keepPlan(): Promise<string> {
    await this.press('Keep this plan')
    await expect(this.page).toHaveURL(/\/disinfect\/[0-9a-f-]{36}$/)
    await expect(this.rung).toBeVisible()
    return this.page.url()
  }

  private async strip(mgL: string): Promise<void> {
    const steps = this.rung.getByRole('radio', { name: `${mgL} mg/L`, exact: true })
    if ((await steps.count()) > 0) await steps.click()
    else await this.rung.getByLabel('Or between two steps').fill(mgL)
    await this.rung.getByRole('button', { name: /^Keep this strip/ }).click()
  }

  /** The present step as it stands on the screen, in one look; null at the ladder's end. */
  private async look(): Promise<Seen | null> {
    const { page, rung } = this
    const end = this.button('End the flush day').or(page.getByTestId('tide'))
    await rung.or(end).first().waitFor()
    return page.evaluate((): Seen | null => {
      const rungs = [...document.querySelectorAll<HTMLElement>('[data-testid="job-rung"]')]
      const now = rungs.find((one) => one.checkVisibility())
      if (now === undefined) return null
      const texts = (selector: string): string[] =>
        [...now.querySelectorAll<HTMLElement>(selector)].map(({ innerText }) => innerText.trim()).filter((text) => text !== '')
      return {
        place: texts('div').find((text) => / · \d+ of \d+/.test(text) && !text.includes('\n')) ?? '',
        words: texts('h2')[0] ?? '',
        strip: now.querySelector('[role="radiogroup"]') !== null,
        buttons: texts('[role="button"], button'),
      }
    })
  }

  /** Does the present step, whatever it asks for; its words come back, or null at the ladder's end. */
  async step(strips: Strips = USUAL): Promise<string | null> {
    const { page, rung } = this
    const seen = await this.look()
    if (seen === null) return null
    const { place, words, strip, buttons } = seen
    let last = ''
    const press = (name: string): Promise<void> => {
      last = name
      return rung.getByRole('button', { name, exact: true }).click()
    }
    if (buttons.includes('Record what was found')) {
      await rung.getByRole('radio', { name: /^expected:/ }).click()
      await press('Record what was found')
    } else if (strip && !buttons.includes('It is in its place')) await this.strip(place.startsWith('Flush') ? strips.clear : strips.arrival)
    else if (buttons.includes('Start the clock')) {
      await press('Start the clock')
      await rung
        .getByRole('button', { name: 'Done earlier' })
        .or(rung.getByRole('button', { name: 'Done', exact: true }))
        .click()
    } else {
      const act = buttons.find((name) => ACTS.includes(name) || name.startsWith('Hard surface'))
      if (act === undefined) throw new Error(`"${words}" offers ${buttons.join(', ')}`)
      await press(act)
    }
    const gone = page.getByText(place, { exact: true })
    // The page may move under the press, which then goes beside the button: a person presses again.
    const moved = await gone.waitFor({ state: 'hidden', timeout: 20_000 }).then(
      () => false,
      () => true,
    )
    if (moved && last !== '') {
      process.stderr.write(`"${last}" was pressed and the step still stands\n`)
      await press(last)
    }
    await gone.waitFor({ state: 'hidden' })
    return words
  }

  /** Follows the ladder to its end; what every step said. */
  async toTheEnd(strips: Strips = USUAL): Promise<string[]> {
    const said: string[] = []
    for (let words = await this.step(strips); words !== null; words = await this.step(strips)) said.push(words)
    return said
  }

  async stepUntil(text: RegExp, strips: Strips = USUAL): Promise<void> {
    for (let steps = 0; steps < 120; steps++) {
      await this.rung.waitFor()
      if (text.test((await this.look())?.words ?? '')) return
      await this.step(strips)
    }
    throw new Error(`the ladder never said ${text}`)
  }

  /** Reads a strip while the clock runs. */
  async contactStrip(mgL: string, at?: string): Promise<void> {
    await this.button('Read a strip').click()
    if (at !== undefined) await this.page.getByLabel('Read at').selectOption({ label: at })
    await this.page.getByLabel('Or between two steps').fill(mgL)
    await this.button('Keep this strip').click()
    await expect(this.button('Keep this strip')).toBeHidden()
  }
}
