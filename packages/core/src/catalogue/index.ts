export { FAMILIES, type Family, type FamilyStage, familyTrain } from './families'
export { HOUSING_PROFILES, type HousingProfile } from './housings'
export { MEDIA_PROFILES, type MediaLimit, type MediaLimits, type MediaProfile, monthsToDays, ratedAs } from './media-profiles'
export { HOUSINGS, type Housing, MEDIA, type Medium } from './names'
