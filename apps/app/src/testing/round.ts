import type { RoundSet, RoundVisitDto } from '@evenround/contract/rounds'

/** A visit of the set below. */
export const roundVisit = (id: string, place: string, more: Partial<RoundVisitDto> = {}): RoundVisitDto => ({
  id,
  kind: 'due',
  siteId: id,
  siteName: `Site ${id}`,
  village: place,
  island: 'Thrawn',
  place,
  serviceMin: 60,
  dueDay: 1,
  windowDays: [0, 3],
  latePerDay: 5,
  earlyPerDay: 1,
  open: null,
  closedDays: [],
  skills: [],
  loadKg: 0,
  pinnedDay: null,
  promisedDay: null,
  promised: false,
  promise: null,
  stops: [
    {
      stopId: `stop-${id}`,
      systemId: `system-${id}`,
      systemName: 'Kitchen',
      workMin: 60,
      jobDay: null,
      tasks: [
        { stageId: 's', position: 1, action: 'change', media: 'sediment', partNumber: 'BW-SED-10', dueOn: null, pulledDays: 4, lostMin: 6 },
      ],
    },
  ],
  ...more,
})
/** Two people, four days from a Monday; base o, places a and b 20 and 40 minutes off on one road. */
export const ROUND_SET: RoundSet = {
  id: 'set',
  madeAt: '2026-11-29T12:00:00.000Z',
  today: '2026-11-29',
  days: ['2026-11-30', '2026-12-01', '2026-12-02', '2026-12-03'],
  technicians: ['t', 'u'].map((id) => ({
    id,
    name: id === 't' ? 'Tam Orrin' : 'Wren Adeyo',
    van: null,
    base: 'o',
    fromMin: 480,
    toMin: 960,
    overtimeMin: 60,
    skills: id === 'u' ? ['wells'] : [],
    daysOff: id === 'u' ? [1] : [],
    vanKg: null,
    levelMin: 100,
  })),
  places: ['o', 'a', 'b'].map((id) => ({ id, name: id, island: 'Thrawn', lon: 0, lat: 0 })),
  travel: {
    places: ['o', 'a', 'b'],
    travelMin: [
      [0, 20, 40],
      [20, 0, 20],
      [40, 20, 0],
    ],
    travelByHour: [],
    sails: [],
  },
  visits: [roundVisit('x', 'a'), roundVisit('y', 'b'), roundVisit('w', 'b', { skills: ['wells'] })],
  leftOut: [],
  terms: { hourMinor: 4800, accessMin: 8, setupMin: 14, unevenness: 1, change: 30 },
  year: [
    { week: '2026-11-23', minutes: 0 },
    { week: '2026-11-30', minutes: 0 },
    { week: '2026-12-07', minutes: 300 },
    { week: '2026-12-14', minutes: 500 },
  ],
}
