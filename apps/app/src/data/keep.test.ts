import { createStore, get } from 'idb-keyval'
import { until } from '../testing/device'
import { forgetAnswers, keepAnswers } from './keep'
import { queryClient } from './queries'

const disk = () => get<string>('answers', createStore('even-round-kept', 'answers'))
let text = ''
const kept = async (word: string): Promise<void> => {
  for (let turns = 0; turns < 500 && !text.includes(word); turns++) {
    await new Promise((resolve) => setTimeout(resolve, 10))
    text = (await disk()) ?? ''
  }
  expect(text).toContain(word)
}

test('what a day at the doors needs is kept on the device, lists that change by the minute are not, and nothing of one person stays for the next', async () => {
  keepAnswers()
  await until(() => true)
  queryClient.setQueryData(['due', null], { rows: ['a due list'] })
  queryClient.setQueryData(['stop', 's'], { stop: 'the stop of Net loft' })
  queryClient.setQueryData(['round-set', 'set'], { id: 'what is planned' })
  await kept('what is planned')
  expect(text).toContain('the stop of Net loft')
  expect(text).not.toContain('a due list')
  await forgetAnswers()
  expect(queryClient.getQueryData(['stop', 's'])).toBeUndefined()
  expect(await disk()).toBeUndefined()
})
