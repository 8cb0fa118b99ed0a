import type { DisinfectionSetup } from '@evenround/contract/disinfections'
import type { JobPlan } from '@evenround/core/disinfection'
import { contactAsked, jobFigures, jobState } from '@evenround/core/job'
import type { Fact } from '@evenround/core/visit'
import { caution, say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useMemo, useRef, useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { guardedSystems } from '../../data/job'
import { planJob } from '../../data/job-acts'
import { useLocal } from '../../data/local'
import { useDisinfection, useMe, useSetup } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { figure, inTrade } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { ReadOnly } from '../../ui/read-only'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { type Draft, firstDraft } from './draft'
import { draftFrom } from './draft-from'
import { planOf } from './draft-plan'
import { Glance } from './glance'
import { Jug, Outlets, Rest, Systems, Water, What } from './planner-sections'
import { Strength } from './strength'
import { amountText } from './words'

/** A disinfection from its reason to what is brought: typed once, worked out at every key. */
export function Planner({ siteId, afterJob }: { siteId: string; afterJob: string | null }) {
  const setup = useSetup(siteId)
  const mayRecord = useMay('record-facts')
  const me = useMe().data
  const before = useEarlierPlan(afterJob)
  if (me && !mayRecord)
    return <ReadOnly over={<BackLink href={`/sites/${siteId}`} label={say`The site`} />} title={say`Plan a disinfection`} />
  if (!setup.data || !me || before === undefined) {
    return (
      <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`Plan a disinfection`}>
        {setup.error ? (
          <Failed what={say`This site cannot be shown`} error={setup.error} onRetry={() => void setup.refetch()} />
        ) : (
          <Waiting what={say`Loading the site`} />
        )}
      </Screen>
    )
  }
  return <Form key={siteId} setup={setup.data} me={me.person} afterJob={afterJob} before={before} />
}

/** What the job before this one knew; null where there is none, undefined while it is asked for. */
function useEarlierPlan(afterJob: string | null): JobPlan | null | undefined {
  const page = useDisinfection(afterJob ?? '', afterJob !== null)
  if (afterJob === null || page.isError) return null
  return page.data ? jobState(page.data.facts.map(({ fact }): Fact => fact)).plan : undefined
}

interface FormProps {
  setup: DisinfectionSetup
  me: { id: string }
  afterJob: string | null
  before: JobPlan | null
}

function Form({ setup, me, afterJob, before }: FormProps) {
  const router = useRouter()
  const desk = useDesk()
  const units = useUnits()
  const schools = useMe().data?.firm.schools
  const [draft, setDraft, forget] = useLocal<Draft>(
    `even-round.disinfect.${setup.site.id}.${afterJob ?? ''}`,
    firstOf(setup, me, afterJob, before),
  )
  const [trouble, setTrouble] = useState<string | null>(null)
  const keeping = useRef(false)
  const made = useMemo(() => planOf(draft, setup, afterJob), [draft, setup, afterJob])
  const shown = useMemo(() => {
    if (!('plan' in made) || !schools) return null
    return { plan: made.plan, figures: jobFigures(made.plan), guarded: guardedSystems(made.plan, setup.systems, schools) }
  }, [made, schools, setup])
  const doer = setup.people.find(({ id }) => id === draft.technicianId)
  const wantsSkill = draft.targets.some((target) => target === 'drilled-well' || target === 'dug-well')
  const unskilled = wantsSkill && doer?.wells !== true
  const cannot = shown?.guarded.some(({ protection }) => protection.cannot.length > 0 || protection.findings.length > 0) === true
  const blocked = shown === null || cannot || shown.figures.refusals.length > 0 || unskilled
  const acid = setup.acid.filter(({ technicianId, day }) => technicianId === draft.technicianId && day === draft.day)
  const save = async (): Promise<void> => {
    if (shown === null || blocked) {
      setTrouble(
        'missing' in made
          ? say`Still wanted: ${made.missing.join('; ')}.`
          : unskilled
            ? say`Wells are for people with the skill.`
            : cannot
              ? say`Something chlorine harms is not protected: see “Protect”.`
              : say`See “Cannot proceed” in the result.`,
      )
      return
    }
    // A thumb that taps twice plans one job.
    if (keeping.current) return
    keeping.current = true
    const id = uuidv7()
    await planJob({ id, siteId: setup.site.id }, shown.plan, null)
    forget()
    router.replace(`/disinfect/${id}`)
  }
  const result =
    shown === null ? (
      <Notice tone="act" title={say`The result stands here`}>
        <T>{say`Still wanted: ${'missing' in made ? made.missing.join('; ') : ''}.`}</T>
      </Notice>
    ) : (
      <Glance {...shown} today={setup.today} />
    )
  return (
    <Screen
      over={<BackLink href={`/sites/${setup.site.id}`} label={setup.site.name} />}
      title={say`Plan a disinfection`}
      wide
      bottom={
        <View className="flex-1 gap-2">
          {trouble ? (
            <T role="alert" kind="strong" className="text-oxblood">
              {trouble}
            </T>
          ) : null}
          {shown ? (
            <T kind="strong" testID="dose-line">
              {inTrade(
                say`${shown.figures.doses.map(({ amount }) => amountText(amount, shown.figures.unit, units)).join(' + ')} · ${figure(shown.plan.targetMgL)} mg/L · ${figure(contactAsked(shown.plan).hours)} h`,
                units,
              )}
            </T>
          ) : null}
          <Button label={say`Keep this plan`} kind="act" size="big" onPress={() => void save()} />
        </View>
      }
    >
      <View className={desk ? 'flex-row items-start gap-8' : 'gap-6'}>
        <View className={desk ? 'flex-1 gap-6' : 'gap-6'}>
          <What draft={draft} setup={setup} onChange={setDraft} />
          <Systems draft={draft} setup={setup} onChange={setDraft} />
          <Water draft={draft} onChange={setDraft} />
          <Jug draft={draft} setup={setup} onChange={setDraft} />
          <Strength draft={draft} onChange={setDraft} />
          <Outlets draft={draft} onChange={setDraft} />
          <Rest draft={draft} setup={setup} unskilled={unskilled} onChange={setDraft} />
          {acid.map(({ siteName }) => (
            <Notice key={siteName} tone="danger" title={say`Acid in the van that day`}>
              <T>{caution`${doer?.name ?? ''} cleans a sleeve with descaler at ${siteName} on the same day. Acid and chlorine make a toxic gas: another day, or another van.`}</T>
            </Notice>
          ))}
        </View>
        <View className={desk ? 'sticky top-0 w-[440px]' : ''}>{result}</View>
      </View>
    </Screen>
  )
}

function firstOf(setup: DisinfectionSetup, me: { id: string }, afterJob: string | null, before: JobPlan | null): Draft {
  const stand = setup.jobs.find(({ id }) => id === afterJob)?.stand
  const fresh = firstDraft(setup, me, stand === 'positive' || stand === 'e-coli')
  return before === null ? fresh : draftFrom(before, fresh)
}
