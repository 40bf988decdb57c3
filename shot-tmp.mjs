import { chromium } from '@playwright/test'
const [,, project, out, ...steps] = process.argv
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync'] })
const page = await (await browser.newContext({ viewport: { width: Number(process.env.W ?? 1280), height: Number(process.env.H ?? 800) } })).newPage()
page.on('pageerror', e => console.log('ERR', e.message)); page.on('console', m => { if (m.type()==='error') console.log('CON', m.text()) })
if (process.env.DARK) await page.addInitScript(() => localStorage.setItem('voltaris.dark','true'))
await page.goto('http://127.0.0.1:4173/')
await page.click(`text=${project}`)
await page.waitForSelector('[data-test=header-rail]')
await page.click('[data-test=stage-boot]')
await page.waitForSelector('[data-test=boot-text]')
for (const s of steps) { 
  if (s.startsWith('fill:')) await page.locator("[data-test=boot-text]").fill(s.slice(5).replaceAll('\\n','\n'))
  else if (s.startsWith('hover:')) await page.hover(s.slice(6))
  else if (s.startsWith('wait:')) await page.waitForTimeout(Number(s.slice(5)))
  else if (s.startsWith('key:')) await page.keyboard.press(s.slice(4))
  else if (s.startsWith('type:')) await page.keyboard.type(s.slice(5))
  else if (s.startsWith('shot:')) await page.screenshot({ path: s.slice(5) })
  else await page.click(s, { timeout: 8000 }) }
await page.waitForTimeout(400)
await page.screenshot({ path: out })
await browser.close()
