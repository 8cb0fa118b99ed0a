/** What we use of it: the package comes without types. */
declare module 'open-location-code' {
  export class OpenLocationCode {
    isValid(code: string): boolean
    isFull(code: string): boolean
    /** Throws where the code is not full. */
    decode(code: string): { latitudeCenter: number; longitudeCenter: number }
  }
}
