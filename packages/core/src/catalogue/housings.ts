import type { Housing, Medium, StandardMedium } from './names'
import { isOwn } from './own-kinds'

/** How a housing is opened and what has to happen before. */
export interface HousingProfile {
  /** Plain trade name, lower case. */
  name: string
  opens: string
  relievedBy: string
  note: string
}

/** Source: our default figures and habits for each kind of housing. */
export const HOUSING_PROFILES: Record<Housing, HousingProfile> = {
  'sump-small': {
    name: 'drop-in sump, small',
    opens: 'by wrench, unscrewed downwards',
    relievedBy: 'its button, drain cocks, or the nearest tap',
    note: 'Full of water: catch it.',
  },
  'sump-large': {
    name: 'drop-in sump, large',
    opens: 'by wrench, unscrewed downwards',
    relievedBy: 'its button, drain cocks, or the nearest tap',
    note: 'Weighs over 10 kg full. Two drain cocks, one to a hose and one to let air in, empty it dry.',
  },
  'quarter-turn': {
    name: 'quarter-turn sanitary',
    opens: 'turned left to the stop and pulled down',
    relievedBy: 'shuts at the head by itself',
    note: 'A few drips; its tabs fit one way only.',
  },
  'push-fit': {
    name: 'push-fit inline',
    opens: 'collet pressed, tube pulled',
    relievedBy: 'the valve upstream, then a tap',
    note: 'Push back past the first stop, then tug.',
  },
  threaded: {
    name: 'threaded inline',
    opens: 'elbows unscrewed',
    relievedBy: 'the valve upstream, then a tap',
    note: 'Two turns of thread tape, hand tight and a little more.',
  },
  'membrane-vessel': {
    name: 'membrane vessel',
    opens: 'cap off, pulled with pliers',
    relievedBy: 'feed shut, tank shut, tap open, then waiting for the drain line',
    note: 'Slow: its pressure leaves through the drain side.',
  },
  'media-tank': {
    name: 'pressure or media tank',
    opens: 'unions at the bypass head',
    relievedBy: 'bypass both ways, then a tap',
    note: 'Two people or a trolley.',
  },
  'uv-reactor': {
    name: 'ultraviolet reactor',
    opens: 'end nut',
    relievedBy: 'both valves shut, tap open',
    note: 'The ballast is unplugged first.',
  },
  'fridge-cartridge': {
    name: 'refrigerator cartridge',
    opens: 'pressed, turned or slid, as the appliance says',
    relievedBy: 'shuts at the head by itself',
    note: 'Make room first; a cup for the drips.',
  },
  'dry-slot': {
    name: 'dry slot',
    opens: 'cover off',
    relievedBy: 'holds no water',
    note: 'Its reminder is reset apart.',
  },
}

/** The body each medium usually sits in. */
const USUAL_HOUSING: Record<StandardMedium, Housing> = {
  sediment: 'sump-small',
  'carbon-block': 'sump-small',
  'sediment-carbon': 'sump-small',
  'fluoride-media': 'sump-small',
  membrane: 'membrane-vessel',
  ultrafiltration: 'push-fit',
  'post-carbon': 'push-fit',
  remineraliser: 'push-fit',
  'deionising-resin': 'sump-large',
  'carbon-tank': 'media-tank',
  'iron-bed': 'media-tank',
  'ph-bed': 'media-tank',
  'fridge-internal': 'fridge-cartridge',
  'fridge-inline': 'push-fit',
  'uv-lamp': 'uv-reactor',
  'uv-sleeve': 'uv-reactor',
  softener: 'media-tank',
  'chlorine-feed': 'dry-slot',
  'air-filter': 'dry-slot',
}
/** Where a part of this medium most likely sits; a kind of the firm's own is taken for a cartridge. */
export const usualHousing = (media: Medium): Housing => (isOwn(media) ? 'sump-small' : USUAL_HOUSING[media])
