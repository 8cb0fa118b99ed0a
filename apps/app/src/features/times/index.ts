/** Times of people and of sites come together. */
export { SiteHoursPage } from './site-hours'
export { TimesScreen } from './work-times'
