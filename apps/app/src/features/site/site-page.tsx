import type { SystemPhotoDto } from '@evenround/contract/photo'
import type { SitePageDto, SystemDto } from '@evenround/contract/site'
import { addressText } from '@evenround/core/firm'
import { many, midSentence, say } from '@evenround/core/words'
import { Link, Redirect, useRouter } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { useDisinfections, useMe, useSite } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { JobLines } from '../../parts/disinfection/job-lines'
import { GettingIn } from '../../parts/site/getting-in'
import { PLACE_WORDS, SOURCE_WORDS } from '../../parts/site/words'
import { HoldLines } from '../../parts/visit/hold-lines'
import { OUTCOME_WORDS } from '../../parts/visit/outcomes'
import { TrainLine } from '../../parts/wear/train-line'
import { dueSentence, fittedText, isLate, stageName } from '../../parts/wear/words'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { instantText } from '../../ui/format'
import { later } from '../../ui/later'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { Customer } from './customer'
import { Devices } from './devices'
import { Faults } from './faults'
import { MoveSystem } from './moving'
import { SystemPhotos } from './system-photos'
import { WorkHere } from './work-here'

const SiteForm = later(async () => (await import('../../parts/forms')).SiteForm)

/** A site: holds, how to get in, its systems with what ends when, and what was done. */
export function SitePage({ id }: { id: string }) {
  const page = useSite(id)
  const me = useMe()
  const desk = useDesk()
  const [editing, setEditing] = useState(false)
  const back = desk ? undefined : <BackLink href="/sites" label={say`Sites`} />
  if (!page.data) {
    return (
      <Screen over={back} title={say`Site`}>
        {page.error ? (
          <Failed what={say`This site cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the site`} />
        )}
      </Screen>
    )
  }
  const { site } = page.data
  // The site asked for was merged into this one.
  if (site.id !== id) return <Redirect href={`/sites/${site.id}`} />
  const mayEdit = me.data?.rights.includes('edit-sites') === true
  const aside = mayEdit && !editing ? <Button label={say`Edit`} onPress={() => setEditing(true)} /> : null
  return (
    <Screen over={back} title={site.name} aside={aside} wide>
      {editing ? (
        <SiteForm site={site} onDone={() => setEditing(false)} />
      ) : (
        <SiteBody page={page.data} today={me.data?.today ?? ''} zone={me.data?.firm.timeZone ?? 'UTC'} mayEdit={mayEdit} />
      )}
    </Screen>
  )
}

function SiteBody({ page, today, zone, mayEdit }: { page: SitePageDto; today: string; zone: string; mayEdit: boolean }) {
  const { site, systems, holds, visits } = page
  const router = useRouter()
  const mayRecord = useMe().data?.rights.includes('record-facts') === true
  return (
    <View className="gap-5">
      <T kind="quiet">{`${addressText(site)} · ${PLACE_WORDS[site.kind]}, ${many(site.people, 'person', 'people')} · ${SOURCE_WORDS[site.source]}${site.chlorineMgL === null ? '' : say` · chlorine ${site.chlorineMgL} mg/L`}`}</T>
      <HoldLines holds={holds} siteId={site.id} contact={site.contact} told />
      <GettingIn site={site} mended={page.mended} />
      {(page.sameCustomer ?? []).length > 0 ? (
        <View className="flex-row flex-wrap items-center gap-x-4">
          <T kind="quiet">{say`The same customer:`}</T>
          {page.sameCustomer?.map(({ id, name }) => (
            <TextLink key={id} href={`/sites/${id}`} label={name} />
          ))}
        </View>
      ) : null}
      <Faults faults={page.faults ?? []} systems={systems} siteId={site.id} zone={zone} />
      {systems.length === 0 ? (
        <Empty title={say`No system yet`} text={say`Nothing hangs here so far. Draw its plumbing: it begins with a usual family.`} />
      ) : (
        systems.map((system) => <SystemView key={system.id} system={system} photos={page.photos ?? []} today={today} mayEdit={mayEdit} />)
      )}
      {mayEdit ? (
        <View className="self-start">
          <Button label={say`Add a system`} onPress={() => router.push(`/system/new?site=${site.id}`)} />
        </View>
      ) : null}
      {systems.length > 0 && mayRecord ? (
        <View className="self-start">
          <Button
            label={say`Take a reading`}
            hint={say`Two numbers at the door, without a visit`}
            onPress={() => router.push(`/reading/${site.id}`)}
          />
        </View>
      ) : null}
      <Disinfections siteId={site.id} today={today} />
      <Devices systems={systems} mayEdit={mayEdit} />
      <View>
        <T kind="heading" level={2}>
          {say`Done here`}
        </T>
        {visits.length === 0 ? <T kind="quiet">{say`No visit is written down yet.`}</T> : null}
        <TextLink href={`/life/${site.id}`} label={say`What happened here`} />
        {visits.map((visit) => (
          <Link key={visit.visitId} href={`/book/${visit.visitId}`} asChild>
            <Pressable className="min-h-[48px] w-full flex-row flex-wrap items-center gap-x-3 border-t-2 border-line py-2">
              <T className="w-[170px]">{instantText(visit.begunAt, zone)}</T>
              <T kind="quiet" className="min-w-[160px] flex-1">
                {visit.fitted.length > 0 ? visit.fitted.join(', ') : say`no part`}
              </T>
              <T kind="quiet">{`${visit.personName} · ${visit.outcome === null ? say`open` : midSentence(OUTCOME_WORDS[visit.outcome])}`}</T>
            </Pressable>
          </Link>
        ))}
      </View>
      <Customer site={site} />
    </View>
  )
}

/** Jobs of this site, and the way to a new one. */
function Disinfections({ siteId, today }: { siteId: string; today: string }) {
  const router = useRouter()
  const all = useDisinfections().data
  const mayPlan = useMay('record-facts')
  const mayEdit = useMay('edit-sites')
  const rows = all?.rows.filter((row) => row.siteId === siteId) ?? []
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Disinfection and hours`}
      </T>
      {rows.length === 0 ? <T kind="quiet">{say`None is written down yet.`}</T> : <JobLines rows={rows} today={today} named={false} />}
      {mayPlan ? (
        <View className="flex-row flex-wrap gap-2">
          {mayEdit ? <Button label={say`Hours and closings`} onPress={() => router.push(`/hours/${siteId}`)} /> : null}
          <Button label={say`Plan a disinfection`} onPress={() => router.push(`/disinfect/new?site=${siteId}`)} />
        </View>
      ) : null}
    </View>
  )
}

interface SystemViewProps {
  system: SystemDto
  photos: readonly SystemPhotoDto[]
  today: string
  mayEdit: boolean
}

function SystemView({ system, photos, today, mayEdit }: SystemViewProps) {
  const units = useUnits()
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {system.name}
      </T>
      {system.serialNo ? (
        <T kind="quiet">
          {say`Serial number `}
          {system.serialNo}
        </T>
      ) : null}
      <TrainLine
        stages={system.stages}
        due={new Set(system.stages.filter(({ due }) => isLate(due)).map(({ id }) => id))}
        today={today}
        height={96}
        named
      />
      {system.stages.map((stage) => (
        <Link key={stage.id} href={`/stage/${stage.id}`} asChild>
          <Pressable className="w-full flex-row gap-3 border-t-2 border-line py-2">
            <T kind="strong" className="w-6">
              {stage.position}
            </T>
            <View className="flex-1">
              <T kind="strong">{stageName(stage)}</T>
              <T>{dueSentence(stage, today, units)}</T>
              <T kind="small">{fittedText(stage, today)}</T>
            </View>
            <T kind="quiet" className="self-center underline">
              {say`why`}
            </T>
          </Pressable>
        </Link>
      ))}
      <WorkHere system={system} />
      <SystemPhotos system={system} kept={photos} />
      {mayEdit ? <MoveSystem system={system} /> : null}
    </View>
  )
}
