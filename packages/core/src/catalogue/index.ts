export { FAMILIES, type Family, type FamilyStage, familyTrain } from './families'
export { MEDIA_PROFILES, type MediaProfile, monthsToDays } from './media-profiles'
export { type Housing, HOUSINGS, type Medium, MEDIA } from './names'
