import { randomInt } from 'node:crypto'

/** Letters and digits that nobody takes for one another. */
export const CODE_SIGNS = '23456789ABCDEFGHJKMNPQRSTVWXYZ'

/** Signs in groups that can be read aloud and written down. */
export const inGroups = (signs, length) => signs.match(new RegExp(`.{${length}}`, 'g')).join('-')

/** A new code of so many groups, nearly five bits a sign. */
export const newCode = (groups, length) =>
  inGroups(Array.from({ length: groups * length }, () => CODE_SIGNS[randomInt(CODE_SIGNS.length)]).join(''), length)
