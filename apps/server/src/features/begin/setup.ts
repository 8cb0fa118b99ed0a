import { type SetupState, setupSchema } from '@evenround/contract/begin'
import { say } from '@evenround/core/words'
import type { Context } from 'hono'
import { countTry, forgetTries } from '../../auth/failures'
import { signInWith } from '../../auth/routes'
import { sameSecret } from '../../auth/token'
import type { FirmScope, InAuthScope } from '../../db/scope'
import type { Deps, Env } from '../../http/env'
import { ApiError } from '../../http/errors'
import { readInput } from '../../http/input'
import { writeFirm } from './new-firm'

/** However it was typed: small letters, without the dashes. */
const asPrinted = (code: string): string => code.replaceAll(/[\s-]/g, '').toUpperCase()

const isEmpty = async (inAuthScope: InAuthScope): Promise<boolean> => {
  const [row] = await inAuthScope<{ anybody: boolean }[]>((manager) => manager.query('select exists (select 1 from auth_user) as anybody'))
  return row?.anybody === false
}

/** Nobody is in this database, and the start gave a code. */
export const setupState = async ({ inAuthScope }: Deps, code: string | null): Promise<SetupState> => ({
  open: code !== null && (await isEmpty(inAuthScope)),
})

const WHO = 'setup'
const CLOSED = () => say`This server has a firm already. Sign in, or ask its owner for an invitation.`

/** Sets the first firm up and signs its owner in. */
export async function setUp(c: Context<Env>, deps: Deps, code: string | null): Promise<Response> {
  const { code: typed, ...firm } = await readInput(c, setupSchema)
  await refuseCode(deps, code, typed)
  await deps.inFirm(deps.newId(), async (scope) => {
    await aloneAndEmpty(scope, deps)
    await writeFirm(scope, firm, { now: deps.now(), newId: deps.newId })
  })
  return signInWith(c, deps, firm.owner)
}

/** Refuses where nothing is to be set up, and whoever does not know the code; wrong ones are slowed. */
export async function refuseCode(deps: Deps, code: string | null, typed: string): Promise<void> {
  if (!(await setupState(deps, code)).open || code === null) throw new ApiError('CONFLICT', CLOSED())
  await countTry(deps.inAuthScope, WHO, deps.now(), say`wrong codes`)
  if (!sameSecret(asPrinted(typed), asPrinted(code)))
    throw new ApiError('NO_RIGHT', say`This is not the code that the start printed.`, {
      fields: [{ path: 'code', message: say`not the code of this server` }],
    })
  await forgetTries(deps.inAuthScope, WHO)
}

/** Of two that set up at once the second finds a firm. */
async function aloneAndEmpty(scope: FirmScope, { inAuthScope }: Deps): Promise<void> {
  await scope.query(`select pg_advisory_xact_lock(hashtext('even-round-setup')), $1::uuid`)
  if (!(await isEmpty(inAuthScope))) throw new ApiError('CONFLICT', CLOSED())
}
