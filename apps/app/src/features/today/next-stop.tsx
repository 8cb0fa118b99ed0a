import type { StopDto } from '@evenround/contract/site'
import { placeText } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { Link, useRouter } from 'expo-router'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { useVisitOfStop } from '../../data/visit'
import { JOB_DAY_WORDS, JobWhen, stopHref } from '../../parts/disinfection/job-day'
import { Follows } from '../../parts/visit/follows'
import { HoldLines } from '../../parts/visit/hold-lines'
import { TrainLine } from '../../parts/wear/train-line'
import { namedSentence } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { duration, timeOfDay } from '../../ui/format'
import { T } from '../../ui/text'
import { type StopState, taskWords } from './view'

const LEAD: Record<StopState, string> = { next: say`Next`, later: say`Then`, done: say`Done` }

/** The one large thing of the day: where, when, what, why, and the act that starts it. */
export function NextStop({ stop, today, state }: { stop: StopDto; today: string; state: StopState }) {
  const units = useUnits()
  const router = useRouter()
  const visitId = useVisitOfStop(stop)
  const { site, system, tasks } = stop
  const due = new Set(tasks.map(({ stageId }) => stageId))
  const finished = stop.visit?.finished === true
  const begun = visitId !== null && !finished
  return (
    <View testID="next-stop" className="gap-3 rounded-card border-2 border-kelp bg-sheet p-4">
      <View>
        <T kind="quiet">{say`${LEAD[state]} · leave ${timeOfDay(stop.leaveMin)} · ${duration(stop.travelMin)}${stop.wayEstimated ? say`, estimated` : ''}${stop.ferryAt ? say` · ferry ${stop.ferryAt}` : ''}`}</T>
        <Link href={stopHref(stop)}>
          <T kind="heading" level={2}>
            {site.name}
          </T>
        </Link>
        <T kind="quiet">{site.access || placeText(site)}</T>
      </View>
      <Follows follows={stop.follows} />
      <HoldLines holds={stop.holds} siteId={stop.site.id} />
      {stop.job ? <JobWhen job={stop.job} /> : null}
      <View className="gap-2">
        <TrainLine stages={system.stages} due={due} today={today} />
        <View>
          <T kind="strong">{stop.job ? `${JOB_DAY_WORDS[stop.job.day]}.` : `${taskWords(stop)}.`}</T>
          {system.stages
            .filter(({ id }) => due.has(id))
            .slice(0, 2)
            .map((stage) => (
              <T key={stage.id} kind="quiet" className="text-ink">
                {namedSentence(stage, today, units)}
              </T>
            ))}
        </View>
      </View>
      {stop.job ? (
        <Button
          label={finished ? say`Look at the disinfection` : say`Open the disinfection`}
          kind={finished ? 'plain' : 'act'}
          size="big"
          onPress={() => router.push(stopHref(stop))}
        />
      ) : finished ? (
        <Button label={say`Look at what was done`} onPress={() => router.push(`/book/${stop.visit?.id}`)} />
      ) : begun ? (
        <Button label={say`Go on with the run sheet`} kind="act" size="big" onPress={() => router.push(`/stop/${stop.id}/sheet`)} />
      ) : (
        <Button label={say`Start: measure first`} kind="act" size="big" onPress={() => router.push(`/stop/${stop.id}/measure`)} />
      )}
    </View>
  )
}
