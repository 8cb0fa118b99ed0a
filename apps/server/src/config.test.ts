import { behindTls, readConfig } from './config'

const BASE = { DATABASE_URL: 'postgres://x', AUTH_SECRET: 'x'.repeat(32) }

test.each([
  [{}, false],
  [{ PUBLIC_URL: 'http://127.0.0.1:4310' }, false],
  [{ PUBLIC_URL: 'https://round.example' }, true],
  [{ PUBLIC_URL: 'https://round.example/', HOST: '0.0.0.0' }, true],
  [{ SECURE_COOKIES: '1' }, true],
])('with %p cookies are for TLS alone: %p', (env, tls) => expect(behindTls(readConfig({ ...BASE, ...env }))).toBe(tls))

test.each([
  [{ HOST: '0.0.0.0' }],
  [{ PUBLIC_URL: 'http://round.example' }],
  [{ PUBLIC_URL: 'https://round.example', SECURE_COOKIES: '0' }],
])('with %p cookies would go in the open: it does not start', (env) =>
  expect(() => behindTls(readConfig({ ...BASE, ...env }))).toThrow('without TLS'),
)

test('what is missing or wrong is named, all at once', () => {
  expect(() => readConfig({ METRICS_TOKEN: 'short' })).toThrow(/DATABASE_URL[\s\S]*AUTH_SECRET[\s\S]*METRICS_TOKEN/)
})
