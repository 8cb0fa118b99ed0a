/** Spoken by app and server; a newer app asks an older server to be brought up to date, and the other way round. */
export const PROTOCOL_VERSION = 2

/** Shortest password that is taken: length is what makes one hard to guess. */
export const SHORTEST_PASSWORD = 10

/** Longest side a photo is kept at, in pixels; the device shrinks it before it is sent, and the server does again. */
export const PHOTO_SIDE = 1600

/** Further contacts that a site keeps. */
export const MOST_CONTACTS = 20
