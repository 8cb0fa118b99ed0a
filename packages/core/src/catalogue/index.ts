export { HOUSING_PROFILES, type HousingProfile } from './housings'
export { MEDIA_LIMIT_FIELDS, type MediaLimit, type MediaLimits, USUAL_LIMITS } from './limits'
export { MEDIA_PROFILES, type MediaProfile, monthsToDays, ratedAs } from './media-profiles'
export { DECHLORINATES, HOUSINGS, type Housing, MEDIA, type Medium } from './names'
