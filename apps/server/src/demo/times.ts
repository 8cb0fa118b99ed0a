import { addDays } from '@evenround/core/units'
import { Place, SiteHoursRow, WorkTimeRow } from '../db/entities/round'
import { Occupancy } from '../db/entities/wear'
import type { FirmScope } from '../db/scope'
import { ISLAND_PLACES } from '../features/travel/islands'
import { demoId } from './ids'

/** The other days are for new sets and pumps. */
const DAY = { fromMin: 8 * 60, toMin: 16 * 60, overtimeMin: 60, version: 1 }

/** Who drives the round on which days, and from where. */
export const WORK = [
  { by: 'tam', weekdays: [2, 4], base: 'great-skellan/skellan-town' },
  { by: 'wren', weekdays: [3], base: 'great-skellan/hollin' },
]

/** When some of the customers have the door open: quiet hours and kitchens at noon lie between. */
export const HOURS: readonly [site: string, open: [number, number][], closedWeekdays: number[]][] = [
  ['hale', [[495, 1020]], []],
  [
    'school',
    [
      [480, 720],
      [780, 930],
    ],
    [],
  ],
  [
    'choir-school',
    [
      [480, 810],
      [900, 1020],
    ],
    [],
  ],
  [
    'rope-walk',
    [
      [420, 660],
      [870, 1080],
    ],
    [1],
  ],
  ['ferry-crew', [[540, 960]], []],
  ['lighthouse', [[480, 990]], []],
]

/** Places of the islands, who starts where, opening hours, and the hostel's winter. */
export async function writeTimes(scope: FirmScope, today: string): Promise<void> {
  await scope.insert(
    Place,
    ISLAND_PLACES.map((place) => ({ ...place })),
  )
  await scope.insert(
    WorkTimeRow,
    WORK.map(({ by, ...times }) => ({ ...DAY, ...times, id: demoId('person', by), vanKg: 300 })),
  )
  await scope.insert(
    SiteHoursRow,
    HOURS.map(([site, open, closedWeekdays]) => ({ id: demoId('site', site), version: 1, open, closedWeekdays, accessMin: null })),
  )
  const year = Number(today.slice(0, 4))
  await scope.insert(
    Occupancy,
    [year - 3, year - 2, year - 1, year].map((from) => ({
      id: demoId('hostel-winter', from - year),
      siteId: demoId('site', 'hostel'),
      fromDay: `${from}-11-01`,
      toDay: addDays(`${from + 1}-03-31`, 1),
      share: 0,
    })),
  )
}
