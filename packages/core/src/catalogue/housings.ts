import { say } from '../words'
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
    get name() {
      return say`drop-in sump, small`
    },
    get opens() {
      return say`by wrench, unscrewed downwards`
    },
    get relievedBy() {
      return say`its button, drain cocks, or the nearest tap`
    },
    get note() {
      return say`Full of water: catch it.`
    },
  },
  'sump-large': {
    get name() {
      return say`drop-in sump, large`
    },
    get opens() {
      return say`by wrench, unscrewed downwards`
    },
    get relievedBy() {
      return say`its button, drain cocks, or the nearest tap`
    },
    get note() {
      return say`Weighs over 10 kg full. Two drain cocks, one to a hose and one to let air in, empty it dry.`
    },
  },
  'quarter-turn': {
    get name() {
      return say`quarter-turn sanitary`
    },
    get opens() {
      return say`turned left to the stop and pulled down`
    },
    get relievedBy() {
      return say`shuts at the head by itself`
    },
    get note() {
      return say`A few drips; its tabs fit one way only.`
    },
  },
  'push-fit': {
    get name() {
      return say`push-fit inline`
    },
    get opens() {
      return say`collet pressed, tube pulled`
    },
    get relievedBy() {
      return say`the valve upstream, then a tap`
    },
    get note() {
      return say`Push back past the first stop, then tug.`
    },
  },
  threaded: {
    get name() {
      return say`threaded inline`
    },
    get opens() {
      return say`elbows unscrewed`
    },
    get relievedBy() {
      return say`the valve upstream, then a tap`
    },
    get note() {
      return say`Two turns of thread tape, hand tight and a little more.`
    },
  },
  'membrane-vessel': {
    get name() {
      return say`membrane vessel`
    },
    get opens() {
      return say`cap off, pulled with pliers`
    },
    get relievedBy() {
      return say`feed shut, tank shut, tap open, then waiting for the drain line`
    },
    get note() {
      return say`Slow: its pressure leaves through the drain side.`
    },
  },
  'media-tank': {
    get name() {
      return say`pressure or media tank`
    },
    get opens() {
      return say`unions at the bypass head`
    },
    get relievedBy() {
      return say`bypass both ways, then a tap`
    },
    get note() {
      return say`Two people or a trolley.`
    },
  },
  'uv-reactor': {
    get name() {
      return say`ultraviolet reactor`
    },
    get opens() {
      return say`end nut`
    },
    get relievedBy() {
      return say`both valves shut, tap open`
    },
    get note() {
      return say`The ballast is unplugged first.`
    },
  },
  'fridge-cartridge': {
    get name() {
      return say`refrigerator cartridge`
    },
    get opens() {
      return say`pressed, turned or slid, as the appliance says`
    },
    get relievedBy() {
      return say`shuts at the head by itself`
    },
    get note() {
      return say`Make room first; a cup for the drips.`
    },
  },
  'dry-slot': {
    get name() {
      return say`dry slot`
    },
    get opens() {
      return say`cover off`
    },
    get relievedBy() {
      return say`holds no water`
    },
    get note() {
      return say`Its reminder is reset apart.`
    },
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
