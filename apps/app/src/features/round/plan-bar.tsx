import { sumsOf, type Whose, yearOf } from '@evenround/contract/round-sums'
import type { PlanSums, RoundPage, SetPlan } from '@evenround/contract/rounds'
import { many, say } from '@evenround/core/words'
import { View } from 'react-native'
import { useMe } from '../../data/queries'
import { Button } from '../../ui/button'
import { CompareRow } from '../../ui/compare-row'
import { duration, instantText } from '../../ui/format'
import { T } from '../../ui/text'
import { movedBetween } from './plan-view'
import type { Planning, Proposal } from './planner-acts'
import { signed } from './price'
import { weekdayWord } from './words'

/** A plan in a sentence: visits, driving, ferries, what was pulled forward, what found no day. */
export function Summary({ sums, hourMinor, currency }: { sums: PlanSums; hourMinor: number; currency: string }) {
  const lost = (sums.lostMin * hourMinor) / 60 / 100
  return (
    <T testID="round-summary">
      <T kind="strong">{many(sums.visits, 'visit', 'visits')}</T>
      {say` · ${duration(sums.drivingMin)} driving · ${many(sums.ferries, 'crossing', 'crossings')}`}
      {sums.pulled > 0 ? say` · ${many(sums.pulled, 'part', 'parts')} pulled forward (${lost.toFixed(0)} ${currency} of life)` : ''}
      {sums.unplanned > 0 ? (
        <T kind="strong" className="text-copper-text">{say` · ${sums.unplanned} unscheduled`}</T>
      ) : (
        say` · everything is scheduled`
      )}
    </T>
  )
}

/** Planning while it runs: how far, the best price so far, and a stop that keeps what there is. */
export function Progress({ planning, onStop }: { planning: Planning; onStop: () => void }) {
  const share = Math.round(planning.share * 100)
  return (
    <View role="status" testID="planning" className="gap-2 rounded-card border-2 border-kelp bg-sheet px-4 py-3">
      <T kind="strong">{say`Planning ${planning.by === 'device' ? say`on this device` : say`on the server`} · ${share} %`}</T>
      <View
        className="h-3 overflow-hidden rounded-[3px] bg-line"
        role="progressbar"
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-label={say`Planning`}
      >
        <View style={{ width: `${share}%`, height: '100%' }} className="bg-kelp" />
      </View>
      <T kind="quiet">
        {planning.cost === null ? say`Looking up what is due…` : say`Best so far ${Math.round(planning.cost)} minutes’ worth`}
      </T>
      <Button label={planning.by === 'device' ? say`Stop with the best so far` : say`Cancel`} onPress={onStop} />
    </View>
  )
}

interface ProposalCardProps {
  page: RoundPage
  proposal: Proposal
  whose: Whose
  looking: boolean
  onLook: () => void
  onTake: () => void
  onDrop: () => void
}

const MOST_NAMED = 8

/** Plan against plan: what the new one costs and moves, before anybody takes it. */
export function ProposalCard({ page, proposal, whose, looking, onLook, onTake, onDrop }: ProposalCardProps) {
  const { set, draft } = page
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const [before, after] = [sumsOf(set, draft.plan, whose), sumsOf(set, proposal.plan, whose)]
  const [was, now] = [yearOf(set, draft.plan, whose), yearOf(set, proposal.plan, whose)]
  const moved = movedBetween(draft.plan, proposal.plan)
  const stale = proposal.version !== draft.version || proposal.setId !== set.id
  const dearer = proposal.plan.cost.total - draft.plan.cost.total
  const names = [...moved].map((id) => lineOf(page, proposal.plan, id))
  return (
    <View testID="proposal" className="gap-2 rounded-card border-2 border-kelp bg-sheet px-4 py-3">
      <T kind="heading" level={2}>
        {moved.size === 0 ? say`Nothing would move` : say`Proposed plan`}
      </T>
      {proposal.run?.madeAt ? (
        <T kind="quiet">{say`Planned by the server for ${proposal.run.byName}, ${instantText(proposal.run.madeAt, zone)}.`}</T>
      ) : null}
      <CompareRow label={say`visits on a day`} a={String(before.visits)} b={String(after.visits)} />
      <CompareRow label={say`driving`} a={duration(before.drivingMin)} b={duration(after.drivingMin)} />
      <CompareRow label={say`crossings`} a={String(before.ferries)} b={String(after.ferries)} />
      <CompareRow label={say`workload imbalance`} a={`± ${Math.round(was.spread * 100)} %`} b={`± ${Math.round(now.spread * 100)} %`} />
      <CompareRow label={say`unscheduled`} a={String(before.unplanned)} b={String(after.unplanned)} />
      <T>
        {many(moved.size, 'visit moves', 'visits move')}
        {before.unplanned === after.unplanned ? (
          <>
            {say`; in all `}
            <T kind="strong">{signed(dearer)}</T>
          </>
        ) : null}
      </T>
      {names.slice(0, MOST_NAMED).map((text) => (
        <T key={text} kind="quiet">
          {text}
        </T>
      ))}
      {names.length > MOST_NAMED ? (
        <T kind="quiet">{say`and ${names.length - MOST_NAMED} more, marked with a dot on their lines`}</T>
      ) : null}
      {stale ? (
        <T role="alert" kind="strong" className="text-copper-text">
          {say`Somebody changed the plan meanwhile. Plan again with their change kept.`}
        </T>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Apply plan`} kind="act" grow disabled={stale} onPress={onTake} />
        <Button label={looking ? say`See the old one` : say`See it on the lines`} grow onPress={onLook} />
        <Button label={say`Discard plan`} grow onPress={onDrop} />
      </View>
    </View>
  )
}

/** "Kelp press: Thu 26 Nov → Fri 27 Nov, Wren". */
function lineOf({ set, draft }: RoundPage, plan: SetPlan, id: string): string {
  const where = (one: SetPlan): string => {
    const line = one.days.find(({ stops }) => stops.some(({ visit }) => visit === id))
    if (!line) return say`no day`
    const person = set.technicians.find((one) => one.id === line.technician)?.name.split(' ')[0] ?? ''
    return `${weekdayWord(set.days[line.day] ?? '')}${set.technicians.length > 1 ? `, ${person}` : ''}`
  }
  const name = set.visits.find((visit) => visit.id === id)?.siteName ?? ''
  return `${name}: ${where(draft.plan)} → ${where(plan)}`
}
