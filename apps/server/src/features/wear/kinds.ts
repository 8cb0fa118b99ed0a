import type { KindDto } from '@evenround/contract/kinds'
import { isOwn, mediumName, type OwnKind } from '@evenround/core/catalogue'
import { type Train, withKinds } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { OwnKindRow } from '../../db/entities/catalogue'
import type { FirmScope } from '../../db/scope'
import { badInput } from '../../http/errors'

export function kindDto({ media, causes, lifeMonths, ratedLitres, soakHours, flush, endUp, cautions, version }: OwnKindRow): KindDto {
  return { id: media, name: mediumName(media), causes, lifeMonths, ratedLitres, soakHours, flush, endUp, cautions, version }
}

/** The kinds that this firm named itself, by name. */
export const kindsOf = async (scope: FirmScope): Promise<KindDto[]> => (await scope.find(OwnKindRow, {}, { media: 'ASC' })).map(kindDto)

/** As a train carries a kind: all of it but the count of its edits. */
export const carried = ({ version: _, ...kind }: KindDto): OwnKind => kind

/** What a train says of the firm's own kinds is what the firm says now; a kind it never named is refused. */
export function withFirmKinds(train: Train, kinds: readonly KindDto[]): Train {
  train.nodes.forEach((node, index) => {
    if (node.kind === 'stage' && isOwn(node.media) && !kinds.some(({ id }) => id === node.media))
      throw badInput([{ path: `train.nodes[${index}].media`, message: say`expected a kind of this firm, got ${mediumName(node.media)}` }])
  })
  return withKinds(train, kinds.map(carried))
}

/** A part is of a standard medium, or of a kind that this firm named. */
export async function knownMedium(scope: FirmScope, media: string): Promise<void> {
  if (!isOwn(media) || (await scope.findOne(OwnKindRow, { media }))) return
  throw badInput([{ path: 'media', message: say`expected a kind of this firm` }])
}
