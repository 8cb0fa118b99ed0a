import type { Catalogue } from '../language'
import messages from './messages.json'

/** German: Sie, nouns with capitals, the trade's own words. */
export const GERMAN: Catalogue = { locale: 'de-DE', name: 'Deutsch', capitalNouns: true, messages }
