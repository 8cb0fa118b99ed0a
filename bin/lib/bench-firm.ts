import { inputOfSet } from '@evenround/contract/round-set'
import { roundCost } from '@evenround/core/round'
import type { Client } from 'pg'
import { v7 as uuidv7 } from 'uuid'
import { drawFirm } from './round/firm'

/** Writes what is to be planned for a made-up firm; its id. */
export async function writeSet(client: Client, firmId: string, systems: number, today: string): Promise<{ setId: string; visits: number }> {
  const setId = uuidv7()
  const technicians = Array.from({ length: 40 }, () => uuidv7())
  const set = { ...drawFirm(setId, uuidv7, technicians, systems), today }
  await client.query('insert into round_set (firm_id, id, made_at, set) values ($1, $2, now(), $3)', [firmId, setId, JSON.stringify(set)])
  return { setId, visits: set.visits.length }
}

/** Puts the plan of a run on the firm's desk. */
export async function lay(client: Client, firmId: string, runId: string): Promise<void> {
  await client.query(
    `insert into round_draft (firm_id, set_id, plan, version, changed_at, changed_by)
     select r.firm_id, r.set_id, r.plan, 2, now(), r.asked_by from round_run r where r.firm_id = $1 and r.id = $2
     on conflict (firm_id) do update set set_id = excluded.set_id, plan = excluded.plan, version = round_draft.version + 1`,
    [firmId, runId],
  )
}

/** Checks the plan of a run by code the planner does not share. */
export async function check(client: Client, firmId: string, runId: string) {
  const { rows } = await client.query(
    'select r.plan, s.set from round_run r join round_set s on s.firm_id = r.firm_id and s.id = r.set_id where r.firm_id = $1 and r.id = $2',
    [firmId, runId],
  )
  const { plan, set } = rows[0]
  const { cost, broken } = roundCost(inputOfSet(set), plan)
  return {
    broken: broken.length,
    unplanned: plan.unplanned.length as number,
    cost: cost.total,
    days: plan.days.length as number,
    travel: cost.travel,
  }
}
