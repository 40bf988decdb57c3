import { chromium, type Page } from 'playwright'
import { writeFileSync, mkdirSync } from 'node:fs'
import { planOf, catalogue } from './test/plans'
import { placed, written } from './test/generated'
import type { Plan } from './core/plan/types'
const base = 'http://127.0.0.1:4394'
mkdirSync('/tmp/w/case', { recursive: true })
const told = (plan: Plan, host: any): Plan => ({ ...plan, host: { ...plan.host, ...host } })
const named = (plan: Plan, name: string) => ({ ...plan, name })
const C02 = planOf('forty-io-bridge', { cooler: 'cooler-active', box: 'case-closed', card: 'card-memory-32', panel: 'panel-video-7', stick: 'modem-wide-stick' }, { supply: { type: 'adapter-5v-3a' } })
const C03 = told(planOf('forty-classic', { sensor: 'pressure-humidity-i2c', card: 'card-memory-16' }, { supply: { type: 'adapter-5v-2a4' } }), {
    name: 'shed', user: 'keeper', remote: true, radio: { network: 'garden', country: 'IT' }, record: { passwordAt: 'in the green book', address: '192.168.7.20' } })
const C04 = told(planOf('forty-classic', { panel: 'panel-video-7' }, { supply: { type: 'din-rail-5v-5a' } }), { user: 'keeper', runs: [{ id: 'r', name: 'panel', how: 'page', command: 'http://localhost:8080' }], screenKeys: '/usr/bin/keys', address: { interface: 'eth0', address: '192.168.7.20/24', gateway: '192.168.7.1' } })
const C05 = placed(planOf('forty-io-bridge', { screen: 'oled-i2c', strip: ['strip-addressable', { pixels: '12' }], fan: 'fan-socket', button: 'button-1' }, { supply: { type: 'adapter-5v-5a' } }))!
const C06 = told(placed(planOf('tiny-unpopulated', { screen: 'oled-i2c', keys: 'keyboard-usb' }, { supply: { type: 'adapter-5v-2a4' } }))!, { record: { imageDate: '2016-05-27' } })
const C08 = placed(planOf('forty-classic', { screen: 'screen-spi-24' }, { supply: { type: 'internal-usb-500' } }))!
const C09 = planOf('forty-classic', {}, { supply: { type: 'adapter-5v-2a4' } })
const C10 = planOf('forty-classic', { tool: ['controller-5v-serial', { link: 'usb' }], card: 'card-memory-32-plain' }, { supply: { type: 'adapter-usb-2a' } })
const C13 = told(written(placed(planOf('forty-classic', { sound: 'audio-add-on', screen: 'screen-spi-13', keys: 'buttons-4', card: 'card-memory-16' }, { supply: { type: 'adapter-5v-2a4' } }))!), {
    user: 'keeper', memoryMb: 1024, keeps: [{ id: 'k', what: 'samples', memoryMb: 900, cardMb: 14_000 }],
    runs: [{ id: 'r', name: 'drum', how: 'service', command: '/usr/bin/python3 /home/keeper/drum.py', realTime: true }] })
const C15 = placed(planOf('forty-classic', { a: 'receiver-wide-stick', b: 'receiver-wide-stick' }, { supply: { type: 'adapter-5v-2a4' } }))!
const C17 = told(placed(planOf('forty-classic', { k: 'keypad-matrix', l: 'power-latch' }, { supply: { type: 'adapter-5v-2a4' } }))!, { user: 'keeper', powerKey: 'poweroff', matrix: { k: { 1.1: { code: 'KEY_A', types: 'ä' } } } })
const plans: Record<string, Plan> = { C02, C03, C04, C05, C06, C08, C09, C10, C13, C15, C17 }
void catalogue
const only = process.argv.slice(2)
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const open = async (page: Page, plan: Plan) => {

  await page.goto(base + '/')
  await page.waitForSelector('[data-test=load-demo]')
  await page.locator('[data-test=import-file] input').setInputFiles({ name: 'p.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(plan)) })
  const link = page.getByRole('link', { name: plan.name, exact: true }).first()
  return (await link.getAttribute('href'))!.replace(/\/wiring$/, '')
}
for (const [id, plan] of Object.entries(plans)) {
  if (only.length && !only.includes(id)) continue
  const c = await b.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
  const page = await c.newPage()
  const href = await open(page, named(plan, `Case ${id}`))
  let out = ''
  for (const stage of ['board', 'parts', 'power', 'boot', 'build']) {
    await page.goto(base + href + '/' + stage)
    await page.waitForSelector('main h1, h1')
    await page.waitForTimeout(1800)
    out += `\n===== ${id} ${stage}\n` + await page.evaluate(() => document.body.innerText)
    if (stage === 'boot') {
      const tab = page.getByRole('tab', { name: 'Other files' })
      if (await tab.count()) { await tab.click(); await page.waitForTimeout(1500); out += `\n===== ${id} boot/else\n` + await page.evaluate(() => (document.querySelector('main') as HTMLElement).innerText) }
      else out += '\nTABS ' + (await page.getByRole('tab').allInnerTexts()).join('|')
    }
    if (stage === 'build') {
      await page.locator('[data-test=build-parts]').click(); await page.waitForTimeout(1000)
      out += `\n===== ${id} build/parts\n` + await page.evaluate(() => (document.querySelector('main') as HTMLElement).innerText)
    }
  }
  writeFileSync(`/tmp/w/case/${id}.txt`, out)
  console.log(id, out.length)
  await c.close()
}
await b.close()
