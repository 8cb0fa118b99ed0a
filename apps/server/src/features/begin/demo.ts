import type { DemoDto } from '@evenround/contract/begin'
import { say } from '@evenround/core/words'
import type { Deps, Who } from '../../http/env'
import { ApiError } from '../../http/errors'

type Doors = Pick<Deps, 'inFirm' | 'demo'>

/** Whose the demo on this server is: the firm that asked for it, `operator` where the start loaded it, null where there is none. */
const whose = ({ inFirm, demo }: Doors): Promise<string | 'operator' | null> =>
  inFirm(demo.firmId, async (scope) => {
    const [row] = await scope.query<{ begun_by: string | null }>('select begun_by from firm where firm_id = $1')
    return row ? (row.begun_by ?? 'operator') : null
  })

/** The demo as this firm sees it: only the one it asked for itself. */
export async function demoOf(doors: Doors, { firmId }: Pick<Who, 'firmId'>): Promise<DemoDto> {
  return (await whose(doors)) === firmId ? { there: true, people: doors.demo.people } : { there: false, people: [] }
}

/** Whether it is there for this firm; refuses where it is somebody else's. */
async function isOwn(doors: Doors, { firmId }: Pick<Who, 'firmId'>): Promise<boolean> {
  const owner = await whose(doors)
  if (owner !== null && owner !== firmId)
    throw new ApiError('CONFLICT', say`The demo is on this server already, made by somebody else; its operator knows the sign-ins.`)
  return owner !== null
}

export async function loadDemoFor(doors: Doors, who: Pick<Who, 'firmId'>): Promise<DemoDto> {
  if (!(await isOwn(doors, who))) {
    await doors.demo.load()
    await doors.inFirm(doors.demo.firmId, (scope) => scope.query('update firm set begun_by = $2 where firm_id = $1', [who.firmId]))
  }
  return demoOf(doors, who)
}

export async function throwDemoAwayFor(doors: Doors, who: Pick<Who, 'firmId'>): Promise<DemoDto> {
  if (await isOwn(doors, who)) await doors.demo.throwAway()
  return demoOf(doors, who)
}
