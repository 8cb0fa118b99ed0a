import { FAMILIES, type Family, familyTrain, stagesInFlow } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { useForm, useWatch } from 'react-hook-form'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { makeSite } from '../../data/new-site'
import { ownerKey } from '../../data/outbox'
import { keepPhoto } from '../../data/photos'
import { useMe, useShelf, useSites } from '../../data/queries'
import { EMPTY_SITE, SiteFields, type SiteForm, siteOfForm } from '../../parts/forms/site-fields'
import { daysHaveBeen, knownParts, PartsInIt, type PartsTyped } from '../../parts/site/parts-in-it'
import { positionOf } from '../../parts/site/position-field'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { neighboursOf } from './neighbours'
import { type Taken, TakePhotos } from './system-photos'

type FamilyName = keyof typeof FAMILIES
type GroupName = 'sink' | 'osmosis' | 'house' | 'fridge' | 'later'
/** The usual systems by where they work: two taps to each. */
export const GROUPS: readonly { value: GroupName; label: string; families: readonly FamilyName[] }[] = [
  { value: 'sink', label: say`At the sink`, families: ['under-sink-2', 'under-sink-3', 'quarter-turn-3', 'counter-fluoride'] },
  {
    value: 'osmosis',
    label: say`Reverse osmosis, pure water`,
    families: ['reverse-osmosis-5', 'reverse-osmosis-6', 'commercial-remineral', 'pure-water'],
  },
  { value: 'house', label: say`Whole house`, families: ['two-large', 'ultraviolet', 'washable-prefilter', 'carbon-tank', 'softener'] },
  { value: 'fridge', label: say`Refrigerator`, families: ['fridge-inline', 'fridge-internal'] },
  { value: 'later', label: say`Say it later`, families: [] },
]

const todayHere = (): string => new Intl.DateTimeFormat('sv-SE').format(new Date())

/** A site made at the door: what it is, what hangs there, what is known to be in it. It is there at once, with a signal or without. */
export function NewSite() {
  const router = useRouter()
  const me = useMe().data
  const sites = useSites()
  const { control, handleSubmit, setError, formState } = useForm<SiteForm>({ defaultValues: EMPTY_SITE })
  const [name, position] = useWatch({ control, name: ['name', 'position'] })
  const [family, setFamily] = useState<FamilyName | 'later' | null>(null)
  const [group, setGroup] = useState<GroupName | null>(null)
  const [systemName, setSystemName] = useState(say`Kitchen`)
  const [serialNo, setSerialNo] = useState('')
  const [typed, setTyped] = useState<PartsTyped>({})
  const [taken, setTaken] = useState<Taken[]>([])
  const [tried, setTried] = useState(false)
  const catalogue = useShelf().data?.parts ?? []
  const [problem, setProblem] = useState<string | null>(null)
  const train = useMemo(() => {
    if (family === null || family === 'later') return null
    const shape: Family = FAMILIES[family]
    return familyTrain(
      shape,
      shape.stages.map(() => uuidv7()),
      // Chosen from a list at the door: which side an inlet is on is asked at the first visit.
      false,
    )
  }, [family])
  const stages = train ? stagesInFlow(train) : []
  const today = me?.today ?? todayHere()
  const near = neighboursOf(sites.data?.sites ?? [], name, positionOf(position))
  const save = handleSubmit(async (form) => {
    setProblem(null)
    const read = siteOfForm(form)
    if ('problems' in read) {
      for (const [field, message] of Object.entries(read.problems)) setError(field as keyof SiteForm, { message })
      return
    }
    if (family === null || !daysHaveBeen(typed, today) || (train && systemName.trim() === '')) return
    const parts = knownParts(stages, typed, catalogue)
    try {
      const { siteId, systemId } = await makeSite(
        { site: read.site, system: train ? { name: systemName.trim(), serialNo: serialNo.trim(), train } : null, parts },
        { name: me?.person.name ?? '', today, school: me?.firm.schools.change ?? 'earliest' },
      )
      if (systemId !== null && me)
        for (const { what, file } of taken) await keepPhoto(ownerKey(me.firm.id, me.person.id), { siteId, systemId, what }, file)
      router.replace(`/sites/${siteId}`)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It could not be kept on this device.`)
    }
  })
  return (
    <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`New site`} wide>
      <View className="max-w-[820px] gap-5">
        <SiteFields control={control} brief>
          {near.length > 0 ? (
            <Notice tone="look" title={near.length === 1 ? say`Is it this one?` : say`Is it one of these?`}>
              {near.map(({ row, why, km }) => (
                <TextLink
                  key={row.id}
                  href={`/sites/${row.id}`}
                  label={`${row.name}: ${why === 'same-name' ? say`called the same` : say`${Math.round((km ?? 0) * 1000)} m from here`}`}
                />
              ))}
            </Notice>
          ) : null}
        </SiteFields>
        <View className="gap-2">
          <T kind="heading" level={2}>
            {say`What hangs there`}
          </T>
          <Choice
            label={say`Where it works`}
            quietLabel
            value={group}
            options={GROUPS.map(({ value, label }) => ({ value, label }))}
            onChange={(next) => {
              setGroup(next)
              setFamily(next === 'later' ? 'later' : null)
            }}
          />
          {group !== null && group !== 'later' ? (
            <Choice
              label={say`Put together like`}
              value={family}
              options={(GROUPS.find(({ value }) => value === group)?.families ?? []).map((value) => ({
                value,
                label: FAMILIES[value].name,
              }))}
              onChange={setFamily}
            />
          ) : null}
          {tried && family === null ? (
            <T kind="small" role="alert" className="text-oxblood">
              {say`Choose what comes nearest; the plumbing can be drawn exactly afterwards.`}
            </T>
          ) : null}
        </View>
        {train ? (
          <View className="gap-3">
            <Field
              label={say`Called`}
              value={systemName}
              onChangeText={setSystemName}
              maxLength={80}
              hint={say`Where it hangs: kitchen, cellar, plant room`}
              error={tried && systemName.trim() === '' ? say`Name is required` : undefined}
            />
            <Field
              label={say`Serial number`}
              value={serialNo}
              onChangeText={setSerialNo}
              maxLength={60}
              hint={say`On its plate, where there is one`}
            />
            <T kind="heading" level={2}>
              {say`Parts that are in it`}
            </T>
            <T kind="quiet">{say`Scan or type what stands on them. Left empty: nobody knows.`}</T>
            <PartsInIt stages={stages} typed={typed} onTyped={setTyped} catalogue={catalogue} today={today} />
            <T kind="heading" level={2}>
              {say`Photos`}
            </T>
            <TakePhotos taken={taken} onTaken={setTaken} />
          </View>
        ) : null}
        {problem ? (
          <T kind="strong" role="alert" className="text-oxblood">
            {problem}
          </T>
        ) : null}
        <Button
          label={formState.isSubmitting ? say`Saving …` : say`Add this site`}
          kind="act"
          size="big"
          disabled={formState.isSubmitting}
          onPress={() => {
            setTried(true)
            void save()
          }}
        />
      </View>
    </Screen>
  )
}
