import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { Planner } from './driver/planner'
import { expect, test } from './world'

// The ways of every round of this firm change here.
test.use({ ownWorld: 'roads' })

/** The stand-in for a routing server as a program of its own. */
async function roadServer(port: string, how: 'sound' | 'slow') {
  const root = join(import.meta.dirname, '..')
  const child = spawn(process.execPath, ['--import', 'tsx', join(root, 'bin/lib/road-server.mjs'), port, how], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  let said = ''
  child.stdout.on('data', (chunk) => {
    said += chunk
  })
  await expect.poll(() => said, { timeout: 30_000 }).toContain('answers at')
  return {
    address: /http:\S+:\d+/.exec(said)?.[0] ?? '',
    asked: () => said.split('Asked about').length - 1,
    /** At once, whatever it was doing. */
    kill: async () => {
      if (child.exitCode !== null || child.signalCode !== null) return
      child.kill('SIGKILL')
      await new Promise((resolve) => child.once('exit', resolve))
    },
  }
}

test('a routing server is named; it dies while the round is being planned, which ends and is taken; what it said stays', async ({
  desk,
  world,
}) => {
  let roads = await roadServer('0', 'sound')
  const { address } = roads
  const port = new URL(address).port
  try {
    await desk.signIn('isla@fennick.example')
    const isla = new Planner(desk)
    const { page } = isla
    const known = async (): Promise<number> => (await world.query<{ n: number }>('select count(*)::int as n from road_row'))[0]?.n ?? 0

    await page.goto(`${world.url}/driving-times`)
    await page.getByLabel('Address of the routing server').fill('http://routing.elsewhere.example')
    await isla.button('Save the address').click()
    await expect(page.getByText('expected an address at 127.0.0.1, which whoever runs this server allows')).toBeVisible()
    await page.getByLabel('Address of the routing server').fill(address)
    await isla.button('Save the address').click()
    const card = page.getByTestId('road-server')
    await expect(card).toContainText(/Knows the ways of all \d+ places/)
    const all = await known()
    expect(all).toBeGreaterThan(10)

    // It has to be asked again about everything, answers slowly, and dies with the plan half made.
    await isla.open()
    const setNow = async () => (await world.query<{ set_id: string }>('select set_id from round_draft'))[0]?.set_id
    await roads.kill()
    roads = await roadServer(port, 'slow')
    await world.query(`update road_row set made_at = made_at - interval '40 days'`)
    await world.query(`update road_server set next_at = next_at - interval '40 days'`)
    await isla.button(/^Plan the quarter|^Plan again/).click()
    await expect.poll(() => roads.asked(), { timeout: 30_000 }).toBeGreaterThan(0)
    const before = await setNow()
    await roads.kill()
    await isla.button('Apply plan').click({ timeout: 60_000 })
    await expect(page.getByTestId('proposal')).toBeHidden()
    expect(await setNow()).toBe(before)
    expect(await known()).toBe(all)

    await page.goto(`${world.url}/driving-times`)
    await expect(page.getByRole('alert')).toContainText('Nothing answers at that address. What it said before stays in use.')
    roads = await roadServer(port, 'sound')
    await isla.button('Ask it now').click()
    await expect(page.getByRole('alert')).toHaveCount(0)
    await expect(card).toContainText(/Knows the ways of all \d+ places/)

    await isla.button('Do without it').click()
    await expect(card).toHaveCount(0)
    expect(await known()).toBe(0)
  } finally {
    await roads.kill()
  }
})
