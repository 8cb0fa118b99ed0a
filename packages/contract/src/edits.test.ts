import { STALE_BY_EDIT, THINGS, thingEdited } from './edits'

test.each([
  ['POST', '/api/sites', 'sites'],
  ['PUT', '/api/sites/0190/hours', 'times'],
  ['PUT', '/api/sites/0190/school', 'sites'],
  ['POST', '/api/intakes/0190/undo', 'sites'],
  ['PUT', '/api/systems/0190/train', 'trains'],
  ['PUT', '/api/stages/0190/school', 'trains'],
  ['PUT', '/api/media/carbon-block', 'catalogue'],
  ['PUT', '/api/firm', 'firm'],
  ['PUT', '/api/round/terms', 'firm'],
  ['POST', '/api/people/0190/password', 'people'],
  ['POST', '/api/times/holidays', 'times'],
  ['POST', '/api/stops/0190/put-off', 'stops'],
  ['PUT', '/api/photos/0190', 'photos'],
])('%s %s edits %s', (method, path, thing) => {
  expect(thingEdited(method, path)).toBe(thing)
})

test.each([
  ['GET', '/api/sites'],
  ['POST', '/api/intakes/check'],
  ['POST', '/api/facts'],
  ['POST', '/api/round/moves'],
  ['POST', '/api/feed'],
  ['PUT', '/api/me/password'],
])('%s %s is told of otherwise, or concerns nobody else', (method, path) => {
  expect(thingEdited(method, path)).toBeNull()
})

test('every edit makes some screen stale', () => {
  for (const thing of THINGS) expect(STALE_BY_EDIT[thing].length).toBeGreaterThan(0)
})
