import type { SitePageDto, SystemDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useRef, useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { useLocal } from '../../data/local'
import { record } from '../../data/outbox'
import { useMe, useSite } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { localDecimal } from '../../ui/locale'
import { Notice } from '../../ui/notice'
import { ReadOnly } from '../../ui/read-only'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { tdsFact } from './facts'
import { blocker, type Draft, EMPTY_DRAFT, judge, type Meter, USUAL_METER, WATERS } from './judge'
import { MeterSettings } from './meter-settings'
import { samplingHint } from './sampling'
import { TwoWaters } from './two-waters'
import { Doubts, FitFor, Verdict } from './verdict'

/** Two numbers at the door without a visit: what they mean, and kept as readings of the system. */
export function DoorReading({ siteId }: { siteId: string }) {
  const page = useSite(siteId)
  const back = <BackLink href={`/sites/${siteId}`} label={page.data?.site.name ?? say`The site`} />
  const me = useMe().data
  const mayRecord = useMay('record-facts')
  if (me && !mayRecord) return <ReadOnly over={back} title={say`A reading at the door`} />
  if (!page.data)
    return (
      <Screen over={back} title={say`A reading at the door`}>
        {page.error ? <Failed what={say`This site cannot be shown`} error={page.error} onRetry={() => void page.refetch()} /> : <Waiting />}
      </Screen>
    )
  const [first] = page.data.systems
  return (
    <Screen over={back} title={say`A reading at the door`}>
      {first ? (
        <DoorForm page={page.data} first={first} />
      ) : (
        <Empty title={say`No system here yet`} text={say`A reading belongs to a system: draw its plumbing on the site’s page first.`} />
      )}
    </Screen>
  )
}

function DoorForm({ page, first }: { page: SitePageDto; first: SystemDto }) {
  const me = useMe().data
  const router = useRouter()
  const units = useUnits()
  const [systemId, setSystemId] = useState(first.id)
  const [draft, setDraft] = useState<Draft>(EMPTY_DRAFT)
  const [meter, setMeter] = useLocal<Meter>('even-round.meter', USUAL_METER)
  const [asked, setAsked] = useState(false)
  const [kept, setKept] = useState(false)
  const going = useRef(false)
  const system = page.systems.find(({ id }) => id === systemId) ?? first
  const history = page.histories.find((one) => one.systemId === system.id)?.history
  if (!me || !history) return <Waiting />
  const judgement = judge(draft, meter, { system, site: page.site }, history, me.firm.schools, me.today, localDecimal(), units)
  const wanting = blocker(judgement)
  const keep = async (): Promise<void> => {
    setAsked(true)
    if (wanting || going.current) return
    going.current = true
    const visitId = uuidv7()
    const facts = WATERS.flatMap((water) => {
      const fact = tdsFact({ siteId: page.site.id, systemId: system.id, visitId, phase: 'before', water, draft, judgement, meter })
      return fact ? [fact] : []
    })
    await record(...facts)
    going.current = false
    setKept(true)
    setAsked(false)
    setDraft(EMPTY_DRAFT)
  }
  return (
    <View className="gap-4">
      {kept ? (
        <Notice tone="good" title={say`Kept as a reading of this system`} live>
          <View className="self-start">
            <Button label={say`Back to the site`} onPress={() => router.push(`/sites/${page.site.id}`)} />
          </View>
        </Notice>
      ) : null}
      {page.systems.length > 1 ? (
        <Choice
          label={say`At which system`}
          value={system.id}
          options={page.systems.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setSystemId}
        />
      ) : null}
      <TwoWaters draft={draft} meter={meter} judgement={judgement} onChange={setDraft} />
      {asked && wanting ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {wanting}
        </T>
      ) : null}
      <Doubts judgement={judgement} typed={draft} onChange={(water, typed) => setDraft((before) => ({ ...before, [water]: typed }))} />
      <Verdict judgement={judgement} />
      <FitFor judgement={judgement} />
      <Button label={say`Keep this reading`} kind="act" size="big" onPress={() => void keep()} testID="keep-reading" />
      <MeterSettings meter={meter} onChange={setMeter} />
      <T kind="small">{samplingHint(system.stages.map(({ media }) => media))}</T>
    </View>
  )
}
