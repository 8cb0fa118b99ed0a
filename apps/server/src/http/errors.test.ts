import { QueryRunnerAlreadyReleasedError, QueryRunnerProviderAlreadyReleasedError, TransactionNotStartedError } from 'typeorm'
import { databaseAway } from '../db/errors'
import { ApiError } from './errors'
import { asApiError } from './failures'

test('a known error keeps its words, an unknown one gets fixed ones and never its cause', () => {
  expect(asApiError(new ApiError('NO_RIGHT', 'Ask the owner.')).message).toBe('Ask the owner.')
  const hidden = asApiError(new Error('relation "auth_account" does not exist'))
  expect(hidden.code).toBe('INTERNAL')
  expect(JSON.stringify(hidden.body())).not.toContain('auth_account')
})

test('of two transactions that waited for each other the one that gave way is told to come again', () => {
  expect(asApiError(Object.assign(new Error('deadlock detected'), { code: '40P01' })).body().error).toMatchObject({
    code: 'BUSY',
    retryable: true,
  })
})

test.each([
  [Object.assign(new Error('x'), { code: 'ECONNREFUSED' }), true],
  [Object.assign(new Error('x'), { code: '57P01' }), true],
  [Object.assign(new Error('x'), { code: '08006' }), true],
  // It took too long, or its disk is full.
  [Object.assign(new Error('x'), { code: '57014' }), true],
  [Object.assign(new Error('x'), { code: '53100' }), true],
  [new Error('Connection terminated unexpectedly'), true],
  // A connection that dies under a transaction, as TypeORM says it.
  [new QueryRunnerProviderAlreadyReleasedError(), true],
  [new QueryRunnerAlreadyReleasedError(), true],
  [new TransactionNotStartedError(), true],
  [new AggregateError([Object.assign(new Error('x'), { code: 'ECONNREFUSED' })]), true],
  [Object.assign(new Error('x'), { code: '23505' }), false],
  [new Error('something else'), false],
  ['not an error', false],
])('%s means the database is away: %s', (error, away) => {
  expect(databaseAway(error)).toBe(away)
})
