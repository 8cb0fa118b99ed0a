import { linesOfCards, linesOfSheet } from './list-file'

const CARDS = [
  'BEGIN:VCARD',
  'VERSION:4.0',
  'FN:Odd Larn',
  'ORG:Smokehouse',
  'ADR;TYPE=work:;;7 Smoke Lane;Quay;North;4050-120;Skellan',
  'TEL;VALUE=uri:tel:+351-555-0147',
  'EMAIL:odd@quay.example',
  'GEO:geo:58.31,-21.62',
  'NOTE:Ring twice\\, the dog is friendly',
  'END:VCARD',
  'BEGIN:VCARD',
  'VERSION:3.0',
  'FN:Ann Example',
  'TEL:Quay 8',
  'GEO:58.4;-21.5',
  'END:VCARD',
].join('\r\n')

test('address cards become a list: a firm is the site and its person the contact, a person is a site', () => {
  const [headings, firm, person] = linesOfCards(CARDS).split('\r\n')
  expect(headings).toBe(
    'Site,Contact,Street and number,Postcode,Town or village,Area or island,Country,Telephone,E-mail,Coordinates,Access',
  )
  expect(firm).toBe(
    'Smokehouse,Odd Larn,7 Smoke Lane,4050-120,Quay,North,Skellan,+351-555-0147,odd@quay.example,"58.31, -21.62","Ring twice, the dog is friendly"',
  )
  expect(person).toBe('Ann Example,,,,,,,Quay 8,,"58.4, -21.5",')
})

test('a single card is a list too', () => {
  expect(linesOfCards(`${CARDS.split('END:VCARD')[0]}END:VCARD`).split('\r\n')).toHaveLength(2)
})

test('cells of a spreadsheet: days without an hour, numbers as they are, empty lines left out', () => {
  const rows = [
    ['Site', 'Fitted on', 'Untreated'],
    [null, null, ' '],
    ['Smokehouse', new Date('2026-04-08T00:00:00Z'), 210.5],
  ]
  expect(linesOfSheet(rows)).toBe('Site,Fitted on,Untreated\r\nSmokehouse,2026-04-08,210.5')
})
