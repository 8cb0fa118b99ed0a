export { type Anchored, travelAnchored } from './anchored'
export { landMinutes, minutesOfRoad, USUAL_WINDING } from './land'
export { type Journey, journeysFrom, type Net, netOf, type Roads } from './roads'
export { driveMinutes, NOT_TODAY_MIN, sailingOf, type Travel, travelAmong, travelOver } from './travel'
