import { hasRight, RIGHTS, ROLES } from '.'

test('the owner may everything, a viewer only reads', () => {
  expect(RIGHTS.filter((right) => hasRight('owner', right))).toEqual(RIGHTS)
  expect(RIGHTS.filter((right) => hasRight('viewer', right))).toEqual(['read'])
})

test('technicians record, mend at the door what is wrong on a site’s page, and add a new site there; lifting a safety hold, publishing, schools, ratings, exporting and erasing are not theirs', () => {
  expect(RIGHTS.filter((right) => hasRight('technician', right))).toEqual(['read', 'record-facts', 'mend-at-door', 'add-sites'])
})

test('planners lift with proof and publish, but change neither schools nor people, and do not erase', () => {
  expect(
    ['lift-safety-hold', 'publish-round', 'edit-sites', 'edit-catalogue'].every((right) => hasRight('planner', right as 'erase')),
  ).toBe(true)
  expect(['change-schools', 'manage-people', 'erase'].some((right) => hasRight('planner', right as 'erase'))).toBe(false)
})

test('everybody reads', () => {
  expect(ROLES.every((role) => hasRight(role, 'read'))).toBe(true)
})
