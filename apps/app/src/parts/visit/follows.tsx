import type { StopDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { useNow } from '../../data/now'
import { useMe } from '../../data/queries'
import { instantText } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

const TITLE: Record<NonNullable<StopDto['follows']>['why'], string> = {
  soak: say`Second visit: the new bed has soaked`,
  'partly-done': say`Goes on: part of the work was left`,
  'not-right': say`Again: the water was not right yet`,
  'nobody-home': say`Again: nobody was at home`,
  'part-missing': say`Again: a part was missing`,
}

/** Why this stop goes on from an earlier one, and when it may begin. */
export function Follows({ follows }: { follows: StopDto['follows'] }) {
  const now = useNow(60_000)
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  if (follows === null) return null
  const { why, notBefore, notAfter, leftStanding = [] } = follows
  const early = notBefore !== null && Date.parse(now) < Date.parse(notBefore)
  return (
    <Notice tone={early ? 'danger' : 'act'} title={TITLE[why]}>
      {leftStanding.length > 0 ? <T kind="strong">{say`Left like this: ${leftStanding.join(' ')}`}</T> : null}
      {notBefore === null ? null : (
        <T>
          {early
            ? say`Not before ${instantText(notBefore, zone)}: a bed that is run before its 48 hours floats and sheds fines.`
            : say`Its time began ${instantText(notBefore, zone)}.`}
          {notAfter === null ? '' : say` At the latest ${instantText(notAfter, zone)}.`}
        </T>
      )}
    </Notice>
  )
}
