import { priceOfSpot } from './events'

const spot = {
  technicianId: 'tam',
  name: 'Tam Orrin',
  at: 1,
  afterSite: 'Net loft',
  arriveMin: 642,
  homeMin: 1000,
  extraDriveMin: 12,
  overtimeMin: 20,
  late: [{ siteName: 'Rope walk', byMin: 75 }],
  costMin: 427,
}

test('what a place in today costs, in words', () => {
  expect(priceOfSpot(spot)).toBe('12 min more driving, home 16:40, 20 min overtime; Rope walk 1 h 15 after the hour it was promised')
  expect(priceOfSpot({ ...spot, extraDriveMin: 0, overtimeMin: 0, late: [] })).toBe('no more driving, home 16:40')
})
