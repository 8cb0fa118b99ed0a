import { say } from '../words'
/** Where something is, in words: "Tarrow, Great Skellan", or whichever of the two is noted. */
export const placeText = ({ village, island }: { village: string; island: string }): string =>
  [village, island].filter((part) => part !== '').join(', ') || say`place not noted`

interface Address {
  street: string
  postcode: string
  village: string
  island: string
  country: string
}
/** The whole address in one line, without what is not noted. */
export const addressText = ({ street, postcode, village, island, country }: Address): string =>
  [street, [postcode, village].filter((part) => part !== '').join(' '), island, country].filter((part) => part !== '').join(', ') ||
  say`address not noted`
