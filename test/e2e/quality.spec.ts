import { gzipSync } from 'node:zlib'
import { expect, test, type Page } from '@playwright/test'
import { field, goTo, isWhole, openDemo, violations, WHOLE } from './helpers'

const STAGES = ['board', 'parts', 'wiring', 'power', 'boot', 'build', 'bringup']

/** The first demo; each state is looked at in light, and in the dark for what a theme can change: the colours. */
async function begin(page: Page, found: string[]) {
  await page.emulateMedia({ colorScheme: 'light' })
  await openDemo(page, 'Signal box at the branch junction')
  return async (where: string, inTheDark = true) => {
    found.push(...await violations(page, where))
    // The same components lie on every stage: the dark is looked at in the whole run.
    if (!inTheDark || !isWhole) return
    // The theme is the machine's until somebody chooses one.
    await page.emulateMedia({ colorScheme: 'dark' })
    await expect(page.locator('.v-application')).toHaveClass(/night/)
    found.push(...await violations(page, `${where}, dark`, true))
    await page.emulateMedia({ colorScheme: 'light' })
    await expect(page.locator('.v-application')).not.toHaveClass(/night/)
  }
}

test('no stage has a violation of any impact, in light and in the dark', async ({ page }) => {
  const found: string[] = []
  const check = await begin(page, found)
  for (const stage of STAGES) {
    await goTo(page, stage)
    await check(stage)
    // These lie otherwise in the hand.
    if (!['parts', 'wiring', 'build'].includes(stage)) continue
    await page.setViewportSize({ width: 390, height: 844 })
    await check(`${stage} at 390 × 844`, false)
    await page.setViewportSize({ width: 1280, height: 800 })
  }
  if (isWhole) await throughTabs(page, check)
  expect(found).toEqual([])
})

/** Every tab of the stages that have some. */
async function throughTabs(page: Page, check: (where: string) => Promise<void>) {
  await goTo(page, 'power')
  await page.getByTestId('power-flow').getByRole('button', { name: /^Power socket/ }).click()
  await check('power with a node chosen')
  for (const part of ['rails', 'scenario', 'battery', 'heat', 'compare']) {
    await page.getByTestId(`power-${part}`).click()
    if (part === 'scenario' || part === 'heat') await expect(page.getByTestId('chart').locator('canvas')).toBeVisible()
    await check(`power, ${part}`)
  }
  await goTo(page, 'boot')
  for (const part of ['rehearsal', 'overlays', 'screen', 'library', 'tree']) {
    await page.getByTestId(`boot-${part}`).click()
    if (part === 'rehearsal') await expect(page.getByTestId('rehearsal-steps')).toBeVisible()
    await check(`boot, ${part}`)
  }
  await page.getByTestId('boot-programs').click()
  await page.getByTestId('program-first').click()
  await page.getByTestId('program-text').click()
  await page.keyboard.insertText('RELAY_PIN = 21\nLED = 4\nsetup(LED)\n')
  await expect(page.getByTestId('program-summary')).toContainText('not told')
  await check('boot, example code')
  await page.getByTestId('boot-host').click()
  await field(page, 'host-name').fill('signals')
  await field(page, 'host-name').blur()
  for (const fold of ['Network: radio', 'Programs that start', 'Names that stay', 'Kept loaded',
    'Record of the board']) {
    await page.getByText(fold).click()
  }
  await page.getByTestId('run-add').click()
  await page.getByTestId('usb-name-add').click()
  await page.getByTestId('keeps-add').click()
  await check('boot, other files')
  await page.getByTestId('boot-files').click()
  for (const side of ['difference', 'owners', 'earlier']) {
    await page.getByTestId(`side-${side}`).click()
    await check(`boot files, ${side}`)
  }
  await goTo(page, 'bringup')
  await expect(page.getByTestId('run-sheet')).toBeVisible()
  await page.getByTestId('phase-each-part').getByRole('button').first().click()
  await page.getByTestId('run-sheet').getByText('Expander west does what it is for').click()
  await page.getByTestId('run-probe').getByRole('button', { name: 'nothing' }).click()
  await expect(page.getByTestId('candidate').first()).toBeVisible()
  await check('bring-up, a fault looked for')
  await page.getByTestId('bringup-programs').click()
  await expect(page.getByTestId('program-text')).toBeVisible()
  await check('bring-up, programs')
  await page.getByTestId('bringup-curves').click()
  await field(page, 'curve-text').fill('minutes,supply (V)\n0,5.1\n1,5.0\n2,4.9\n')
  await page.getByTestId('curve-keep').click()
  await expect(page.getByTestId('chart').locator('canvas')).toBeVisible()
  await check('bring-up, curves')
  await page.getByTestId('bringup-trainer').click()
  await page.getByTestId('trainer-begin').click()
  await expect(page.getByTestId('trainer-task')).toBeVisible()
  await check('bring-up, trainer')
}

test('no dialog, drawer or list has a violation of any impact, in light and in the dark', WHOLE, async ({ page }) => {
  const found: string[] = []
  const check = await begin(page, found)
  await goTo(page, 'wiring')
  await page.getByTestId('chip-buffer').click()
  await check('wiring with a part chosen')
  await page.getByTestId('finding-level.too-high').getByTestId('work-it-out').click()
  await expect(page.getByTestId('worksheet')).toContainText('at the tap')
  await check('worksheet')
  await page.getByTestId('worksheet').getByRole('button', { name: 'Close' }).click()
  await page.getByTestId('wiring-more').click()
  await page.getByTestId('open-placement').click()
  await page.getByText('Weights: what placement prefers').click()
  await check('placement panel')
  await goTo(page, 'parts')
  await page.getByTestId('own-part').getByRole('button').first().click()
  await page.getByTestId('compare-displays').click()
  await expect(page.getByTestId('display-table')).toBeVisible()
  await check('displays')
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('display-table')).toHaveCount(0)
  await goTo(page, 'build')
  await check('build, steps')
  await page.getByTestId('build-parts').click()
  await page.getByTestId('open-stock').click()
  await page.getByTestId('stock-what').locator('input').fill('fuse')
  await page.keyboard.press('Enter')
  await page.getByTestId('stock-add').click()
  await expect(page.getByTestId('stock-rows')).toBeVisible()
  await check('the drawer')
  await page.keyboard.press('Escape')
  await page.getByTestId('focus').click()
  await check('focus mode')
  await page.keyboard.press('Escape')
  await page.getByTestId('open-history').click()
  await page.getByLabel(/Mark how it is now/).fill('here')
  await page.getByRole('button', { name: 'Mark', exact: true }).click()
  await page.getByTestId('history').getByRole('button', { name: 'What changed since' }).click()
  await expect(page.getByTestId('changes')).toContainText('the two are the same')
  await check('earlier states')
  await page.keyboard.press('Escape')
  await page.getByTestId('open-share').click()
  await check('sharing')
  await page.keyboard.press('Escape')
  for (const side of ['logbook', 'help']) {
    await page.getByTestId(`drawer-${side}`).click()
    await check(side)
  }
  for (const item of ['settings', 'tour']) {
    await page.getByTestId('more').click()
    await check('the menu')
    await page.getByTestId(`open-${item}`).click()
    await check(item)
    await page.keyboard.press('Escape')
  }
  await page.goto('/')
  await expect(page.getByTestId('projects')).toBeVisible()
  await page.getByTestId('from-text').click()
  await expect(page.getByTestId('plan-from-text')).toBeVisible()
  await check('a plan from a text')
  await page.keyboard.press('Escape')
  await page.getByTestId('begin').click()
  await expect(page.getByTestId('first-plan')).toBeVisible()
  await check('a first plan')
  await page.getByTestId('projects').locator('li').first().getByRole('button', { name: 'Delete' }).click()
  await page.getByTestId('open-bin').click()
  await page.getByLabel('Choose all that are shown').check()
  await check('projects, some chosen, and the bin')
  expect(found).toEqual([])
})

test('the first stage is usable with less than 380 kB of script, gzip', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Name of a new project').fill('Light')
  await page.getByRole('button', { name: 'New project' }).click()
  await expect(page.getByTestId('board-forty-classic')).toBeVisible()
  const url = page.url()
  // A first visit: everything the browser asks for until the Board stage is there counts, by the page's own clock.
  await page.addInitScript(() => {
    const look = () => document.querySelector('[data-test=board-forty-classic]')
      ? performance.mark('usable')
      : requestAnimationFrame(look)
    requestAnimationFrame(look)
  })
  await page.goto('about:blank')
  await page.goto(url)
  await expect(page.getByTestId('board-forty-classic')).toBeVisible()
  const asked = await page.evaluate(() => {
    const usable = performance.getEntriesByName('usable')[0]!.startTime
    return performance.getEntriesByType('resource')
      .filter(entry => entry.startTime <= usable && entry.name.endsWith('.js'))
      .map(entry => entry.name)
  })
  const bytes = await Promise.all(asked.map(async script =>
    gzipSync(await (await page.request.get(script)).body()).length))
  const total = bytes.reduce((sum, size) => sum + size, 0)
  expect(bytes.length).toBeGreaterThan(1)
  console.log(`script before the first stage: ${(total / 1000).toFixed(0)} kB gzip in ${bytes.length} files`)
  expect(total).toBeLessThan(380_000)
})

test('a very long name, and twenty-five parts, stay within the page', async ({ page }) => {
  const parts = Array.from(
    { length: 25 },
    (_, i) => ({
      id: `p${i}`, type: ['oled-i2c', 'fan-5v', 'buttons-4', 'probe-onewire'][i % 4],
      name: i === 0 ? 'A very long name '.repeat(12) : `Part number ${i}`,
    }),
  )
  const plan = { format: 'voltaris-plan', version: 1, name: 'Long '.repeat(40), board: 'forty-usb-c', supply: null,
    parts, assignments: {} }
  await page.goto('/')
  await field(page, 'import-file')
    .setInputFiles({ name: 'many.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(plan)) })
  await page.getByTestId('projects').getByRole('link').click()
  for (const stage of STAGES) {
    await goTo(page, stage)
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), stage).toBe(0)
  }
})

test('the list of keys opens, and the theme turns', async ({ page }) => {
  await openDemo(page, 'Tool library kiosk')
  await page.keyboard.press('?')
  await expect(page.getByTestId('keys')).toContainText('Place the rest')
  await page.getByTestId('keys').getByRole('button', { name: 'Close' }).click()
  await expect(page.getByTestId('keys')).toHaveCount(0)
  await page.keyboard.press('t')
  await expect(page.locator('.v-application')).toHaveClass(/night/)
  await page.keyboard.press('l')
  await page.getByLabel('New entry').fill('Hinge oiled')
  await page.getByRole('button', { name: 'Write it down' }).click()
  await expect(page.getByTestId('logbook').locator('li').first()).toContainText('Hinge oiled')
})
