import { isOwn } from '../catalogue/own-kinds'
import type { Action, StageNode } from './types'

/** What can be done to a stage, the usual first. Source: the firm's habits by medium (`media.md`). */
export function actionsFor({ media, washable, housing }: Pick<StageNode, 'media' | 'washable' | 'housing'>): readonly Action[] {
  if (isOwn(media) && housing === 'media-tank') return ['refill', 'change']
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
