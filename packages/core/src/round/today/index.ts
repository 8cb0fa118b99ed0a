export { type Drive, type Leg, spotsToday, type TodayLine, type TodaySpot, type TodayStop } from './today'
