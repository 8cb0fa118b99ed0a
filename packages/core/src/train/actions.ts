import type { Action, StageNode } from './types'

/** What can be done to a stage, the usual first. Source: the firm's habits by medium (`media.md`). */
export function actionsFor({ media, washable }: Pick<StageNode, 'media' | 'washable'>): readonly Action[] {
  switch (media) {
    case 'softener':
    case 'carbon-tank':
    case 'iron-bed':
    case 'ph-bed':
      return ['refill']
    case 'chlorine-feed':
      return ['refill', 'change']
    case 'uv-sleeve':
      return ['clean', 'change']
    case 'deionising-resin':
      return ['change', 'refill']
    case 'sediment':
      return washable ? ['wash', 'change'] : ['change']
    default:
      return ['change']
  }
}
