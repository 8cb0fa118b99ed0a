import { idSchema } from '@evenround/contract/common'
import {
  codesSchema,
  passkeyNewSchema,
  secondBegunSchema,
  secondCodeSchema,
  secondPasswordSchema,
  secondSchema,
} from '@evenround/contract/second'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { z } from 'zod'
import { refuseCode } from '../../auth/second'
import { type Deps, type Env, need, router } from '../../http/env'
import { ApiError } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { removePasskey, removeSecond, secondOf } from './second'

const done = { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS }
const ok = { ok: true } as const
const options = z.record(z.string(), z.unknown())

const routes = {
  second: createRoute({ method: 'get', path: '/api/me/second', responses: { 200: json(secondSchema), ...PROBLEMS } }),
  begin: createRoute({
    method: 'post',
    path: '/api/me/second',
    request: body(secondPasswordSchema),
    responses: { 200: json(secondBegunSchema), ...PROBLEMS },
  }),
  confirm: createRoute({ method: 'post', path: '/api/me/second/confirm', request: body(secondCodeSchema), responses: done }),
  codes: createRoute({
    method: 'post',
    path: '/api/me/second/codes',
    request: body(secondPasswordSchema),
    responses: { 200: json(codesSchema), ...PROBLEMS },
  }),
  off: createRoute({ method: 'post', path: '/api/me/second/off', request: body(secondPasswordSchema), responses: done }),
  passkeyAsk: createRoute({
    method: 'post',
    path: '/api/me/passkeys/ask',
    request: body(secondPasswordSchema),
    responses: { 200: json(options), ...PROBLEMS },
  }),
  passkeyAdd: createRoute({ method: 'post', path: '/api/me/passkeys', request: body(passkeyNewSchema), responses: done }),
  passkeyRemove: createRoute({
    method: 'delete',
    path: '/api/me/passkeys/{id}',
    request: { params: z.object({ id: idSchema }) },
    responses: done,
  }),
  remove: createRoute({
    method: 'delete',
    path: '/api/people/{id}/second',
    request: { params: z.object({ id: idSchema }) },
    responses: done,
  }),
}

const wrongPassword = (): ApiError =>
  new ApiError('BAD_INPUT', say`The current password is not right.`, {
    fields: [{ path: 'password', message: say`not the current password` }],
  })

/** The cookies that the library sets go on with our answer. */
function passCookies(c: Context<Env>, answer: Response): void {
  for (const cookie of answer.headers.getSetCookie()) c.header('set-cookie', cookie, { append: true })
}

/** One's own second factor, and taking away somebody else's who lost it. */
export const secondRoutes = (deps: Deps) =>
  router()
    .openapi(routes.second, async (c) => {
      const { firmId, personId } = c.get('who')
      const has = await deps.inFirm(firmId, (scope) => secondOf(scope, personId))
      return c.json({ ...has, codesLeft: has.app ? await deps.auth.second.codesLeft(personId) : null }, 200)
    })
    .openapi(routes.begin, async (c) => {
      const answer = await deps.auth.second.begin(c.req.valid('json').password, c.req.raw.headers)
      if (!answer.ok) {
        const { code } = (await answer.json()) as { code?: string }
        if (code === 'TOTP_ALREADY_ENABLED') throw new ApiError('CONFLICT', say`An authenticator app is set up already: turn it off first.`)
        throw wrongPassword()
      }
      const { totpURI, backupCodes } = (await answer.json()) as { totpURI: string; backupCodes: string[] }
      return c.json({ address: totpURI, codes: backupCodes }, 200)
    })
    .openapi(routes.confirm, async (c) => {
      const answer = await deps.auth.second.confirm(c.req.valid('json').code.replaceAll(' ', ''), c.req.raw.headers)
      if (!answer.ok) {
        const { code } = (await answer.clone().json()) as { code?: string }
        if (code === 'TOTP_NOT_ENABLED') throw new ApiError('CONFLICT', say`Nothing is being set up: begin with your password.`)
        return refuseCode(answer)
      }
      passCookies(c, answer)
      return c.json(ok, 200)
    })
    .openapi(routes.codes, async (c) => {
      const answer = await deps.auth.second.newCodes(c.req.valid('json').password, c.req.raw.headers)
      if (!answer.ok) throw wrongPassword()
      const { backupCodes } = (await answer.json()) as { backupCodes: string[] }
      return c.json({ codes: backupCodes }, 200)
    })
    .openapi(routes.off, async (c) => {
      const { firmId, personId } = c.get('who')
      const { asked, passkeys } = await deps.inFirm(firmId, (scope) => secondOf(scope, personId))
      if (asked && passkeys.length === 0)
        throw new ApiError('CONFLICT', say`Your firm asks its owners for a second factor: add a passkey first, or change the firm’s rule.`)
      const answer = await deps.auth.second.turnOff(c.req.valid('json').password, c.req.raw.headers)
      if (!answer.ok) throw wrongPassword()
      passCookies(c, answer)
      return c.json(ok, 200)
    })
    .openapi(routes.passkeyAsk, async (c) => {
      if (!(await deps.auth.second.isPassword(c.req.valid('json').password, c.req.raw.headers))) throw wrongPassword()
      const answer = await deps.auth.second.passkeyAsk(c.req.raw.headers)
      if (!answer.ok) throw new Error(`a passkey's challenge answered ${answer.status}`)
      passCookies(c, answer)
      return c.json((await answer.json()) as Record<string, unknown>, 200)
    })
    .openapi(routes.passkeyAdd, async (c) => {
      const { name, response } = c.req.valid('json')
      const answer = await deps.auth.second.passkeyAdd(name, response, c.req.raw.headers)
      if (!answer.ok) throw new ApiError('BAD_INPUT', say`This passkey could not be added. Try again, or use another device.`)
      return c.json(ok, 200)
    })
    .openapi(routes.passkeyRemove, async (c) => {
      const { firmId, personId } = c.get('who')
      await deps.inFirm(firmId, (scope) => removePasskey(scope, personId, c.req.valid('param').id))
      return c.json(ok, 200)
    })
    .openapi(routes.remove, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const deed = { id: deps.newId(), at: deps.now(), personId: who.personId }
      await deps.inFirm(who.firmId, (scope) => removeSecond(scope, c.req.valid('param').id, deed))
      return c.json(ok, 200)
    })
