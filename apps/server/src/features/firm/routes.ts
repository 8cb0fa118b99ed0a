import { inviteSchema, LINK_KINDS, linkSchema, mailSchema } from '@evenround/contract/begin'
import { idSchema } from '@evenround/contract/common'
import {
  cautionsSignSchema,
  firmEditSchema,
  firmSchema,
  meSchema,
  passwordChangeSchema,
  passwordResetSchema,
  personEditSchema,
  personNewSchema,
  personSchema,
  signInsSchema,
} from '@evenround/contract/firm'
import { hasRight, RIGHTS } from '@evenround/core/firm'
import { LANGUAGES, say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm, Person } from '../../db/entities/master'
import { type Deps, need, router } from '../../http/env'
import { ApiError, notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { editVersioned } from '../../http/versions'
import { dayIn } from '../../time/zone'
import { noteDeed } from '../records/audit'
import { markFirm } from '../wear/stale'
import { signCautions, unsignCautions } from './cautions'
import { mailLink, makeLink } from './links'
import { addInvited, addPerson, editPerson, endSignIn, endSignIns, resetPassword, signInsOf } from './people'
import { secondOf } from './second'
import { firmDto, loadFirm, personDto } from './store'

const done = z.object({ ok: z.literal(true) })
const one = { params: z.object({ id: idSchema }) }
const ofLanguage = { params: z.object({ language: z.enum(LANGUAGES).exclude(['en']) }) }
const ok = { ok: true } as const

const routes = {
  me: createRoute({ method: 'get', path: '/api/me', responses: { 200: json(meSchema), ...PROBLEMS } }),
  firm: createRoute({ method: 'get', path: '/api/firm', responses: { 200: json(firmSchema), ...PROBLEMS } }),
  editFirm: createRoute({
    method: 'put',
    path: '/api/firm',
    request: body(firmEditSchema),
    responses: { 200: json(firmSchema), ...PROBLEMS },
  }),
  signCautions: createRoute({
    method: 'put',
    path: '/api/firm/cautions/{language}',
    request: { ...ofLanguage, ...body(cautionsSignSchema) },
    responses: { 200: json(firmSchema), ...PROBLEMS },
  }),
  unsignCautions: createRoute({
    method: 'delete',
    path: '/api/firm/cautions/{language}',
    request: ofLanguage,
    responses: { 200: json(firmSchema), ...PROBLEMS },
  }),
  people: createRoute({
    method: 'get',
    path: '/api/people',
    responses: { 200: json(z.object({ people: z.array(personSchema) })), ...PROBLEMS },
  }),
  addPerson: createRoute({
    method: 'post',
    path: '/api/people',
    request: body(personNewSchema),
    responses: { 200: json(personSchema), ...PROBLEMS },
  }),
  editPerson: createRoute({
    method: 'put',
    path: '/api/people/{id}',
    request: { ...one, ...body(personEditSchema) },
    responses: { 200: json(personSchema), ...PROBLEMS },
  }),
  resetPassword: createRoute({
    method: 'post',
    path: '/api/people/{id}/password',
    request: { ...one, ...body(passwordResetSchema) },
    responses: { 200: json(done), ...PROBLEMS },
  }),
  invite: createRoute({
    method: 'post',
    path: '/api/people/invitations',
    request: body(inviteSchema),
    responses: { 200: json(linkSchema), ...PROBLEMS },
  }),
  link: createRoute({
    method: 'post',
    path: '/api/people/{id}/links',
    request: { ...one, ...body(z.strictObject({ kind: z.enum(LINK_KINDS) })) },
    responses: { 200: json(linkSchema), ...PROBLEMS },
  }),
  mailbox: createRoute({
    method: 'get',
    path: '/api/mailbox',
    responses: { 200: json(z.object({ standIn: z.boolean(), mails: z.array(mailSchema) })), ...PROBLEMS },
  }),
  signIns: createRoute({
    method: 'get',
    path: '/api/people/{id}/sign-ins',
    request: one,
    responses: { 200: json(signInsSchema), ...PROBLEMS },
  }),
  endSignIn: createRoute({
    method: 'delete',
    path: '/api/people/{id}/sign-ins/{signInId}',
    request: { params: z.object({ id: idSchema, signInId: idSchema }) },
    responses: { 200: json(done), ...PROBLEMS },
  }),
  changePassword: createRoute({
    method: 'post',
    path: '/api/me/password',
    request: body(passwordChangeSchema),
    responses: { 200: json(done), ...PROBLEMS },
  }),
}

/** The firm, its people and their sign-ins. */
export const firmRoutes = (deps: Deps) =>
  router()
    .openapi(routes.me, async (c) => {
      const who = c.get('who')
      return deps.inFirm(who.firmId, async (scope) => {
        const [firm, person] = await Promise.all([loadFirm(scope), scope.findOne(Person, { id: who.personId })])
        if (!person) throw notFound('person')
        const rights = RIGHTS.filter((right) => hasRight(who.role, right))
        return c.json(
          { person: personDto(person), firm, rights, today: dayIn(firm.timeZone, deps.now()), secondMissing: who.secondMissing },
          200,
        )
      })
    })
    .openapi(routes.firm, async (c) => c.json(await deps.inFirm(c.get('who').firmId, loadFirm), 200))
    .openapi(routes.editFirm, async (c) => {
      need(c.get('who'), 'change-schools')
      const { version, ...patch } = c.req.valid('json')
      const { firmId, personId } = c.get('who')
      const firm = await deps.inFirm(firmId, async (scope) => {
        if (patch.secondFactor === 'owners') {
          const own = await secondOf(scope, personId)
          if (!own.app && own.passkeys.length === 0)
            throw new ApiError('CONFLICT', say`Set up your own second factor first, under your own settings; then ask it of every owner.`)
        }
        const before = await loadFirm(scope)
        const edited = await editVersioned(scope, Firm, { version, patch, what: 'firm' }, firmDto)
        const { change, membrane } = edited.schools
        if (before.schools.change !== change || before.schools.membrane !== membrane) await markFirm(scope, deps.now())
        return edited
      })
      await deps.refreshSoon(firmId)
      return c.json(firm, 200)
    })
    .openapi(routes.signCautions, async (c) => {
      need(c.get('who'), 'change-schools')
      const { firmId, ...by } = c.get('who')
      const signing = { ...by, language: c.req.valid('param').language, ...c.req.valid('json') }
      return c.json(await deps.inFirm(firmId, (scope) => signCautions(scope, signing, { id: deps.newId(), at: deps.now() })), 200)
    })
    .openapi(routes.unsignCautions, async (c) => {
      need(c.get('who'), 'change-schools')
      const { language } = c.req.valid('param')
      return c.json(await deps.inFirm(c.get('who').firmId, (scope) => unsignCautions(scope, language)), 200)
    })
    .openapi(routes.people, async (c) => {
      need(c.get('who'), 'manage-people')
      const people = await deps.inFirm(c.get('who').firmId, (scope) => scope.find(Person, {}, { name: 'ASC' }))
      return c.json({ people: people.map(personDto) }, 200)
    })
    .openapi(routes.addPerson, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const input = c.req.valid('json')
      const added = await deps.inFirm(who.firmId, async (scope) => {
        const person = await addPerson(scope, input, deps.now(), deps.newId)
        await noteDeed(scope, deps, who, 'rights-changed', say`${person.name} is new: ${person.role}`)
        return person
      })
      return c.json(added, 200)
    })
    .openapi(routes.editPerson, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const { id } = c.req.valid('param')
      const edited = await deps.inFirm(who.firmId, async (scope) => {
        const before = await scope.findOne(Person, { id })
        const [was, could] = [before?.role, before?.active]
        const after = await editPerson(scope, id, c.req.valid('json'))
        if (was !== undefined && was !== after.role)
          await noteDeed(scope, deps, who, 'rights-changed', say`${after.name}: ${was} before, ${after.role} now`)
        if (could !== undefined && could !== after.active)
          await noteDeed(
            scope,
            deps,
            who,
            'rights-changed',
            after.active ? say`${after.name} may sign in again` : say`${after.name} may not sign in any more`,
          )
        return after
      })
      return c.json(edited, 200)
    })
    .openapi(routes.resetPassword, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const { id } = c.req.valid('param')
      await deps.inFirm(who.firmId, async (scope) => {
        await resetPassword(scope, id, c.req.valid('json').password, deps.now())
        const person = await scope.findOne(Person, { id })
        await noteDeed(scope, deps, who, 'rights-changed', say`${person?.name ?? ''} was given a new password`)
      })
      return c.json(ok, 200)
    })
    .openapi(routes.invite, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const input = c.req.valid('json')
      const link = await deps.inFirm(who.firmId, async (scope) => {
        await addInvited(scope, input, deps.now())
        await noteDeed(scope, deps, who, 'rights-changed', say`${input.name} is new: ${input.role}`)
        const made = await makeLink(scope, {
          kind: 'invitation',
          personId: input.id,
          madeBy: who.personId,
          now: deps.now(),
          newId: deps.newId,
        })
        return mailLink(scope, made, deps)
      })
      return c.json(link, 200)
    })
    .openapi(routes.link, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const { id } = c.req.valid('param')
      const { kind } = c.req.valid('json')
      const link = await deps.inFirm(who.firmId, async (scope) => {
        const made = await makeLink(scope, { kind, personId: id, madeBy: who.personId, now: deps.now(), newId: deps.newId })
        const person = await scope.findOne(Person, { id })
        await noteDeed(scope, deps, who, 'rights-changed', say`A link for a new password was made for ${person?.name ?? ''}`)
        return mailLink(scope, made, deps)
      })
      return c.json(link, 200)
    })
    .openapi(routes.mailbox, async (c) => {
      const who = c.get('who')
      need(who, 'manage-people')
      const mails = deps.mailer?.kept?.(who.firmId) ?? []
      return c.json(
        { standIn: deps.mailer?.kept !== undefined, mails: mails.map(({ to, subject, text, at }) => ({ to, subject, text, at })) },
        200,
      )
    })
    .openapi(routes.signIns, async (c) => {
      const who = c.get('who')
      const { id } = c.req.valid('param')
      if (id !== who.personId) need(who, 'manage-people')
      const signIns = await deps.inFirm(who.firmId, (scope) => signInsOf(scope, id, deps.now()))
      return c.json({ signIns: signIns.map((signIn) => ({ ...signIn, current: signIn.id === who.sessionId })) }, 200)
    })
    .openapi(routes.endSignIn, async (c) => {
      const who = c.get('who')
      const { id, signInId } = c.req.valid('param')
      if (id !== who.personId) need(who, 'manage-people')
      await deps.inFirm(who.firmId, (scope) => endSignIn(scope, id, signInId))
      return c.json(ok, 200)
    })
    .openapi(routes.changePassword, async (c) => {
      const who = c.get('who')
      const { currentPassword, newPassword } = c.req.valid('json')
      const answer = await deps.auth.changePassword({ currentPassword, newPassword }, c.req.raw.headers)
      if (answer.status === 400 || answer.status === 401) {
        throw new ApiError('BAD_INPUT', say`The current password is not right.`, {
          fields: [{ path: 'currentPassword', message: say`not the current password` }],
        })
      }
      if (!answer.ok) throw new Error(`password change answered ${answer.status}`)
      await deps.inFirm(who.firmId, (scope) => endSignIns(scope, who.personId, who.sessionId))
      return c.json(ok, 200)
    })
