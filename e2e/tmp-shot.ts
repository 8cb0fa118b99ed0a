import { chromium } from '@playwright/test'
import { Technician } from './driver/technician'
const url = process.argv[2] ?? 'http://127.0.0.1:4310'
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const lang = process.argv[3] ?? 'en-GB'
for (const size of [{ width: 390, height: 844 }, { width: 1280, height: 800 }]) {
  const context = await browser.newContext({ viewport: size, locale: lang, colorScheme: process.argv[4] === 'dark' ? 'dark' : 'light' })
  const page = await context.newPage()
  const t = new Technician(page, url)
  await t.signedIn('isla@fennick.example')
  for (const path of ['/firm', '/firm-data']) {
    await page.goto(url + path)
    await page.waitForTimeout(2500)
    await page.screenshot({ path: `/tmp/shots${path.replaceAll('/', '-')}-${size.width}-${lang}.png` })
  }
  await context.close()
}
await browser.close()
