#!/usr/bin/env node
// Renews docs/screenshots from the demo projects of a running `npm run demo`. usage: screenshots.mjs [address]
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, selectors } from '@playwright/test'
import { root } from './setup.mjs'

selectors.setTestIdAttribute('data-test')
const address = process.argv[2] ?? 'http://127.0.0.1:4173/'
const folder = join(root, 'docs', 'screenshots')
mkdirSync(folder, { recursive: true })
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const shot = async (name) => {
  await page.mouse.move(640, 4)
  await page.evaluate(() => document.fonts.ready)
  await page.screenshot({ path: join(folder, `${name}.png`), animations: 'disabled' })
}
const open = async (project) => {
  await page.goto(address)
  await page.click(`text=${project}`)
  await page.waitForSelector('[data-test=header-rail]')
}
const stage = async (name) => {
  await page.click(`[data-test=stage-${name}]`)
  await page.waitForURL(`**/${name}`)
}

await page.goto(address)
await page.waitForSelector('[data-test=projects] svg')
await page.waitForFunction(() => document.querySelectorAll('[data-test=projects] svg').length >= 3)
await shot('projects')
await open('Hive on the south slope')
await page.click('[data-test=chip-modem]')
await page.locator('[data-test="terminal-modem.tx"] >> text=why here').click()
await page.click('[data-test="explain-modem.tx"]')
await page.waitForSelector('[data-test=explained]')
await shot('wiring')
for (const name of ['board', 'power', 'bringup']) {
  await stage(name)
  if (name === 'board') await page.waitForSelector('[data-test=supplies-converter]')
  if (name === 'bringup') await page.waitForSelector('[data-test=diagnosis]')
  await shot(name)
}
await stage('boot')
await page.click('[data-test=boot-programs]')
await page.waitForSelector('[data-test=program-rows]')
await shot('boot-programs')
await stage('power')
await page.click('[data-test=power-battery]')
await page.waitForSelector('[data-test=chart] canvas')
await shot('power-battery')
await stage('build')
await shot('build')
await page.click('[data-test=focus]')
await page.waitForSelector('[data-test=focus-mode]')
await shot('focus')
await open('Hive on the south slope')
await stage('boot')
await page.click('[data-test=boot-overlays]')
await page.waitForSelector('[data-test=overlay-text]')
await shot('boot-overlays')
await open('Signal box at the branch junction')
await stage('boot')
await page.waitForSelector('[data-test=boot-text]')
await shot('boot')
await open('Tool library kiosk')
await stage('boot')
await page.click('[data-test=boot-rehearsal]')
await page.waitForSelector('[data-test=rehearsal-devices] tr')
await shot('boot-rehearsal')
await stage('parts')
await shot('parts')
await page.click('[data-test=compare-displays]')
await page.waitForSelector('[data-test=display-table]')
await shot('displays')
await open('Tool library kiosk')
await stage('boot')
await page.click('[data-test=boot-host]')
await page.waitForSelector('[data-test=host-text]')
await shot('boot-host')
await open('Signal box at the branch junction')
await page.click('[data-test="finding-address.clash"] .finding-title')
await shot('wiring-stops')
await page.click('[data-test="finding-level.too-high"] [data-test=work-it-out]')
await page.waitForSelector('[data-test=worksheet] table')
await shot('worksheet')
await page.getByTestId('worksheet').getByRole('button', { name: 'Close', exact: true }).click()
await open('Signal box at the branch junction')
await page.click('[data-test="finding-address.clash"] .finding-title')
await page.keyboard.press('Escape')
await page.keyboard.press('t')
await shot('wiring-dark')
await page.keyboard.press('t')
await open('Hive on the south slope')
await stage('bringup')
await page.click('[data-test=bringup-board]')
for (const line of ['i2cdetect -y 1', ':breathe air', ':wait 2', 'cat /sys/bus/w1/devices/28-*/w1_slave | head -2']) {
  await page.locator('[data-test=board-line] input').fill(line)
  await page.locator('[data-test=board-line] input').press('Enter')
  await page.locator('[data-test=board-screen] .typed').filter({ hasText: line }).waitFor()
}
await page.click('[data-test=meter-volt]')
await page.getByTestId('meter-shows').getByText('3.30 V').waitFor()
await shot('bringup-board')
await browser.close()
