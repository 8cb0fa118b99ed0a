import { MEDIA_PROFILES } from '../catalogue/media-profiles'
import type { StageNode } from './types'

/** What people call the body a stage sits in: "housing 2", "the membrane vessel", "the post carbon body". */
export function stageLabel(stage: StageNode): string {
  switch (stage.housing) {
    case 'membrane-vessel':
      return 'the membrane vessel'
    case 'push-fit':
    case 'threaded':
      return `the ${MEDIA_PROFILES[stage.media].name} body`
    case 'media-tank':
      return `the ${MEDIA_PROFILES[stage.media].name}`
    case 'uv-reactor':
      return 'the lamp chamber'
    case 'dry-slot':
    case 'fridge-cartridge':
      return `the ${MEDIA_PROFILES[stage.media].name} slot`
    case 'sump-small':
    case 'sump-large':
    case 'quarter-turn':
      return `housing ${stage.position}`
  }
}

/** The part itself: "the sediment element", "the membrane". */
export function stageNoun(stage: StageNode): string {
  const { name } = MEDIA_PROFILES[stage.media]
  return stage.media === 'membrane' || stage.media === 'post-carbon' || stage.media === 'deionising-resin'
    ? `the ${name}`
    : `the ${name} element`
}
