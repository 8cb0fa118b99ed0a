/** What a firm keeps beside its facts, by the subject that edits it. */
export const THINGS = ['sites', 'trains', 'catalogue', 'firm', 'people', 'times', 'chlorine', 'devices', 'stops', 'photos', 'van'] as const
export type Thing = (typeof THINGS)[number]

/** Whose edits come by which path; the first that fits counts. */
const BY_PATH: readonly (readonly [path: RegExp, thing: Thing])[] = [
  [/^\/api\/sites\/[^/]+\/hours$/, 'times'],
  [/^\/api\/(sites|intakes)(\/|$)/, 'sites'],
  [/^\/api\/(systems|stages)(\/|$)/, 'trains'],
  [/^\/api\/(parts|media|kinds)(\/|$)/, 'catalogue'],
  [/^\/api\/(firm|round\/terms|due-rules|uses)$/, 'firm'],
  [/^\/api\/people(\/|$)/, 'people'],
  [/^\/api\/times(\/|$)/, 'times'],
  [/^\/api\/chlorine\//, 'chlorine'],
  [/^\/api\/devices(\/|$)/, 'devices'],
  [/^\/api\/stops(\/|$)/, 'stops'],
  [/^\/api\/photos\//, 'photos'],
  [/^\/api\/van\//, 'van'],
]

/** What a request that changed something has edited; null for what is told of otherwise, or concerns nobody else. */
export function thingEdited(method: string, path: string): Thing | null {
  // A list is looked through before it is brought in.
  if (method === 'GET' || path.endsWith('/check')) return null
  return BY_PATH.find(([pattern]) => pattern.test(path))?.[1] ?? null
}

/** Screens that an edit makes stale, wherever it was made. */
export const STALE_BY_EDIT: Readonly<Record<Thing, readonly string[]>> = {
  sites: ['sites', 'site', 'stop', 'today', 'week', 'due', 'intakes', 'disinfection-setup'],
  trains: ['site', 'stop', 'today', 'due', 'stage', 'train', 'disinfection-setup'],
  catalogue: ['shelf', 'stop', 'site', 'stage', 'due', 'van'],
  firm: ['me', 'stop', 'today', 'site', 'sites', 'stage', 'due', 'due-rules', 'shelf'],
  people: ['people', 'me'],
  times: ['times', 'site-hours', 'round', 'today'],
  chlorine: ['chlorine', 'disinfection-setup'],
  devices: ['devices', 'stop'],
  stops: ['today', 'week', 'stop', 'site', 'van', 'round'],
  photos: ['visit', 'site'],
  van: ['van'],
}
