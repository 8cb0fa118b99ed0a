import type { SheetStep } from '@evenround/core/train'
import { many, say } from '@evenround/core/words'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { takeBack, type VisitPlace } from '../../data/visit-acts'
import { T } from '../../ui/text'
import { type Block, minutesWords } from './segment'

/** How many done rungs stand above the present one before they fold away. */
const DONE_SHOWN = 3
const BLOCKS_SHOWN = 1
const PEEK = 3

/** What is done, a line a step; the earlier ones fold away. */
export function DoneRungs({ steps, place, all = false }: { steps: readonly SheetStep[]; place: VisitPlace; all?: boolean }) {
  const [open, setOpen] = useState(all)
  const shown = open ? steps : steps.slice(-DONE_SHOWN)
  return (
    <View>
      <Earlier
        count={steps.length - shown.length}
        text={many(steps.length - shown.length, 'earlier step done · show', 'earlier steps done · show')}
        onShow={() => setOpen(true)}
      />
      {shown.map((step) => (
        <DoneRung key={step.key} step={step} place={place} />
      ))}
    </View>
  )
}

/** How much is folded away above, to be shown by a tap; nothing where all of it stands there. */
function Earlier({ count, text, onShow }: { count: number; text: string; onShow: () => void }) {
  if (count <= 0) return null
  return (
    <Pressable role="button" onPress={onShow} className="min-h-[40px] justify-center">
      <T kind="quiet">{text}</T>
    </Pressable>
  )
}

/** A done rung is a line; taking it back is one tap, and the book shows both. */
function DoneRung({ step, place }: { step: SheetStep; place: VisitPlace }) {
  return (
    <View className="min-h-[40px] flex-row items-center gap-3 border-b border-line">
      <T kind="quiet" className="w-7 text-right">
        {step.n}
      </T>
      <T kind="quiet" className="flex-1" numberOfLines={1}>
        {step.text}
      </T>
      <T kind="label" className="text-lichen-text">
        {say`done`}
      </T>
      {place.state.done.has(step.key) ? (
        <TakeBack label={say`Take back step ${step.n}`} onPress={() => void takeBack(place, step)} />
      ) : null}
    </View>
  )
}

function TakeBack({ label, onPress }: { label: string; onPress: () => void }) {
  return (
    <Pressable role="button" aria-label={label} onPress={onPress} className="min-h-[40px] justify-center px-1">
      <T kind="small" className="underline">
        {say`take back`}
      </T>
    </Pressable>
  )
}

/** Blocks of which something is done: a line each, which unfolds into its done steps; the earlier ones fold away. */
export function DoneBlocks({ blocks, place }: { blocks: readonly Block[]; place: VisitPlace }) {
  const [open, setOpen] = useState(false)
  const begun = blocks.filter((block) => block.left.length < block.steps.length)
  const shown = open ? begun : begun.slice(-BLOCKS_SHOWN)
  return (
    <View>
      <Earlier
        count={begun.length - shown.length}
        text={many(begun.length - shown.length, 'earlier block done · show', 'earlier blocks done · show')}
        onShow={() => setOpen(true)}
      />
      {shown.map((block) => (
        <DoneBlock key={block.name} block={block} steps={block.steps.filter((step) => !block.left.includes(step))} place={place} />
      ))}
    </View>
  )
}

function DoneBlock({ block, steps, place }: { block: Block; steps: readonly SheetStep[]; place: VisitPlace }) {
  const [open, setOpen] = useState(false)
  const ticked = steps.filter(({ key }) => place.state.done.has(key))
  return (
    <View>
      <View className="min-h-[40px] flex-row items-center gap-3 border-b border-line">
        <Pressable
          role="button"
          aria-expanded={open}
          onPress={() => setOpen(!open)}
          className="min-h-[40px] flex-1 flex-row items-center gap-3"
        >
          <T kind="quiet" className="w-7 text-right">
            {block.n}
          </T>
          <T kind="quiet" className="flex-1" numberOfLines={1}>
            {block.name}
          </T>
          <T kind="label" className="text-lichen-text">
            {block.left.length === 0 ? say`done` : say`${steps.length} of ${block.steps.length}`}
          </T>
        </Pressable>
        {ticked.length > 0 ? <TakeBack label={say`Take back ${block.name}`} onPress={() => void takeBack(place, ...ticked)} /> : null}
      </View>
      {open ? (
        <View className="pl-6">
          <DoneRungs steps={steps} place={place} all />
        </View>
      ) : null}
    </View>
  )
}

export function ComingBlocks({ blocks }: { blocks: readonly Block[] }) {
  return (
    <View aria-label={say`Next blocks`} role="list">
      {blocks.map((block) => (
        <View key={block.name} role="listitem" className="flex-row gap-3 border-b border-line py-2">
          <T kind="quiet" className="w-7 text-right">
            {block.n}
          </T>
          <T kind="quiet" className="flex-1">
            {block.name}
          </T>
          <T kind="quiet">{minutesWords(block.minutes)}</T>
        </View>
      ))}
    </View>
  )
}

export function ComingSteps({ steps }: { steps: readonly SheetStep[] }) {
  return (
    <View aria-label={say`Next steps`} role="list">
      {steps.slice(0, PEEK).map((step) => (
        <View key={step.key} role="listitem" className="flex-row gap-3 py-1.5">
          <T kind="quiet" className="w-7 text-right">
            {step.n}
          </T>
          <T kind="quiet" className="flex-1">
            {step.text}
          </T>
        </View>
      ))}
    </View>
  )
}
