import type { KindDto } from '@evenround/contract/kinds'
import type { TrainPageDto } from '@evenround/contract/train-edit'
import {
  FAMILIES,
  type Family,
  familyTrain,
  flowPath,
  moveStage,
  playTrain,
  removeNode,
  setBypass,
  type Train,
  type TrainNode,
  trainWarnings,
} from '@evenround/core/train'
import { many, say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useEffect, useMemo, useState } from 'react'
import { Pressable, View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { ApiProblem } from '../../data/api'
import { isOffline } from '../../data/day'
import { useMe, useShelf, useSite, useTrain } from '../../data/queries'
import { saveSystem, systemOnDevice } from '../../data/train-edit'
import { mediumGroups } from '../../parts/catalogue/medium-groups'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { Field } from '../../ui/field'
import { useKeys } from '../../ui/keys'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { Select } from '../../ui/select'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { type Addable, add, begin, change, type History, nodeNote, nodeTitle, redo, rowsOf, stagesOnly, undo } from './editor-state'
import { NodeForm } from './node-form'
import { PipeMap } from './pipe-map'

/** The plumbing of a system, drawn as it is edited. */
export function TrainEditor({ id }: { id: string }) {
  const page = useTrain(id)
  // Without a network it is drawn from what the device was brought of it; that it is asked for again must not take the drawing away.
  const [kept, setKept] = useState<TrainPageDto | null>(null)
  useEffect(() => {
    if (!page.data && isOffline(page.error)) setKept(systemOnDevice(id))
  }, [id, page.data, page.error])
  const shown = page.data ?? kept
  if (!shown) {
    return (
      <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`Plumbing`}>
        {page.error ? (
          <Failed what={say`This plumbing cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the plumbing`} />
        )}
      </Screen>
    )
  }
  return <Editor key={shown.version} page={shown} fresh={false} />
}

/** A system that is not there yet begins with a usual family. */
export function NewSystem({ siteId }: { siteId: string }) {
  const site = useSite(siteId)
  const [page] = useState(() => ({ systemId: uuidv7(), train: fromFamily('under-sink-3') }))
  if (!site.data) {
    return (
      <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`New system`}>
        {site.error ? <Failed what={say`This site cannot be shown`} error={site.error} /> : <Waiting what={say`Loading the site`} />}
      </Screen>
    )
  }
  return <Editor page={{ ...page, siteId, siteName: site.data.site.name, name: '', serialNo: '', version: 0 }} fresh />
}

type FamilyName = keyof typeof FAMILIES
const FAMILY_NAMES = Object.keys(FAMILIES) as FamilyName[]
/** Nobody has seen this very set yet: which side its inlets are on is not known. */
function fromFamily(name: FamilyName): Train {
  const family: Family = FAMILIES[name]
  const train = familyTrain(
    family,
    family.stages.map(() => uuidv7()),
  )
  return { ...train, nodes: train.nodes.map((node) => (node.kind === 'stage' ? { ...node, inletConfirmed: false } : node)) }
}

const PLUMBING: { label: string; options: readonly { value: Addable; label: string }[] } = {
  label: say`Plumbing`,
  options: [
    { value: 'valve', label: say`shut-off valve` },
    { value: 'tank', label: say`storage tank with its tee` },
    { value: 'outlet', label: say`another tap` },
    { value: 'ice', label: say`ice maker` },
    { value: 'pump', label: say`pump` },
    { value: 'heater', label: say`water heater` },
  ],
}

function Editor({ page, fresh }: { page: TrainPageDto; fresh: boolean }) {
  const router = useRouter()
  const desk = useDesk()
  const me = useMe().data
  const kinds = useShelf().data?.kinds ?? []
  const mayEdit = me?.rights.includes(fresh ? 'edit-sites' : 'mend-at-door') === true
  const [history, setHistory] = useState<History>(() => begin(page.train))
  const [name, setName] = useState(page.name)
  const [serialNo, setSerialNo] = useState(page.serialNo)
  const [open, setOpen] = useState<string | null>(null)
  const [problem, setProblem] = useState<{ title: string; text: string } | null>(null)
  const [saving, setSaving] = useState(false)
  const train = history.present
  const path = flowPath(train)
  const rows = rowsOf(train, path)
  const warnings = useMemo(() => trainWarnings(train), [train])
  const played = useMemo(() => playTrain(train, [], new Set()), [train])
  const put = (next: Train): void => setHistory((before) => change(before, next))
  const place = open === null ? -1 : rows.findIndex(({ id }) => id === open)
  const step = (by: 1 | -1): void => setOpen(rows[Math.min(rows.length - 1, Math.max(0, place + by))]?.id ?? null)
  const takeOut = (): void => {
    if (open === null) return
    put(removeNode(train, open))
    setOpen(null)
  }
  useKeys({
    j: () => step(1),
    k: () => step(-1),
    u: () => setHistory(undo),
    r: () => setHistory(redo),
    '[': () => open !== null && put(moveIfStage(train, open, -1)),
    ']': () => open !== null && put(moveIfStage(train, open, 1)),
    Delete: takeOut,
  })
  const save = async (): Promise<void> => {
    if (name.trim() === '') {
      setProblem({ title: say`Name is required`, text: say`Say where it hangs: Kitchen, Plant room.` })
      return
    }
    setSaving(true)
    setProblem(null)
    try {
      await saveSystem(page, { name: name.trim(), serialNo: serialNo.trim(), train }, me?.firm.schools.change ?? 'earliest')
      router.replace(`/sites/${page.siteId}`)
    } catch (error) {
      const stale = error instanceof ApiProblem && error.code === 'STALE_VERSION'
      setProblem({
        title: stale ? say`Somebody else changed it meanwhile` : say`Not saved`,
        text: stale
          ? say`What you drew is still here. Open the plumbing once more beside it, take over what they changed, and save there.`
          : error instanceof ApiProblem
            ? error.message
            : say`The reason is not known. What you drew is still here.`,
      })
    } finally {
      setSaving(false)
    }
  }
  const chosen = rows.find(({ id }) => id === open)
  const rowProps = (node: TrainNode): RowFormProps => ({
    train,
    node,
    kinds,
    onWay: path.some(({ id }) => id === node.id),
    mayEdit,
    onChange: put,
    onAdd: (what) => {
      const made = add(train, node.id, what)
      put(made.train)
      setOpen(made.id)
    },
    onTakeOut: takeOut,
  })
  const changed = history.past.length > 0 || name.trim() !== page.name || serialNo.trim() !== page.serialNo
  return (
    <Screen
      over={<BackLink href={`/sites/${page.siteId}`} label={page.siteName} />}
      title={fresh ? say`New system` : say`Plumbing: ${page.name}`}
      wide={desk}
      pinned={<PipeMap train={train} played={played} active={new Set(open === null ? [] : [open])} atRest />}
      bottom={
        <>
          <Button label={say`Undo`} size="big" disabled={history.past.length === 0} onPress={() => setHistory(undo)} />
          <Button label={say`Redo`} size="big" disabled={history.future.length === 0} onPress={() => setHistory(redo)} />
          <Button
            label={say`Save`}
            kind="act"
            size="big"
            grow
            disabled={!mayEdit || saving || !(changed || fresh)}
            onPress={() => void save()}
            testID="save-train"
          />
        </>
      }
    >
      {mayEdit ? null : (
        <Notice tone="look" title={say`You can look, not change`}>
          <T>{say`The office keeps the plumbing. Tell it what you found otherwise at the door.`}</T>
        </Notice>
      )}
      {problem ? (
        <Notice tone="danger" title={problem.title} live>
          <T>{problem.text}</T>
        </Notice>
      ) : null}
      <Field label={say`Name`} value={name} onChangeText={setName} maxLength={80} hint={say`Where it hangs: Kitchen, Plant room`} />
      <Field
        label={say`Serial number`}
        value={serialNo}
        onChangeText={setSerialNo}
        maxLength={60}
        hint={say`On its plate; found by the search. Empty where there is none`}
      />
      <Select
        label={say`Start from a family`}
        value=""
        none={say`Start from a family …`}
        groups={[
          {
            label: say`Usual ways systems are put together`,
            options: FAMILY_NAMES.map((value) => ({ value, label: FAMILIES[value].name })),
          },
        ]}
        onChange={(value) => {
          if (value === '') return
          put(fromFamily(value))
          setOpen(null)
        }}
      />
      {warnings.length === 0 ? (
        <T kind="strong" className="text-lichen-text">
          {say`No problems found.`}
        </T>
      ) : (
        <Notice tone="look" title={many(warnings.length, 'thing to look at', 'things to look at')} live>
          {warnings.map(({ id, node, text }) => (
            <T key={`${id}/${node}`}>{text}</T>
          ))}
        </Notice>
      )}
      <View className={desk ? 'flex-row items-start gap-6' : ''}>
        <View role="list" aria-label={say`The train in the order of the water`} className={`gap-1 ${desk ? 'flex-1' : ''}`}>
          {rows.map((node) => (
            <Row
              key={node.id}
              {...rowProps(node)}
              open={open === node.id}
              inside={!desk}
              onToggle={() => setOpen(open === node.id ? null : node.id)}
            />
          ))}
        </View>
        {desk ? (
          <View className="flex-1 rounded-card border-2 border-line bg-sheet">
            {chosen ? (
              <RowForm {...rowProps(chosen)} />
            ) : (
              <View className="p-4">
                <T kind="quiet">{say`Choose something on the left: what is known of it, what comes after it, and its place stand here.`}</T>
              </View>
            )}
          </View>
        ) : null}
      </View>
      {mayEdit && !train.nodes.some(({ kind }) => kind === 'bypass') && stagesOnly(path).length > 0 ? (
        <View className="self-start">
          <Button
            label={say`Add a bypass round the set`}
            onPress={() => {
              const stages = stagesOnly(path)
              put(setBypass(train, 'bypass', { enters: stages[0]?.id ?? '', leaves: stages.at(-1)?.id ?? '' }))
              setOpen('bypass')
            }}
          />
        </View>
      ) : null}
      <T kind="small">{say`At a keyboard: j and k move, [ and ] reorder, Delete takes out, u undoes, r redoes.`}</T>
    </Screen>
  )
}

const moveIfStage = (train: Train, id: string, by: 1 | -1): Train =>
  train.nodes.some((node) => node.id === id && node.kind === 'stage') ? moveStage(train, id, by) : train

interface RowFormProps {
  train: Train
  node: TrainNode
  /** Kinds of part that the firm named itself. */
  kinds: readonly KindDto[]
  /** It stands on the way to the tap: something can be put after it. */
  onWay: boolean
  mayEdit: boolean
  onChange: (train: Train) => void
  onAdd: (what: Addable) => void
  onTakeOut: () => void
}

/** A line of the list; on a phone what is known of it opens below it. */
function Row({ open, inside, onToggle, ...row }: RowFormProps & { open: boolean; inside: boolean; onToggle: () => void }) {
  const { train, node } = row
  return (
    <View role="listitem" className={`rounded-card border-2 bg-sheet ${open ? 'border-kelp' : 'border-line'}`}>
      <Pressable
        role="button"
        aria-expanded={open}
        onPress={onToggle}
        className="min-h-[56px] w-full flex-row items-center gap-3 px-3 py-2"
      >
        <View className="flex-1">
          <T kind="strong">{nodeTitle(train, node)}</T>
          {nodeNote(node) ? <T kind="small">{nodeNote(node)}</T> : null}
        </View>
        {inside ? <T kind="quiet">{open ? say`close` : say`open`}</T> : null}
      </Pressable>
      {open && inside ? (
        <View className="border-t-2 border-line">
          <RowForm {...row} />
        </View>
      ) : null}
    </View>
  )
}

function RowForm({ train, node, kinds, onWay, mayEdit, onChange, onAdd, onTakeOut }: RowFormProps) {
  const title = nodeTitle(train, node)
  const movable = node.kind === 'stage' && onWay
  const fixed = node.kind === 'source' || (node.kind === 'outlet' && train.nodes.filter(({ kind }) => kind === 'outlet').length === 1)
  if (!mayEdit) return null
  return (
    <View className="gap-4 px-3 py-3" role="group" aria-label={title}>
      <NodeForm train={train} node={node} onChange={onChange} />
      {onWay && node.kind !== 'outlet' ? (
        <Select
          label={say`Add after ${title}`}
          value=""
          none={say`Add after it …`}
          groups={[...mediumGroups(kinds), PLUMBING]}
          onChange={(what) => what !== '' && onAdd(what)}
        />
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        {movable ? <Button label={say`Earlier`} onPress={() => onChange(moveStage(train, node.id, -1))} /> : null}
        {movable ? <Button label={say`Later`} onPress={() => onChange(moveStage(train, node.id, 1))} /> : null}
        {fixed ? null : (
          <Button
            label={say`Take out`}
            kind="danger"
            onPress={node.kind === 'bypass' ? () => onChange(setBypass(train, node.id, null)) : onTakeOut}
          />
        )}
      </View>
    </View>
  )
}
