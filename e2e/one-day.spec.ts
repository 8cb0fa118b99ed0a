import type { DuePage } from '@evenround/contract/due'
import type { RoundSet } from '@evenround/contract/rounds'
import type { StopDto } from '@evenround/contract/site'
import { PASSWORD } from './driver/technician'
import { expect, test } from './world'

// A visit that is done here moves what other files look at.
test.use({ ownWorld: 'one day' })

type Stage = StopDto['system']['stages'][number]

test('a contract, its own readings, one that is over: the same day on Today, the stop, the site, the stage, the list, the round and the slip', async ({
  phone,
  world,
  browser,
}) => {
  const { page } = phone
  await phone.signIn()
  const get = async <T>(path: string): Promise<T> => (await page.request.get(`${world.url}/api/${path}`)).json() as Promise<T>
  const { stops } = await get<{ stops: StopDto[] }>('today')
  /** What weighs most at a stop stands on Today. */
  const first = ({ system, tasks }: StopDto): Stage | undefined =>
    system.stages.find(({ id }) => tasks.some(({ stageId }) => stageId === id))
  const firstWhere = (is: (due: NonNullable<Stage['due']>) => boolean): { stop: StopDto; stage: Stage; day: string } => {
    for (const stop of stops) {
      const stage = first(stop)
      if (stage?.due && is(stage.due)) return { stop, stage, day: stage.due.due }
    }
    throw new Error('no such stage on Today')
  }
  const contract = firstWhere(({ setBy }) => setBy === 'contract')
  const evidence = firstWhere(({ setBy, state }) => setBy === 'evidence' && state !== 'spent')
  const over = firstWhere(({ setBy, state }) => setBy !== 'contract' && state === 'spent')

  const sentences = new Map<string, string>()
  for (const { stop, stage, day } of [contract, evidence, over]) {
    await phone.go(`/stage/${stage.id}`)
    const sentence = await page
      .getByText(/^(Change by|Overdue since|Spent, very likely|Probably spent)/)
      .first()
      .innerText()
    sentences.set(stage.id, sentence)
    await phone.go(`/stop/${stop.id}`)
    await expect(page.getByText(sentence, { exact: true }).first()).toBeVisible()
    await phone.go(`/sites/${stop.site.id}`)
    await expect(page.getByText(sentence, { exact: true }).first()).toBeVisible()
    await phone.go('/today')
    await expect(page.getByRole('main')).toContainText(sentence.slice(1))
    const { rows: found } = await get<DuePage>(`due?limit=100&text=${encodeURIComponent(stop.site.name)}`)
    expect(found.find(({ stageId }) => stageId === stage.id)?.due.due).toBe(day)
    await phone.go(`/due?until=all&text=${encodeURIComponent(stop.site.name)}`)
    // What is spent is due now; of the others the list has the day of the sentence.
    const [, shown = 'now'] = /^(?:Change by|Overdue since) (.+?)(?: \(|;|:)/.exec(sentence) ?? []
    await expect(page.getByRole('link', { name: new RegExp(`: due (since )?${shown}\\b`) }).first()).toBeVisible()
  }

  // The round speaks of the same days.
  const office = await browser.newContext()
  await office.request.post(`${world.url}/api/auth/sign-in`, { data: { email: 'isla@fennick.example', password: PASSWORD } })
  const { setId } = (await (await office.request.post(`${world.url}/api/round/open`)).json()) as { setId: string }
  const set = (await (await office.request.get(`${world.url}/api/round/sets/${setId}`)).json()) as RoundSet
  const tasks = set.visits.flatMap(({ stops: on }) => on.flatMap((one) => one.tasks))
  const { rows, next: more } = await get<DuePage>('due?limit=1000')
  expect(more).toBeNull()
  const listed = new Map(rows.map((row) => [row.stageId, row]))
  const planned = tasks.flatMap(({ stageId, dueOn }) => {
    const due = listed.get(stageId)?.due
    return dueOn === null || due === undefined ? [] : [{ stageId, dueOn, due: due.due, setBy: due.setBy }]
  })
  expect(new Set(planned.map(({ setBy }) => setBy))).toEqual(new Set(['contract', 'label', 'evidence']))
  expect(planned.filter(({ dueOn, due }) => dueOn !== due)).toEqual([])
  await office.close()

  // The slip says the next one, and the site says it afterwards in the same words.
  await phone.go(`/stop/${contract.stop.id}`)
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  const after = { untreated: '210', treated: '207' }
  await phone.measure({ untreated: '212', treated: '210' })
  await phone.beginAt(/^Look and feel under every joint/)
  await phone.toTheEnd(after)
  await phone.finish()
  const slip = await page.getByTestId('slip').innerText()
  const [, next = ''] = /Next time, position \d+, [a-z ]+\. (.*)/.exec(slip) ?? []
  expect(next).toMatch(/^Change by .*: contract of 1 year\.$/)
  expect(next).not.toBe(sentences.get(contract.stage.id))
  await phone.go(`/sites/${contract.stop.site.id}`)
  await expect(page.getByText(next, { exact: true }).first()).toBeVisible()
})
