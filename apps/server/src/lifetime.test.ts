import { EventEmitter } from 'node:events'
import { watchOver } from './lifetime'

function watched() {
  const events = new EventEmitter()
  const logged: [string, string][] = []
  const closed: [string, number][] = []
  watchOver({
    events,
    log: (level, event) => void logged.push([level, event]),
    close: async (why, code) => void closed.push([why, code]),
  })
  return { events, logged, closed }
}

test('a rejection nobody hears is logged and closes the process cleanly, to be started again', () => {
  const { events, logged, closed } = watched()
  events.emit('unhandledRejection', new TypeError('of ours'))
  expect(logged).toEqual([['error', 'rejection-unheard']])
  expect(closed).toEqual([['unhandledRejection', 1]])
})

test('a database that went away under some work ends that work, not the process', () => {
  const { events, logged, closed } = watched()
  events.emit('unhandledRejection', Object.assign(new Error('terminating connection'), { code: '57P01' }))
  expect(logged).toEqual([['warn', 'rejection-unheard']])
  expect(closed).toEqual([])
})

test('an exception closes it with a line in the log; a signal closes it as asked', () => {
  const { events, logged, closed } = watched()
  events.emit('uncaughtException', new Error('lost'))
  events.emit('SIGTERM')
  expect(logged).toEqual([['error', 'exception-uncaught']])
  expect(closed).toEqual([
    ['uncaughtException', 1],
    ['SIGTERM', 0],
  ])
})
