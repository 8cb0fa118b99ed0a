import type { SiteDto, SiteRowDto, SystemDto } from '@evenround/contract/site'
import { placeText } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { queryClient, useSites } from '../../data/queries'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { Segments } from '../../ui/segments'
import { T } from '../../ui/text'
import { searchSites } from './search'

/** So many that fit under a field on a phone. */
const SHOWN = 6

/** One of the firm's sites, by its name or place; `not` is no choice. */
function SitePicker({ not, chosen, onChoose }: { not: string; chosen: SiteRowDto | null; onChoose: (site: SiteRowDto | null) => void }) {
  const sites = useSites().data?.sites ?? []
  const [typed, setTyped] = useState('')
  const found = typed.trim() === '' ? [] : searchSites(sites, typed).filter(({ id }) => id !== not)
  if (chosen)
    return (
      <View className="flex-row flex-wrap items-center gap-3">
        <T kind="strong">{`${chosen.name}, ${placeText(chosen)}`}</T>
        <Button label={say`Choose another`} onPress={() => onChoose(null)} />
      </View>
    )
  return (
    <View className="gap-1">
      <Field label={say`Which site: name or place`} value={typed} onChangeText={setTyped} />
      {found.slice(0, SHOWN).map((site) => (
        <Pressable
          key={site.id}
          role="button"
          onPress={() => onChoose(site)}
          className="min-h-[48px] justify-center border-t-2 border-line py-2"
        >
          <T kind="strong">{site.name}</T>
          <T kind="quiet">{placeText(site)}</T>
        </Pressable>
      ))}
      {typed.trim() !== '' && found.length === 0 ? <T kind="quiet">{say`No other site by that name.`}</T> : null}
      {found.length > SHOWN ? <T kind="quiet">{say`${found.length - SHOWN} more: type more of the name.`}</T> : null}
    </View>
  )
}

function useAct(act: () => Promise<unknown>, onDone: () => void) {
  const [state, setState] = useState<{ busy: boolean; problem: string | null }>({ busy: false, problem: null })
  const run = async (): Promise<void> => {
    setState({ busy: true, problem: null })
    try {
      await act()
      await queryClient.invalidateQueries()
      setState({ busy: false, problem: null })
      onDone()
    } catch (error) {
      setState({ busy: false, problem: error instanceof ApiProblem ? error.message : say`It could not be saved. Nothing was changed.` })
    }
  }
  return { ...state, run }
}

function Problem({ text }: { text: string | null }) {
  return text === null ? null : (
    <T role="alert" kind="strong" className="text-oxblood">
      {text}
    </T>
  )
}

/** Two sites are the same place: the other one goes, and all that is its stands here. */
export function MergeSite({ site, onDone }: { site: SiteDto; onDone: () => void }) {
  const [other, setOther] = useState<SiteRowDto | null>(null)
  const { busy, problem, run } = useAct(
    () => ask(api.sites[':id'].merge.$post({ param: { id: site.id }, json: { from: other?.id ?? '' } })),
    onDone,
  )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="strong">{say`Which site is the same place as this one?`}</T>
      <T>
        {say`Its systems, visits, photos, holds and planned stops are filed under ${site.name}, which keeps its own name and address. Contacts of both are kept. The other name goes; this cannot be undone.`}
      </T>
      <SitePicker not={site.id} chosen={other} onChoose={setOther} />
      <Problem text={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Merge the two`} kind="danger" disabled={other === null || busy} onPress={() => void run()} />
        <Button label={say`Cancel`} onPress={onDone} />
      </View>
    </View>
  )
}

const HOW = { taken: say`It was taken there`, always: say`It was always there` } as const
const WHAT_HAPPENS = {
  taken: say`Visits made until now stay in the book of this site. The parts in it, its readings and forecasts go with the system.`,
  always: say`It was only filed wrongly: all its visits go with it, too.`,
}

/** The system hangs at another site; closed until asked for. */
export function MoveSystem({ system }: { system: SystemDto }) {
  const router = useRouter()
  const [open, setOpen] = useState(false)
  const [to, setTo] = useState<SiteRowDto | null>(null)
  const [how, setHow] = useState<keyof typeof HOW>('taken')
  const { busy, problem, run } = useAct(
    () => ask(api.sites[':id'].systems.$post({ param: { id: to?.id ?? '' }, json: { systemId: system.id, wholePast: how === 'always' } })),
    () => router.push(`/sites/${to?.id}`),
  )
  if (!open)
    return (
      <View className="self-start">
        <Button label={say`Move to another site …`} onPress={() => setOpen(true)} />
      </View>
    )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4" role="group" aria-label={say`Move ${system.name}`}>
      <T kind="strong">{say`Where does ${system.name} hang now?`}</T>
      <SitePicker not={system.siteId} chosen={to} onChoose={setTo} />
      <Segments label={say`What happened`} value={how} words={HOW} onChange={setHow} />
      <T kind="quiet">{WHAT_HAPPENS[how]}</T>
      <Problem text={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Move it there`} kind="act" disabled={to === null || busy} onPress={() => void run()} />
        <Button label={say`Cancel`} onPress={() => setOpen(false)} />
      </View>
    </View>
  )
}
