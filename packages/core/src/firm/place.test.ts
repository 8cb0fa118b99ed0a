import { addressText, placeText } from '.'

test('a place is said by what is noted of it', () => {
  expect(placeText({ village: 'Tarrow', island: 'Great Skellan' })).toBe('Tarrow, Great Skellan')
  expect(placeText({ village: 'Tarrow', island: '' })).toBe('Tarrow')
  expect(placeText({ village: '', island: '' })).toBe('place not noted')
})

test('an address in one line has the postcode before the town, and no stray commas', () => {
  const whole = { street: '4 Mill Lane', postcode: '4050-120', village: 'Weir', island: 'North', country: 'Skellan' }
  expect(addressText(whole)).toBe('4 Mill Lane, 4050-120 Weir, North, Skellan')
  expect(addressText({ ...whole, street: '', island: '', postcode: '' })).toBe('Weir, Skellan')
  expect(addressText({ street: '', postcode: '', village: '', island: '', country: '' })).toBe('address not noted')
})
