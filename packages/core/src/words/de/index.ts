import type { Catalogue } from '../language'
import mark from './mark.json'
import messages from './messages.json'

/** German: Sie, nouns with capitals, the trade's own words. */
export const GERMAN: Catalogue = { locale: 'de-DE', name: 'Deutsch', capitalNouns: true, cautionsMark: mark.cautions, messages }
