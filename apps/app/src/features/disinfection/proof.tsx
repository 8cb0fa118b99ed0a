import type { LaboratoryLineDto } from '@evenround/contract/disinfections'
import { afterPositive, CONTINUOUS_ADVICE, causesFor, E_COLI_ADVICE, isWell } from '@evenround/core/job'
import { isIsoDay } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem } from '../../data/api'
import type { Job } from '../../data/job'
import { type JobPlace, recordResult, recordSample, tickJob } from '../../data/job-acts'
import { useNow } from '../../data/now'
import { useMe } from '../../data/queries'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { FilePick } from '../../ui/file-pick'
import { instantText } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { laboratoryText, readFile } from './laboratory-file'

interface ProofProps {
  job: Job
  place: JobPlace
  zone: string
}

/** The sample visit: in its window, from the right tap, with nothing left in the water that hides germs. */
export function SampleForm({ job, place, zone }: ProofProps) {
  const now = useNow(60_000)
  const { window, plan } = job.state
  const [bottle, setBottle] = useState('')
  const [laboratory, setLaboratory] = useState(say`Skellan Water Laboratory`)
  const [tap, setTap] = useState(plan?.outlets.find(({ side }) => side === 'cold')?.name ?? '')
  const [chlorine, setChlorine] = useState<number | null>(null)
  const [dechlorinating, setDechlorinating] = useState(plan?.supply === 'municipal')
  const [asked, setAsked] = useState(false)
  if (!window || !plan) return null
  const early = Date.parse(now) < Date.parse(window.from)
  const late = Date.parse(now) > Date.parse(window.to)
  const chlorineLeft = chlorine !== null && chlorine > 0 && !dechlorinating
  const ready = bottle.trim() !== '' && laboratory.trim() !== '' && tap.trim() !== '' && chlorine !== null && !chlorineLeft
  const save = (): void => {
    setAsked(true)
    if (ready)
      void recordSample(place, {
        bottle: bottle.trim(),
        laboratory: laboratory.trim(),
        place: tap.trim(),
        dechlorinating,
        chlorineMgL: chlorine ?? 0,
      })
  }
  return (
    <View className="gap-3" testID="sample">
      <Notice
        tone={early || late ? 'look' : 'good'}
        title={early ? say`Too early for the sample` : late ? say`The window is over: take it now` : say`In its window`}
      >
        <T>{say`From ${instantText(window.from, zone)} to ${instantText(window.to, zone)}, 5 to 7 days after the flush. ${early ? say`Germs that survived have not grown back yet: a clean result would say little.` : ''}`}</T>
      </Notice>
      <T>
        {say`Aerator off, tap wiped or flamed, cold water run two to three minutes. Nothing touches the bottle’s mouth or cap; kept cold, at the laboratory the same day.`}
      </T>
      <Field
        label={say`Bottle number`}
        value={bottle}
        onChangeText={setBottle}
        maxLength={60}
        error={asked && bottle.trim() === '' ? say`As it stands on the bottle` : undefined}
      />
      <Field
        label={say`Laboratory`}
        value={laboratory}
        onChangeText={setLaboratory}
        maxLength={120}
        hint={say`Accredited for drinking water`}
      />
      <Field label={say`Taken at`} value={tap} onChangeText={setTap} maxLength={120} />
      <QuantityField
        label={say`Free chlorine at this tap`}
        dimension="concentration"
        unit="mg/l"
        unitText="mg/L"
        value={chlorine}
        onChange={setChlorine}
      />
      {chlorineLeft ? (
        <T role="alert" kind="small" className="text-oxblood">
          {say`Chlorine in the bottle goes on killing: flush until it reads zero, or take a dechlorinating bottle.`}
        </T>
      ) : null}
      <Tick label={say`A dechlorinating bottle`} value={dechlorinating} onChange={setDechlorinating} />
      <Button label={early ? say`Taken all the same` : say`The sample is taken`} kind="act" size="big" onPress={save} />
    </View>
  )
}

/** The laboratory’s answer: from its file, or typed. */
export function ResultForm({ job, place, zone }: ProofProps) {
  const today = useMe().data?.today ?? ''
  const { sample } = job.state
  const [coliform, setColiform] = useState<'absent' | 'present' | null>(null)
  const [eColi, setEColi] = useState<'absent' | 'present' | null>(null)
  const [report, setReport] = useState('')
  const [day, setDay] = useState(today)
  const [said, setSaid] = useState<string | null>(null)
  if (!sample) return null
  const take = (line: LaboratoryLineDto): void =>
    void recordResult(place, job, {
      sampleId: sample.id,
      totalColiform: line.totalColiform,
      eColi: line.eColi,
      others: line.others,
      reportNumber: line.reportNumber || line.bottle,
      day: line.day,
    })
  const fromFile = async (text: string): Promise<void> => {
    const read = await readFile(text)
    if (read.problems.length > 0) {
      setSaid(read.problems.map(({ line, text: problem }) => say`Line ${line}: ${problem}`).join(' '))
      return
    }
    const line = read.lines.find((one) => one.bottle === sample.bottle)
    if (line) take(line)
    else
      setSaid(
        read.lines.length === 0
          ? say`The laboratory has no result yet: it takes about two days.`
          : say`No line for bottle ${sample.bottle} in this file.`,
      )
  }
  const offline = (error: unknown): void =>
    setSaid(error instanceof ApiProblem ? error.message : say`The file could not be read. Try again.`)
  const fetchFile = async (): Promise<void> => {
    try {
      await fromFile(await laboratoryText(place.id))
    } catch (error) {
      setSaid(error instanceof ApiProblem ? error.message : say`The laboratory could not be asked. Try again.`)
    }
  }
  const bad = coliform === 'absent' && eColi === 'present'
  const ready = job.known && coliform !== null && eColi !== null && !bad && report.trim() !== '' && isIsoDay(day)
  return (
    <View className="gap-3" testID="result">
      <T>{say`Bottle ${sample.bottle}, taken ${instantText(sample.at, zone)} at ${sample.place}, at ${sample.laboratory}.`}</T>
      <Button label={say`Ask the laboratory`} kind="act" size="big" disabled={!job.known} onPress={() => void fetchFile()} />
      <FilePick
        label={say`Open its file (CSV)`}
        kind="plain"
        accept=".csv,text/csv"
        onFile={(file) => void file.text().then(fromFile).catch(offline)}
      />
      {said ? (
        <T role="alert" kind="strong" className="text-copper-text">
          {said}
        </T>
      ) : null}
      <T kind="heading" level={2}>
        {say`Or type it`}
      </T>
      <Choice label={say`Total coliform`} value={coliform} options={FOUND} onChange={setColiform} />
      <Choice label={say`E. coli`} value={eColi} options={FOUND} onChange={setEColi} />
      {bad ? (
        <T role="alert" kind="small" className="text-oxblood">
          {say`E. coli is a coliform: one cannot be there without the other.`}
        </T>
      ) : null}
      <Field label={say`Report number`} value={report} onChangeText={setReport} maxLength={60} />
      <DayField label={say`Day of the report`} value={day} onChange={setDay} />
      <Button
        label={say`Enter the result`}
        disabled={!ready}
        onPress={() =>
          take({
            bottle: sample.bottle,
            reportNumber: report.trim(),
            day,
            totalColiform: coliform ?? 'absent',
            eColi: eColi ?? 'absent',
            others: [],
          })
        }
      />
    </View>
  )
}
const FOUND = [
  { value: 'absent', label: say`Absent` },
  { value: 'present', label: say`Present` },
] as const

/** What a positive result asks for: the household, the cause, and once more; or not by shocks alone. */
export function Positive({ job, place }: Omit<ProofProps, 'zone'>) {
  const router = useRouter()
  const { plan, verdict, done } = job.state
  if (!plan) return null
  const next = afterPositive(job.page?.earlierPositives ?? 0)
  const causes = causesFor(isWell(plan.targets))
  const looked = causes.filter(({ id }) => done.has(`cause/${id}`)).length
  return (
    <View className="gap-3" testID="positive">
      {verdict === 'e-coli' ? (
        <Notice tone="danger" title={say`E. coli: tell the household at once`} live>
          <T>{E_COLI_ADVICE()}</T>
          {done.has('cause/told') ? (
            <T kind="strong">{say`The household was told.`}</T>
          ) : (
            <View className="mt-2 self-start">
              <Button label={say`They are told`} kind="danger" onPress={() => void tickJob(place, 'cause/told')} />
            </View>
          )}
        </Notice>
      ) : (
        <Notice tone="danger" title={say`Coliforms found`}>
          <T>{say`Something still lets germs in, or something was not reached. Boiled or bottled water goes on.`}</T>
        </Notice>
      )}
      {next === 'continuous' ? (
        <Notice tone="danger" title={say`Positive again`}>
          <T>{CONTINUOUS_ADVICE()}</T>
        </Notice>
      ) : null}
      <T kind="heading" level={2}>
        {say`Look for the cause first`}
      </T>
      {causes.map(({ id, text }) => (
        <Tick
          key={id}
          label={text}
          value={done.has(`cause/${id}`)}
          onChange={(on) => (on ? void tickJob(place, `cause/${id}`) : undefined)}
        />
      ))}
      <Button
        label={next === 'repeat' ? say`Plan the repeat` : say`Plan one all the same`}
        kind={next === 'repeat' ? 'act' : 'plain'}
        size="big"
        disabled={looked === 0}
        onPress={() => router.push(`/disinfect/new?site=${place.siteId}&after=${place.id}`)}
      />
      {looked === 0 ? <T kind="small">{say`Tick what was looked at: chlorine does not mend a cap.`}</T> : null}
    </View>
  )
}
