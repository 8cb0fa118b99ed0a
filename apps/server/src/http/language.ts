import { AsyncLocalStorage } from 'node:async_hooks'
import { type Catalogue, type Language, languageOf, speakBy } from '@evenround/core/words'
import { GERMAN } from '@evenround/core/words/de'
import { createMiddleware } from 'hono/factory'
import type { Env } from './env'

const CATALOGUES: Record<Exclude<Language, 'en'>, Catalogue> = { de: GERMAN }

const asked = new AsyncLocalStorage<Language>()

/** Each request is answered in the language it asks for; outside of requests English is spoken. */
speakBy(() => {
  const language = languageAsked()
  return language === 'en' ? null : { catalogue: CATALOGUES[language], cautionsSignedOff: false }
})

/** The language that is spoken just now. */
export const languageAsked = (): Language => asked.getStore() ?? 'en'

/** Does it in a language, as where a request handed it on. */
export const speaking = <T>(language: Language, work: () => T): T => asked.run(language, work)

export const inAskedLanguage = createMiddleware<Env>((c, next) => asked.run(languageOf(c.req.header('accept-language') ?? ''), next))
