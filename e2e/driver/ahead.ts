import { createRequire } from 'node:module'
import type { SitePageDto, StopDto } from '@evenround/contract/site'
import type { SheetSchools, SheetStep, Train } from '@evenround/core/train'
import type { Fact } from '@evenround/core/visit'
import { expect, type Page } from '@playwright/test'
import { v7 as uuidv7 } from 'uuid'

// The runner turns our packages into modules whose names can be required, not imported.
const required = createRequire(import.meta.url)
const { PROTOCOL_VERSION }: typeof import('@evenround/contract/protocol') = required('@evenround/contract/protocol')
const { actionsFor, sheet, stagesInFlow }: typeof import('@evenround/core/train') = required('@evenround/core/train')
const { visitState }: typeof import('@evenround/core/visit') = required('@evenround/core/visit')

interface StopPage {
  stop: StopDto
}
interface VisitPage {
  facts: { fact: Fact }[]
  system: { train: Train } | null
}
interface Me {
  firm: { schools: SheetSchools }
}

/** After everything the page itself has counted so far. */
const SEQ = 100_000

/** What the server has, as the signed-in person sees it. */
async function get<T>(page: Page, url: string, path: string): Promise<T> {
  const answer = await page.request.get(`${url}/api/${path}`)
  expect(answer.status()).toBe(200)
  return (await answer.json()) as T
}

/**
 * Puts a stop nobody planned on the day, as another device of the same person would: these media or positions of the system are changed, or all of
 * it.
 */
export async function stopAt(
  page: Page,
  url: string,
  site: string,
  system: string,
  media: readonly (string | number)[] | 'all',
): Promise<string> {
  const { sites } = await get<{ sites: { id: string; name: string }[] }>(page, url, 'sites')
  const { systems } = await get<SitePageDto>(page, url, `sites/${sites.find(({ name }) => name === site)?.id}`)
  const there = systems.find(({ name }) => name === system)
  if (there === undefined) throw new Error(`${site} has no ${system}`)
  const tasks = stagesInFlow(there.train)
    .filter((stage) => media === 'all' || media.includes(stage.media) || media.includes(stage.position))
    .map((stage) => ({ stageId: stage.id, action: actionsFor(stage)[0] }))
  expect(tasks.length).toBeGreaterThanOrEqual(media === 'all' ? 1 : media.length)
  const id = uuidv7()
  const answer = await page.request.post(`${url}/api/stops`, { data: { id, systemId: there.id, tasks } })
  expect(answer.status()).toBe(200)
  return id
}

/** What a step leaves behind beside its tick: a part that came out as expected, the part that was meant to go in. */
function leftBehind({ verb, evidence }: SheetStep, stage: StopDto['system']['stages'][number] | undefined): object[] {
  if (!stage) return []
  const { id: stageId, position, nextPart } = stage
  if (evidence === 'finding') return [{ kind: 'part-removed', stageId, found: 'as-expected', dirtPast: null }]
  if (verb !== 'fit' || nextPart === null) return []
  const { id: partId, partNumber, rated } = nextPart
  return [{ kind: 'part-fitted', stageId, partId, partNumber, position, dateKnown: true, markText: partNumber, rated }]
}

/**
 * Ticks off what stands before a step, as a second device of the same person would: in one request. Every kind of step is done by thumb in
 * one walk of its family; what begins in the middle of a sheet begins there.
 */
export async function tickUntil(page: Page, url: string, stopId: string, text: RegExp): Promise<void> {
  const { firm } = await get<Me>(page, url, 'me')
  const { stop } = await get<StopPage>(page, url, `stops/${stopId}`)
  if (stop.visit === null) throw new Error('this stop has no visit yet')
  const visitId = stop.visit.id
  const { facts, system } = await get<VisitPage>(page, url, `visits/${visitId}`)
  const state = visitState(facts.map(({ fact }) => fact))
  const made = sheet({
    train: system?.train ?? stop.system.train,
    tasks: state.begun?.tasks ?? [],
    schools: firm.schools,
    from: { done: [...state.done.keys()], answers: Object.fromEntries(state.answers) },
  })
  if (!made.ok) throw new Error(made.text)
  const steps = made.visits[0]?.steps ?? []
  const at = steps.findIndex((step) => text.test(step.text))
  if (at < 0) throw new Error(`no step ${text} in ${steps.map((step) => step.text).join('\n')}`)
  const open = steps.slice(0, at).filter(({ key, evidence }) => evidence !== 'reading' && !state.done.has(key))
  const ticks = open.flatMap((step) => {
    const stage = stop.system.stages.find(({ id }) => id === step.at[0])
    const tick = {
      kind: 'step-done',
      stepKey: step.key,
      verb: step.verb,
      stageId: stage?.id ?? null,
      outcome: 'done',
      choice: null,
      note: null,
    }
    return [...leftBehind(step, stage), tick]
  })
  if (ticks.length === 0) return
  const now = new Date().toISOString()
  const shared = { at: now, siteId: stop.site.id, visitId, supersedes: null, voided: false }
  const answer = await page.request.post(`${url}/api/facts`, {
    data: {
      protocol: PROTOCOL_VERSION,
      deviceId: uuidv7(),
      sentAt: now,
      facts: ticks.map((tick, seq) => ({ ...shared, ...tick, id: uuidv7(), seq: SEQ + seq })),
    },
  })
  const { results } = (await answer.json()) as { results: { status: string; reason?: string }[] }
  expect(results.filter(({ status }) => status !== 'accepted')).toEqual([])
}
