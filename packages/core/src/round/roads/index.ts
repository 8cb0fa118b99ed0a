export { type Journey, journeysFrom, type Net, netOf, type Roads } from './roads'
export { driveMinutes, NOT_TODAY_MIN, sailingOf, type Travel, travelOver } from './travel'
