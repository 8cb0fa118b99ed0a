import { readFileSync, mkdirSync, writeFileSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { CLOCK_OF_PAGES } from './clock'
const url = 'http://127.0.0.1:4310'
const out = '/tmp/shots'; mkdirSync(out, { recursive: true })
const de = JSON.parse(readFileSync('/work/main/packages/core/src/words/de/messages.json', 'utf8'))
const differ = new Set(Object.entries(de).filter(([k, v]) => typeof v === 'string' && v !== k && !k.includes('{') && !k.includes('@') && /[a-z]{4}/.test(k)).map(([k]) => k))
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
const SIZES = { phone: { width: 390, height: 844 }, desk: { width: 1280, height: 800 } } as const
const combos = [['en-GB', 'light'], ['de-DE', 'light'], ['en-GB', 'dark'], ['de-DE', 'dark']] as const
const only = process.argv.slice(2)
const enPage = await browser.newPage()
const login = async (ctx, email) => { const r = await ctx.request.post(`${url}/api/auth/sign-in`, { data: { email, password: 'skellan-sound' }, headers: { origin: url } }); if (!r.ok()) console.log('login', r.status(), await r.text()) }
// ids by api
const api = await browser.newContext(); await login(api, 'isla@fennick.example')
const get = async (p) => (await api.request.get(url + p)).json()
const sites = (await get('/api/sites')).sites ?? []
const idOf = (n) => sites.find((s) => s.name.startsWith(n))?.id
const today = await (async () => { const c = await browser.newContext(); await login(c, 'tam@fennick.example'); const r = await (await c.request.get(url + '/api/today')).json(); return r })()
const stops = today.stops ?? today.days?.[0]?.stops ?? []
const stopId = (stops.find((s) => /Hale/.test(s.site?.name ?? s.siteName ?? '')) ?? stops[0])?.id
const light = idOf('Lighthouse'), mill = idOf('Weaving mill'), stack = idOf('Stack Farm')
const siteOf = await get(`/api/sites/${light}`)
const systemId = siteOf.systems?.[0]?.id
const stageId = siteOf.systems?.[0]?.stages?.[0]?.id ?? siteOf.systems?.[0]?.train?.nodes?.find((n) => n.kind === 'stage')?.id
const jobs = await get(`/api/sites/${stack}`); const jobId = (jobs.jobs ?? jobs.disinfections ?? [])[0]?.id
console.log({ stopId, light, systemId, stageId, jobId })
const R: Record<string, [string, string]> = {
  'sign-in': ['', '/sign-in'], today: ['tam', '/today'], office: ['isla', '/office'], stop: ['tam', `/stop/${stopId}`], measure: ['tam', `/stop/${stopId}/measure`], sheet: ['tam', `/stop/${stopId}/sheet`], finish: ['tam', `/stop/${stopId}/finish`],
  sites: ['isla', '/sites'], site: ['isla', `/sites/${light}`], newsite: ['isla', '/sites/new'], left: ['isla', '/sites/left'], hours: ['isla', `/hours/${light}`], life: ['isla', `/life/${light}`], system: ['isla', `/system/${systemId}`], stage: ['isla', `/stage/${stageId}`],
  shelf: ['isla', '/shelf'], van: ['tam', '/van'], due: ['isla', '/due?sort=date&until=13w'], rules: ['isla', '/rules'], book: ['isla', '/book'], round: ['isla', '/round'], times: ['isla', '/times'], crossings: ['isla', '/crossings'], files: ['isla', '/round-files'],
  firm: ['isla', '/firm'], firmdata: ['isla', '/firm-data'], me: ['isla', '/me'], intake: ['isla', '/intake'], partslist: ['isla', '/parts-list'], search: ['isla', '/search'], disinfect: ['wren', `/sites/${mill}`], planner: ['wren', `/disinfect/new?site=${mill}`], job: ['wren', `/disinfect/${jobId}`], cert: ['wren', `/disinfect/${jobId}/certificate`], dose: ['wren', '/dose'],
}
for (const [name, [who, path]] of Object.entries(R)) {
  if (only.length && !only.includes(name)) continue
  for (const size of ['phone', 'desk'] as const) {
    const imgs: string[] = []
    for (const [locale, colorScheme] of combos) {
      const ctx = await browser.newContext({ viewport: SIZES[size], locale, colorScheme, timezoneId: 'Atlantic/Azores' })
      if (who) await login(ctx, `${who}@fennick.example`)
      const page = await ctx.newPage(); await page.addInitScript(CLOCK_OF_PAGES)
      page.on('pageerror', (e) => console.log(name, size, locale, 'ERR', e.message))
      await page.goto(url + path); await page.waitForLoadState('networkidle').catch(() => {}); await page.waitForTimeout(900)
      imgs.push((await page.screenshot()).toString('base64'))
      const found = await page.evaluate(`(() => {
        const bad = []; const W = innerWidth
        if (document.documentElement.scrollWidth > W + 1) bad.push('page wider: ' + document.documentElement.scrollWidth)
        for (const el of document.querySelectorAll('body *')) {
          const s = getComputedStyle(el); const t = (el.textContent || '').trim()
          if (!t || el.children.length && ![...el.childNodes].some(n => n.nodeType === 3 && n.textContent.trim())) continue
          const r = el.getBoundingClientRect(); if (!r.width || !r.height) continue
          if ((s.overflowX !== 'visible') && el.scrollWidth > el.clientWidth + 1) bad.push('cut: ' + t.slice(0, 60))
          if (r.right > W + 1 && r.left < W && !el.closest('svg') && s.position !== 'absolute') { let p = el.parentElement, sc = false; while (p) { const o = getComputedStyle(p).overflowX; if (o === 'auto' || o === 'scroll') { sc = true; break } p = p.parentElement } if (!sc) bad.push('out: ' + t.slice(0, 60)) }
        }
        const texts = []; const w = document.createTreeWalker(document.body, 4); while (w.nextNode()) { const t = w.currentNode.textContent.trim(); if (t) texts.push(t) }
        document.querySelectorAll('[aria-label],[placeholder],[title]').forEach(e => ['aria-label','placeholder','title'].forEach(a => e.getAttribute(a) && texts.push(e.getAttribute(a))))
        return { bad: [...new Set(bad)].slice(0, 12), texts }
      })()`) as any
      if (found.bad.length && colorScheme === 'light') console.log(name, size, locale, JSON.stringify(found.bad))
      if (locale === 'de-DE' && colorScheme === 'light') { const en = [...new Set<string>(found.texts)].filter((t) => differ.has(t) || /\b(the|and|with|your|this|until|from|are|not|for)\b/i.test(t)); if (en.length) console.log(name, size, 'ENGLISH?', JSON.stringify(en.slice(0, 12))) }
      await ctx.close()
    }
    const s = SIZES[size]; const cols = size === 'phone' ? 4 : 2
    await enPage.setViewportSize({ width: s.width * cols + 8 * (cols - 1), height: size === 'phone' ? s.height : s.height * 2 + 8 })
    await enPage.setContent(`<body style="margin:0;display:grid;grid-template-columns:repeat(${cols},${s.width}px);gap:8px;background:#888">${imgs.map((b) => `<img src="data:image/png;base64,${b}">`).join('')}</body>`)
    await enPage.screenshot({ path: `${out}/${name}-${size}.png` })
  }
}
await browser.close()
