import type { IntakeDto } from './intake'

/** What parts the cells of a list; the device that saves lines to mend and the server read it alike. */
export const LIST_FORMAT = { delimitersToGuess: [',', ';', '\t'] }
/** A list without its byte order mark and its last empty lines, which would mislead the guess at what parts its cells. */
export const listBody = (text: string): string => text.replace(/^\uFEFF/, '').replace(/[\r\n\s]+$/, '')

export const isUnderWay = ({ state }: Pick<IntakeDto, 'state'>): boolean => state === 'waiting' || state === 'working'
