import type { StopDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import type { Href } from 'expo-router'
import { useNow } from '../../data/now'
import { useMe } from '../../data/queries'
import { instantText } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

export const JOB_DAY_WORDS: Record<NonNullable<StopDto['job']>['day'], string> = {
  dose: say`Disinfection: the chlorine goes in`,
  flush: say`Disinfection: strip, flush, back to service`,
  sample: say`Disinfection: take the sample`,
}

/** Where a stop's work is done: its run sheet, or its disinfection. */
export const stopHref = ({ id, job }: Pick<StopDto, 'id' | 'job'>): Href => (job ? `/disinfect/${job.id}` : `/stop/${id}`)

/** When this day of the disinfection may begin: it follows the one before it as that really ended. */
export function JobWhen({ job }: { job: NonNullable<StopDto['job']> }) {
  const now = useNow(60_000)
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  if (job.notBefore === null) return null
  const early = Date.parse(now) < Date.parse(job.notBefore)
  return (
    <Notice tone={early ? 'danger' : 'act'} title={early ? say`Not yet` : say`Its time has come`}>
      <T>
        {`${early ? say`Not before` : say`Since`} ${instantText(job.notBefore, zone)}.${job.notAfter === null ? '' : say` At the latest ${instantText(job.notAfter, zone)}.`}`}
      </T>
    </Notice>
  )
}
