import { chemicalsPossible, FIRST, isWell, type JobState, notProved } from '@evenround/core/job'
import { resultWords } from '@evenround/core/visit'
import { caution, midSentence, say } from '@evenround/core/words'
import { type Href, useRouter } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { ApiProblem } from '../../data/api'
import { type Job, useJob } from '../../data/job'
import { endDay, endFlushDay, holdsLeft, type JobPlace, liftLeft, takeJobTickBack } from '../../data/job-acts'
import { useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { HoldLines } from '../../parts/visit/hold-lines'
import { Slip } from '../../parts/visit/slip-card'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { Field } from '../../ui/field'
import { instantText } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { Contact, ContactActs, WhatIsOff } from './contact'
import { Glance } from './glance'
import { householdText } from './household'
import { phaseSums, sheetOf } from './job-view'
import { Positive, ResultForm, SampleForm } from './proof'
import { JobRung } from './rung'
import { PHASE_WORDS, STAND_WORDS, sayStep, TARGET_WORDS } from './words'

/** "20:42" of today, "Tue 20:42" of another day, in the firm's zone. */
const timeIn =
  (zone: string) =>
  (instant: string): string =>
    instantText(instant, zone).split(', ')[1] ?? ''

/** One disinfection from its plan to its proof; what comes next stands large. */
export function JobPage({ id }: { id: string }) {
  const job = useJob(id)
  const mayRecord = useMay('record-facts')
  const me = useMe().data
  const zone = me?.firm.timeZone ?? 'UTC'
  const [reading, setReading] = useState(false)
  const [off, setOff] = useState(false)
  const { page, plan, state } = job
  if (!page || !plan || !job.figures) {
    const gone = job.error instanceof ApiProblem && job.error.code === 'NOT_FOUND'
    return (
      <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`Disinfection`}>
        {job.error && (job.ready || gone) ? (
          <Failed what={say`This disinfection cannot be shown`} error={job.error} />
        ) : (
          <Waiting what={say`Loading the disinfection`} />
        )}
      </Screen>
    )
  }
  const place: JobPlace = { id, siteId: page.site.id }
  const told = TOLD.includes(state.stand)
  const targets = plan.targets.map((target) => midSentence(TARGET_WORDS[target])).join(', ')
  const mine = page.people.find(({ id: person }) => person === me?.person.id)
  const unskilled = isWell(plan.targets) && mine?.wells !== true
  if (me && !mayRecord) return <ReadAlong job={job} zone={zone} siteHref={`/sites/${page.site.id}`} today={me?.today ?? ''} />
  return (
    <Screen
      over={<BackLink href={`/sites/${page.site.id}`} label={`${page.site.name} · ${targets}`} />}
      title={state.stand === 'contact' && state.tide ? say`Contact since ${timeIn(zone)(state.tide.from)}` : STAND_WORDS[state.stand]}
      wide
      bottom={
        state.stand === 'contact' && !reading ? (
          <ContactActs job={job} place={place} reading={reading} onReading={setReading} off={off} onOff={() => setOff(!off)} />
        ) : undefined
      }
    >
      <HoldLines holds={holdsOf(job)} siteId={page.site.id} />
      {page.acid.map((site) => (
        <Notice key={site} tone="danger" title={say`Acid in the van today`}>
          <T>{caution`A sleeve is cleaned with descaler at ${site} on the same day. Acid and chlorine make a toxic gas: take one of them out of the van.`}</T>
        </Notice>
      ))}
      {off && state.stand === 'contact' ? <WhatIsOff job={job} /> : null}
      <Body job={job} place={place} zone={zone} unskilled={unskilled} reading={reading} onReading={setReading} />
      {told && me ? <Slip text={householdText({ firm: me.firm.name, site: page.site.name, zone, state })} marks={[]} /> : null}
      <T kind="small">{FIRST()}</T>
    </Screen>
  )
}

/** Where the job stands and what its plan says, for who records nothing. */
function ReadAlong({ job, zone, siteHref, today }: { job: Job; zone: string; siteHref: Href; today: string }) {
  const { page, plan, figures, guarded, state } = job
  if (!page || !plan || !figures) return null
  const { tide } = state
  return (
    <Screen over={<BackLink href={siteHref} label={page.site.name} />} title={STAND_WORDS[state.stand]} wide>
      <HoldLines holds={holdsOf(job)} siteId={page.site.id} />
      {tide && state.stand === 'contact' ? (
        <T>{say`Contact since ${timeIn(zone)(tide.from)}, at the earliest until ${timeIn(zone)(tide.earliestEnd)}; the last strip at the weakest outlet: ${tide.points.at(-1)?.mgL ?? 0} mg/L.`}</T>
      ) : null}
      <Glance plan={plan} figures={figures} guarded={guarded} today={today} />
      <T kind="small">{FIRST()}</T>
    </Screen>
  )
}

/** Where the household has something to hold in the hand. */
const TOLD: readonly JobState['stand'][] = ['contact', 'flushing', 'sample-due', 'result-due', 'clean', 'flushed', 'positive', 'e-coli']

/** The site's holds as the server has them, with the job's own that still wait on this device. */
function holdsOf({ page, state }: Job) {
  // What the server has of a hold it also knows to be lifted, here or by a job that repeated this one.
  const atServer = new Set(page?.facts.map(({ fact }) => fact.id))
  const own = state.holds.flatMap(({ id, holdKind, at, until, text }) =>
    atServer.has(id) || state.lifted.has(id) ? [] : [{ id, holdKind, begunAt: at, until, text }],
  )
  return [...(page?.holds ?? []).filter(({ id }) => !state.lifted.has(id)), ...own]
}

interface BodyProps {
  job: Job
  place: JobPlace
  zone: string
  unskilled: boolean
  reading: boolean
  onReading: (open: boolean) => void
}

function Body({ job, place, zone, unskilled, reading, onReading }: BodyProps) {
  const { state } = job
  if (state.stand === 'sample-due') return <SampleForm job={job} place={place} zone={zone} />
  if (state.stand === 'result-due') return <ResultForm job={job} place={place} zone={zone} />
  if (state.stand === 'positive' || state.stand === 'e-coli') return <Positive job={job} place={place} />
  if (state.stand === 'clean' || state.stand === 'flushed') return <Over job={job} place={place} zone={zone} />
  if (state.stand === 'stopped') return <T>{say`This job was cancelled. What was done stays in its record.`}</T>
  return (
    <>
      {unskilled ? (
        <Notice tone="danger" title={say`A well is for people with the skill`}>
          <T>{say`You can read along. Dosing and opening this well is for somebody with the skill for wells; many places want a licence.`}</T>
        </Notice>
      ) : null}
      {state.stand === 'contact' && !unskilled && sheetOf(job.steps, state)?.present ? <Ladder job={job} place={place} /> : null}
      {state.stand === 'contact' ? (
        <Contact job={job} place={place} clock={timeIn(zone)} reading={reading} onReading={onReading} />
      ) : unskilled ? null : (
        <Ladder job={job} place={place} />
      )}
      <More job={job} place={place} />
    </>
  )
}

/** Over: proved by a result, or flushed without one, which proves nothing of germs. */
function Over({ job, place, zone }: Pick<BodyProps, 'job' | 'place' | 'zone'>) {
  const router = useRouter()
  const [sampling, setSampling] = useState(false)
  const result = job.state.results.at(-1)
  const left = notProved(job.state)
  return (
    <View className="gap-3">
      {result ? (
        <Notice tone="good" title={say`No coliforms: the water may be used`}>
          <T>{say`Laboratory report ${result.reportNumber} of ${result.day}.`}</T>
        </Notice>
      ) : (
        <Notice tone="look" title={say`The chlorine is out; nothing is proved of germs`}>
          <T>{say`Strips at the outlets show the chlorine gone. Whether the water is free of germs only a laboratory’s sample can say.`}</T>
        </Notice>
      )}
      {left.length > 0 ? (
        <Notice tone="look" title={say`Not run, so not proved: ${left.map(({ outlet }) => outlet.name).join(', ')}`}>
          <T>{say`No strip speaks for them. Whoever opens one first runs it until a strip is clear, and does not drink from it before.`}</T>
        </Notice>
      ) : null}
      {holdsLeft(place, job).length > 0 ? (
        <Button label={say`Lift the hold: this proves it over`} kind="act" size="big" onPress={() => void liftLeft(place, job)} />
      ) : null}
      <Button label={say`The certificate`} kind="act" size="big" onPress={() => router.push(`/disinfect/${place.id}/certificate`)} />
      {result ? null : sampling ? (
        <SampleForm job={job} place={place} zone={zone} />
      ) : (
        <Button label={say`Prove it by a sample`} onPress={() => setSampling(true)} />
      )}
      <Button label={say`Plan it again`} onPress={() => router.push(`/disinfect/new?site=${place.siteId}&after=${place.id}`)} />
    </View>
  )
}

/** The steps of the day that is on: done ones a line, the present one large, the next one peeking. */
function Ladder({ job, place }: Pick<BodyProps, 'job' | 'place'>) {
  const units = useUnits()
  const desk = useDesk()
  const [open, setOpen] = useState(false)
  const sheet = sheetOf(job.steps, job.state)
  if (!sheet) return null
  const { present, next, done, today } = sheet
  const unit = job.figures?.unit ?? 'mL'
  const sums = phaseSums(today, job.state)
  const last = done.at(-1)
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap gap-x-3" role="list" aria-label={say`Phases`}>
        {sums.map(({ phase, done: count, of }) => (
          <View key={phase} role="listitem">
            <T kind="label" className={phase === present?.phase ? 'text-kelp underline' : count === of ? 'text-lichen-text' : 'text-quiet'}>
              {`${count === of ? '✓ ' : ''}${PHASE_WORDS[phase]} ${count}/${of}`}
            </T>
          </View>
        ))}
      </View>
      {done.length > 0 ? (
        <View className="gap-1">
          <View className="flex-row items-center gap-3">
            <Pressable role="button" aria-expanded={open} onPress={() => setOpen(!open)} className="min-h-[48px] flex-1 justify-center">
              <T kind="quiet">{say`✓ ${done.length} done${last ? say` · last: ${sayStep(last.text, last.values, unit, units)}` : ''}`}</T>
            </Pressable>
            {last && last.kind !== 'outlet' && last.kind !== 'clear' && last.kind !== 'hold' ? (
              <Button label={say`Undo`} onPress={() => void takeJobTickBack(place, job, last)} />
            ) : null}
          </View>
          {open
            ? done.map((step) => (
                <T key={step.key} kind="quiet">
                  {`✓ ${sayStep(step.text, step.values, unit, units)}${answerText(step.key, job.state)}`}
                </T>
              ))
            : null}
        </View>
      ) : null}
      {present ? (
        <JobRung
          key={present.key}
          step={present}
          job={job}
          place={place}
          of={say`${PHASE_WORDS[present.phase]} · ${done.length + 1} of ${today.length}`}
        />
      ) : job.state.contactEnded ? (
        <EndOfFlush job={job} place={place} />
      ) : null}
      {next ? (
        <T kind="quiet" className={desk ? '' : 'opacity-80'}>
          {say`Then: ${sayStep(next.text, next.values, unit, units)}`}
        </T>
      ) : null}
    </View>
  )
}

const answerText = (key: string, state: JobState): string => {
  const ticked = state.done.get(key)
  const words = ticked ? resultWords(ticked) : null
  return words ? ` (${words})` : ''
}

function endText({ plan, state }: Job): string {
  const left = notProved(state).map(({ outlet }) => outlet.name)
  const lifted = say`“Do not use” is lifted by the strips at the outlets that were run.${left.length > 0 ? say` Not run, so not proved: ${left.join(', ')}.` : ''}`
  if (chemicalsPossible(state)) return say`${lifted} Bottled water goes on until chemicals are ruled out too.`
  return plan?.sample ? say`${lifted} Boiled or bottled goes on until the result.` : lifted
}

function EndOfFlush({ job, place }: Pick<BodyProps, 'job' | 'place'>) {
  return (
    <View className="gap-3 rounded-card border-2 border-kelp bg-sheet p-4">
      <T kind="title" level={2} className="text-[22px] leading-[28px]">
        {say`Flushed, and everything stands as service needs it`}
      </T>
      <T>{endText(job)}</T>
      <Button label={say`End the flush day`} kind="act" size="big" onPress={() => void endFlushDay(place, job, '')} />
    </View>
  )
}

/** The plan to look into, and the way out. */
function More({ job, place }: Pick<BodyProps, 'job' | 'place'>) {
  const today = useMe().data?.today ?? ''
  const [open, setOpen] = useState(false)
  const [stopping, setStopping] = useState(false)
  const [why, setWhy] = useState('')
  const { plan, figures, guarded } = job
  if (!plan || !figures) return null
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap gap-2">
        <Button label={open ? say`Hide the plan` : say`The plan`} onPress={() => setOpen(!open)} />
        <Button label={stopping ? say`Go on` : say`Cancel job`} onPress={() => setStopping(!stopping)} />
      </View>
      {stopping ? (
        <View className="gap-2 rounded-card border-2 border-oxblood p-3">
          <T>
            {job.state.doses.length > 0
              ? say`Chlorine is in: it has to come out first. Cancelling leaves the hold until somebody proves it out.`
              : say`Nobody has dosed yet: the days are taken off the road.`}
          </T>
          <Field label={say`Why`} value={why} onChangeText={setWhy} maxLength={300} />
          <Button
            label={say`Cancel job`}
            kind="danger"
            disabled={why.trim() === ''}
            onPress={() => void endDay(place, 'job', 'stopped', why.trim())}
          />
        </View>
      ) : null}
      {open ? <Glance plan={plan} figures={figures} guarded={guarded} today={today} /> : null}
      {open ? <TextLink href={`/sites/${place.siteId}`} label={say`The site`} /> : null}
    </View>
  )
}
