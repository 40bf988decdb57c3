import { chromium, selectors } from '@playwright/test'
// node look.tmp.mjs OUT "project" stage [w h] [dark] [js steps...]
const [out, name, stage, w = '1280', h = '800', dark = '', ...steps] = process.argv.slice(2)
selectors.setTestIdAttribute('data-test')
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const context = await browser.newContext({ serviceWorkers: 'block', viewport: { width: +w, height: +h } })
if (dark === 'dark') await context.addInitScript(() => localStorage.setItem('voltaris.theme', 'dark'))
const page = await context.newPage()
page.on('console', m => ['error', 'warning'].includes(m.type()) && console.log(m.type(), m.text().slice(0, 400)))
page.on('pageerror', e => console.log('PAGEERROR', e.message.slice(0, 500)))
page.setDefaultTimeout(60000)
await page.goto(process.env.URL ?? 'http://127.0.0.1:4395/')
if (name) {
  await page.getByRole('link', { name }).click()
  await page.waitForURL(/project/)
  const id = page.url().split('/project/')[1].split('/')[0]
  if (stage) { await page.goto(new URL(`/project/${id}/${stage}`, page.url()).href) }
  await page.locator('h1').first().waitFor()
  await page.waitForTimeout(2500)
}
else await page.waitForTimeout(2500)
for (const step of steps) { await eval(`(async () => { ${step} })()`); await page.waitForTimeout(500) }
if (out !== '-') await page.screenshot({ path: out })
await browser.close()
