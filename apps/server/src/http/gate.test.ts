import { FairGate } from './gate'

const nextTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve))

/** Work that ends when it is told to; in which order it began. */
function workshop(gate: FairGate) {
  const begun: string[] = []
  const ends: (() => void)[] = []
  const start = (who: string, name: string): Promise<void> =>
    gate.run(who, async () => {
      begun.push(name)
      await new Promise<void>((resolve) => ends.push(resolve))
    })
  const endOne = async (): Promise<void> => {
    while (ends.length === 0) await nextTurn()
    ends.shift()?.()
    await nextTurn()
  }
  return { begun, start, endOne }
}

test('a heap of one firm’s work leaves every second turn to another firm', async () => {
  const { begun, start, endOne } = workshop(new FairGate({ atOnce: 1, waiting: 100 }))
  const all = ['a1', 'a2', 'a3', 'a4', 'b1', 'b2'].map((name) => start(name.slice(0, 1), name))
  for (let turn = 0; turn < all.length; turn++) await endOne()
  await Promise.all(all)
  expect(begun).toEqual(['a1', 'a2', 'b1', 'a3', 'b2', 'a4'])
})

test('no more runs at once than may, and what would wait beyond the bound is turned away with when to come again', async () => {
  const { begun, start, endOne } = workshop(new FairGate({ atOnce: 2, waiting: 3, waitingEach: 2 }))
  const all = ['a1', 'a2', 'a3', 'a4', 'b1'].map((name) => start(name.slice(0, 1), name))
  await nextTurn()
  expect(begun).toEqual(['a1', 'a2'])
  await expect(start('a', 'a5')).rejects.toMatchObject({ code: 'BUSY', more: { retryAfterS: 2 } })
  await expect(start('c', 'c1')).rejects.toMatchObject({ code: 'BUSY' })
  for (let turn = 0; turn < 5; turn++) await endOne()
  await Promise.all(all)
  expect(begun).toHaveLength(5)
})

test('work that fails gives its turn back', async () => {
  const gate = new FairGate({ atOnce: 1, waiting: 1 })
  await expect(gate.run('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no')
  expect(await gate.run('a', async () => 'yes')).toBe('yes')
})
