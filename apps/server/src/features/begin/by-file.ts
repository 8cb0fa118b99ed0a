import { createWriteStream } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { BroughtInDto } from '@evenround/contract/export'
import { say } from '@evenround/core/words'
import type { Context } from 'hono'
import { FirmFileRefused } from '../../firm-file/read'
import type { Deps, Env } from '../../http/env'
import { ApiError, badInput } from '../../http/errors'
import { openToOwners } from './brought-in'
import { refuseCode } from './setup'

/** Thousands of photos; more goes in by bin/firm in, from the server's own disk. */
const MOST_BYTES = 4 * 2 ** 30

function atMost(bytes: number): Transform {
  let seen = 0
  return new Transform({
    transform(chunk: Buffer, _, done) {
      seen += chunk.length
      if (seen > bytes) done(new ApiError('TOO_LARGE', say`The file is larger than 4 GB: bring it in on the server with bin/firm in.`))
      else done(null, chunk)
    },
  })
}

/** An empty installation takes a whole firm from its file; its owners get a link each to choose a password. */
export async function setUpByFile(c: Context<Env>, deps: Deps, code: string | null): Promise<Response> {
  await refuseCode(deps, code, c.req.header('x-setup-code') ?? '')
  const { body } = c.req.raw
  if (body === null) throw badInput([{ path: '$', message: say`expected a firm’s file (ZIP)` }])
  const folder = await mkdtemp(join(tmpdir(), 'even-round-in-'))
  try {
    const path = join(folder, 'firm.zip')
    await pipeline(Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]), atMost(MOST_BYTES), createWriteStream(path))
    const brought = await deps.bringFirmIn(path)
    const { firmId, firm, rows, pictures } = brought
    const owners = await deps.inFirm(firmId, (scope) => openToOwners(scope, brought, { now: deps.now(), newId: deps.newId }))
    return c.json({ firm, rows, pictures, owners } satisfies BroughtInDto)
  } catch (error) {
    if (error instanceof FirmFileRefused) throw new ApiError('BAD_INPUT', error.message)
    throw error
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
