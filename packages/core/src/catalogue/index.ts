export { FAMILIES, type Family, type FamilyStage, familyTrain } from './families'
export { MEDIA_PROFILES, type MediaProfile, monthsToDays, ratedAs } from './media-profiles'
export { HOUSINGS, type Housing, MEDIA, type Medium } from './names'
