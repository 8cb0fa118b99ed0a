import { DefaultNamingStrategy } from 'typeorm'

/** `flowLMin` → `flow_l_min`: names are written once, in the code's way; the database has them in its own. */
export const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)

/** Columns are named after their properties, nowhere by hand. */
export class SnakeNames extends DefaultNamingStrategy {
  override columnName(property: string, custom: string | undefined, prefixes: string[]): string {
    return custom ?? snake([...prefixes, property].join('_'))
  }
}
