/** What the interface owes to whoever uses it: first steps, sharing, setting aside, sizes, keys, paper. */
import { expect, test } from '@playwright/test'
import { addPart, choose, downloaded, field, goTo, newProject, openDemo, saved, WHOLE } from './helpers'

const STAGES = ['board', 'parts', 'wiring', 'power', 'boot', 'build', 'bringup']

test('a newcomer has a placed plan after three choices, by mouse', async ({ page }) => {
  await page.goto('/')
  await page.getByTestId('first-board-forty-classic').click()
  await page.getByTestId('first-thing-air').click()
  await page.getByTestId('first-plan').locator('[data-test^=first-supply-]').first().click()
  await page.getByTestId('first-make').click()
  await expect(page).toHaveURL(/wiring$/)
  await expect(page.getByTestId('stops')).toHaveText('0 stops')
  await expect(page.getByTestId('position-3')).toHaveAccessibleName(/Weather SDA.*Screen SDA|Screen SDA.*Weather SDA/)
  await saved(page)
})

test('the same by keyboard takes a few dozen keys', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByTestId('first-thing-air')).toBeVisible()
  let keys = 0
  const press = async (key: string) => {
    keys++
    await page.keyboard.press(key)
  }
  const reach = async (test: string) => {
    for (let i = 0; i < 40; i++) {
      await press('Tab')
      if (await page.evaluate(prefix => document.activeElement?.getAttribute('data-test')?.startsWith(prefix) ?? false,
        test)) return
    }
    throw new Error(`${test} is not reached`)
  }
  await reach('first-board-')
  await press('ArrowDown')
  await reach('first-thing-')
  await press(' ')
  await reach('first-supply-')
  await press(' ')
  await reach('first-make')
  await press('Enter')
  await expect(page).toHaveURL(/wiring$/)
  expect(keys).toBeLessThan(45)
})

test('by touch a tap opens a list and takes a part in', async ({ browser }) => {
  const context = await browser.newContext({ hasTouch: true, serviceWorkers: 'block',
    viewport: { width: 390, height: 844 } })
  const page = await context.newPage()
  await newProject(page, 'Pocket')
  await page.getByTestId('stage-parts').tap()
  await field(page, 'part-search').fill('thermometer')
  await page.getByTestId('add-probe-onewire').tap()
  await page.getByTestId('parts-held').tap()
  await expect(page.getByTestId('part-probe-onewire')).toBeVisible()
  await page.getByTestId('stage-wiring').tap()
  await page.getByTestId('place-rest').tap()
  await expect(page.getByTestId('notice')).toContainText('placed')
  await context.close()
})

test('a finding is set aside with a reason, counts no more, and counts again when its figures change',
  async ({ page }) => {
    await openDemo(page, 'Signal box at the branch junction')
    const finding = page.getByTestId('finding-level.too-high')
    await finding.getByTestId('set-finding-aside').click()
    await field(finding, 'aside-reason').fill('The sensor was changed for one of 3.3 V')
    await finding.getByTestId('aside-keep').click()
    await expect(page.getByTestId('stops')).toHaveText('6 stops')
    await page.getByTestId('set-aside').getByRole('button').first().click()
    await expect(page.getByTestId('set-aside')).toContainText('The sensor was changed for one of 3.3 V')
    await saved(page)
    await page.reload()
    await expect(page.getByTestId('stops')).toHaveText('6 stops')
    await goTo(page, 'build')
    await expect(page.getByTestId('stop-set-aside')).toContainText('The sensor was changed for one of 3.3 V')
    await goTo(page, 'wiring')
    await page.getByTestId('set-aside').getByRole('button').first().click()
    await page.getByTestId('count-again').click()
    await expect(page.getByTestId('stops')).toHaveText('7 stops')
  })

test('findings are grouped by cause or by part, and each is there once', async ({ page }) => {
  await openDemo(page, 'Signal box at the branch junction')
  const cards = page.getByTestId('findings').locator('article')
  await expect(page.getByTestId('findings')).toContainText('Two parts at one address')
  const byCause = await cards.count()
  await page.getByTestId('by-subject').click()
  await expect(page.getByTestId('findings').locator('h2').first()).toBeVisible()
  await expect(cards).toHaveCount(byCause)
})

test('after a fix the focus stays among the findings', async ({ page }) => {
  await openDemo(page, 'Signal box at the branch junction')
  await page.getByTestId('finding-address.clash').first().getByTestId('fix').first().focus()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('stops')).toHaveText('6 stops')
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest('[data-test=findings]') !== null))
    .toBe(true)
})

test('a plan is shared as an address, looked at, and copied by choice', async ({ page, context }) => {
  await openDemo(page, 'Hive on the south slope')
  await page.getByTestId('open-share').click()
  const address = await field(page, 'share-address').inputValue()
  const other = await context.newPage()
  await other.goto(address)
  const sheet = other.frameLocator('[data-test=shared-sheet]')
  await expect(sheet.getByRole('heading', { name: 'Hive on the south slope' })).toBeVisible()
  await expect(sheet.getByRole('heading', { name: 'Wires, in the order of connecting' })).toBeVisible()
  await other.getByTestId('copy-shared').click()
  await expect(other).toHaveURL(/\/wiring$/)
  await expect(other.getByLabel('Name of the project')).toHaveValue('Hive on the south slope')
  await other.goto('/')
  await expect(other.getByTestId('projects').getByRole('link', { name: 'Hive on the south slope' })).toHaveCount(2)
  await other.goto(`${address.slice(0, address.length / 2)}`)
  await expect(other.getByRole('alert')).toContainText('This address cannot be opened')
})

test('a sheet is one file that carries the plan back', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope')
  await page.getByTestId('open-share').click()
  const sheet = await downloaded(page, 'share-sheet')
  expect(sheet.name).toBe('hive-on-the-south-slope.html')
  expect(sheet.text).not.toMatch(/<script(?! type="application\/json")/)
  await page.goto('/')
  await field(page, 'import-file')
    .setInputFiles({ name: sheet.name, mimeType: 'text/html', buffer: Buffer.from(sheet.text) })
  await expect(page.getByTestId('notice')).toContainText('"Hive on the south slope" is imported')
})

test('units are those that the maker has chosen; the theme is the machine\'s until one is chosen', WHOLE,
  async ({ page }) => {
    await page.emulateMedia({ colorScheme: 'dark' })
    await openDemo(page, 'Hive on the south slope', 'power')
    await expect(page.locator('.v-application')).toHaveClass(/night/)
    await page.getByTestId('power-heat').click()
    await expect(page.getByTestId('heat').locator('.big')).toContainText('°C')
    await page.getByTestId('more').click()
    await page.getByTestId('open-settings').click()
    await choose(page, 'setting-temperature', '°F')
    await choose(page, 'setting-gauge', 'mm²')
    await choose(page, 'setting-theme', 'Light')
    await page.getByTestId('settings').getByRole('button', { name: 'Close' }).click()
    await expect(page.getByTestId('heat').locator('.big')).toContainText('°F')
    await expect(page.locator('.v-application')).not.toHaveClass(/night/)
    await page.getByTestId('power-flow').click()
    await page.getByTestId('power-flow').last().getByRole('button', { name: /^its lead/ }).click()
    await expect(page.getByTestId('power-node').getByTestId('figure-awg')).toContainText('mm²')
  })

test('the tour is left at any step and called again', WHOLE, async ({ page }) => {
  await openDemo(page, 'Tool library kiosk')
  for (let i = 0; i < 2; i++) {
    await page.getByTestId('more').click()
    await page.getByTestId('open-tour').click()
    await expect(page.getByTestId('tour')).toContainText('1 of 6')
    await page.getByTestId('tour-next').click()
    await expect(page.getByTestId('tour')).toContainText('2 of 6')
    await page.getByTestId('tour-leave').click()
    await expect(page.getByTestId('tour')).toHaveCount(0)
  }
  await page.getByTestId('drawer-help').click()
  await expect(page.getByTestId('help')).toContainText('Press Place the rest')
})

test('parts are sifted by what they are, and laid side by side', WHOLE, async ({ page }) => {
  await newProject(page, 'Which clock')
  await goTo(page, 'parts')
  await choose(page, 'part-kind', 'timing')
  await expect(page.getByText(/^\s*5 of/)).toBeVisible()
  await page.getByTestId('compare-clock-cell-i2c').click()
  await page.getByTestId('compare-clock-plain-i2c').click()
  await page.getByTestId('compare-parts').click()
  const table = page.getByTestId('part-comparison')
  await expect(table.getByRole('row', { name: /^connects by/ })).toContainText('I²C')
  // A board is there, so each was tried on it; both go onto the bus that has a place.
  await expect(table.getByRole('row', { name: /^place on this board/ })).toContainText('there is room')
  await expect(table.getByText('goes best with this plan')).toHaveCount(1)
  await table.getByRole('button', { name: /Add Clock with cell, I²C/ }).click()
  await expect(page.getByText('1 in the plan')).toBeVisible()
})

test('supplies that suit come first, and the others say why not', WHOLE, async ({ page }) => {
  await newProject(page, 'Which supply', 'forty-usb-c')
  const groups = page.locator('[data-test^=supplies-]')
  await expect(groups.first()).toContainText('Suits this plan')
  await page.getByTestId('supplies-converter').click()
  await expect(page.getByTestId('supply-adapter-12v-2a')).toContainText('V on the board\'s 5 V rail')
  await page.getByTestId('board-tiny-unpopulated').click()
  await expect(page.getByTestId('board-caution').first()).toContainText('power only')
})

test('a chart is saved as a drawing and as a table', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'power')
  await page.getByTestId('power-scenario').click()
  await page.getByTestId('save-chart').click()
  const svg = await downloaded(page, 'save-svg')
  expect(svg.text).toContain('5 V rail (V)')
  await page.getByTestId('save-chart').click()
  const csv = await downloaded(page, 'save-csv')
  expect(csv.text).toContain('step,5 V rail,drawn')
})

/**
 * What can be pressed and is less than 24 px wide or high, or in the bars but outside the window. The header is a
 * drawing to scale.
 */
function smallTargets() {
  const bars = [...document.querySelectorAll<HTMLElement>('.v-app-bar.top :is(button, a, input), .v-footer button')]
    .filter(element => element.offsetParent && element.getBoundingClientRect().right > innerWidth)
    .map(element => ({ name: `${element.getAttribute('aria-label') ?? element.textContent}: outside`, width: 0,
      height: 0 }))
  return [...bars, ...[...document.querySelectorAll<HTMLElement>('button, a:not(.skip), [role=tab], input')]
    .filter(element =>
      element.offsetParent && !element.closest('[data-test=header-rail]') && element.getBoundingClientRect().width > 0)
    .map((element) => {
      // A box beside which its whole field can be pressed counts as that.
      const { width, height } = (element.closest('.v-selection-control, .v-field') ?? element).getBoundingClientRect()
      const name = element.getAttribute('aria-label') ?? element.textContent?.trim().slice(0, 30)
      return { name, width: Math.round(width), height: Math.round(height) }
    })
    .filter(box => box.width < 24 || box.height < 24)]
}

/** A screen, one turned upright, one in the hand, and the first at four times its size. */
const SIZES = [[1280, 800], [800, 1280], [390, 844], [320, 256]] as const

test('nothing scrolls sideways and every target is 24 px, at every size', WHOLE, async ({ page }) => {
  await page.goto('/')
  await page.getByTestId('load-demo').click()
  const found: unknown[] = []
  const look = async (where: string) => {
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height })
      // Its handlers run before the next frame is drawn, and what they change is there in the one after.
      await page.waitForFunction(wide => innerWidth === wide, width)
      await page.evaluate(() => new Promise(drawn => requestAnimationFrame(() => requestAnimationFrame(drawn))))
      const at = `${where} at ${width} × ${height}`
      const over = await page.evaluate(() => {
        const main = document.querySelector('#stage')
        return { page: document.documentElement.scrollWidth - innerWidth,
          stage: main ? main.scrollWidth - main.clientWidth : 0 }
      })
      if (over.page || over.stage) found.push({ at, ...over })
      found.push(...(await page.evaluate(smallTargets)).map(target => ({ at, ...target })))
    }
    await page.setViewportSize({ width: 1280, height: 800 })
  }
  await look('projects')
  await page.getByRole('link', { name: 'Signal box at the branch junction' }).click()
  for (const stage of STAGES) {
    await goTo(page, stage)
    await expect(page.locator('h1')).toBeVisible()
    await look(stage)
  }
  expect(found).toEqual([])
})

test('on paper a stage is alone, and black on white', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  await page.emulateMedia({ media: 'print', colorScheme: 'dark' })
  await expect(page.locator('.v-app-bar').first()).toBeHidden()
  await expect(page.getByTestId('findings')).toBeHidden()
  await expect(page.getByTestId('wires')).toBeVisible()
  const rows = page.getByTestId('wires').locator('tbody tr')
  await expect(rows.last()).toBeVisible()
  expect(await page.evaluate(() => getComputedStyle(document.querySelector('.v-application')!).backgroundColor))
    .toBe('rgb(255, 255, 255)')
  const pdf = await page.pdf({ format: 'A4' })
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
})

test('names of three hundred letters and of other scripts stay within their places', WHOLE, async ({ page }) => {
  await newProject(page, 'x')
  await page.getByLabel('Name of the project').fill('Überwachungseinrichtung '.repeat(12) + ' 温室の扉 حديقة')
  await goTo(page, 'parts')
  await addPart(page, 'oled-i2c')
  await page.getByTestId('part-oled-i2c').getByLabel('Name of the part').fill('ディスプレイ'.repeat(50))
  for (const stage of STAGES) {
    await goTo(page, stage)
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), stage).toBe(0)
  }
  await saved(page)
})

test('a table is put in order by its columns, a tick stays with its wire, and paper has every row', WHOLE,
  async ({ page }) => {
    await openDemo(page, 'Signal box at the branch junction', 'build')
    await page.getByTestId('build-wires').click()
    const table = page.getByTestId('wires')
    const parts = async () => (await table.locator('tbody tr td:nth-child(3)').allInnerTexts()).map(text => text.trim())
    const asJoined = await parts()
    await table.getByRole('columnheader', { name: 'Part' }).focus()
    await page.keyboard.press('Enter')
    await expect(table.getByRole('columnheader', { name: 'Part' })).toHaveAttribute('aria-sort', 'ascending')
    const sorted = await parts()
    expect(sorted).not.toEqual(asJoined)
    expect([...sorted].sort(new Intl.Collator('en', { sensitivity: 'accent', usage: 'sort' }).compare)).toEqual(sorted)
    const open = table.locator('tbody tr:not(.done)').first()
    const name = await open.getByRole('checkbox').getAttribute('aria-label')
    await open.getByRole('checkbox').check()
    await expect(page.getByText(`6 of ${asJoined.length} joined`)).toBeVisible()
    await expect(table.locator('tr.done').getByLabel(name!, { exact: true })).toBeChecked()
    await page.emulateMedia({ media: 'print' })
    await expect(table.locator('tbody tr')).toHaveCount(asJoined.length)
  })

test('projects are sifted by what the checks say, and ordered by it', async ({ page }) => {
  await page.goto('/')
  await page.getByTestId('load-demo').click()
  const rows = page.getByTestId('projects').locator('li')
  await expect(rows).toHaveCount(3)
  // One is broken on purpose; the boot file of another is as it came, and its console holds the printer's port.
  await choose(page, 'filter-verdict', 'With stops')
  await expect(rows).toHaveCount(2)
  await choose(page, 'order-projects', 'Most stops first')
  await expect(rows.first()).toContainText('Signal box at the branch junction')
  await choose(page, 'filter-verdict', 'Clear')
  await expect(rows).toHaveCount(0)
  await expect(page.getByText('No project is clear.')).toBeVisible()
})

test('a form says at its field what cannot be, while it is typed', WHOLE, async ({ page }) => {
  await newProject(page, 'Own part')
  await goTo(page, 'parts')
  await page.getByTestId('own-part').getByRole('button').first().click()
  await page.getByTestId('own-part-form-open').click()
  await field(page, 'own-form-name').fill('Rain gauge')
  await field(page, 'own-form-pins').fill('VCC\nGND\nSDA\nSCL')
  await field(page, 'own-form-idleMa').fill('-3')
  await field(page, 'own-form-address').fill('0x99')
  const form = page.getByTestId('own-part-form')
  await expect(form.getByTestId('own-form-idleMa')).toContainText('must be greater than or equal to 0')
  await expect(form.getByTestId('own-form-address')).toContainText('must be an address from 0x00 to 0x7f, not "0x99"')
  await field(page, 'own-form-idleMa').fill('0,3')
  await field(page, 'own-form-address').fill('0x44')
  await expect(form).not.toContainText('must be')
  await page.getByTestId('own-form-keep').click()
  await expect(page.getByTestId('notice')).toContainText('Rain gauge is kept')
})

test('in the hand the header stands, with names beside it, and the keys go as it lies', WHOLE, async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await openDemo(page, 'Hive on the south slope')
  const box = async (position: number) => (await page.getByTestId(`position-${position}`).boundingBox())!
  const [one, two, three] = [await box(1), await box(2), await box(3)]
  expect(two.x).toBeGreaterThan(one.x)
  expect(Math.abs(two.y - one.y)).toBeLessThan(2)
  expect(three.y).toBeGreaterThan(one.y)
  expect(one.height).toBeGreaterThanOrEqual(24)
  await page.getByTestId('position-1').focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('position-3')).toBeFocused()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('position-4')).toBeFocused()
})

test('every board is tried with the parts as they are; one is taken, with what it wants, and taken back', WHOLE,
  async ({ page }) => {
    await newProject(page, 'Which board', 'forty-classic')
    await goTo(page, 'parts')
    await addPart(page, 'oled-i2c')
    await goTo(page, 'board')
    await page.getByTestId('board-choice').getByRole('button').first().click()
    await page.getByTestId('try-boards').click()
    const trials = page.getByTestId('board-trials')
    await expect(trials.locator('tbody tr')).toHaveCount(5)
    await expect(page.getByTestId('try-boards')).toHaveText('Try them again')
    const tiny = trials.locator('tbody tr').filter({ hasText: 'Tiny board' })
    await expect(tiny).toContainText('carries it')
    await expect(tiny).toContainText('wants')
    await expect(tiny).toContainText('Header, two rows of twenty pins')
    await tiny.getByRole('button', { name: /^Take Tiny board/ }).click()
    await expect(page.getByTestId('chosen-board').or(page.getByTestId('board-tiny-unpopulated')).first())
      .toContainText('Tiny board')
    await expect(page.getByTestId('board-header')).toContainText('Header, two rows of twenty pins')
    await expect(page.getByTestId('stops')).toHaveText('0 stops')
    await expect(page.getByText('The plan has changed since.')).toBeVisible()
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
    await expect(page.getByText(/Forty-position board, micro-USB power/).first()).toBeVisible()
  })

test(
  'a case and a cooler are chosen where the board is; what does not go under the lid is a stop with a way out',
  WHOLE, async ({ page }) => {
    await newProject(page, 'Lid', 'forty-io-bridge')
    const take = async (test: string, name: RegExp) => {
      await page.getByTestId(test).click()
      await page.getByRole('option', { name }).click()
    }
    await take('board-case', /^Closed case/)
    await take('board-cooler', /^Heat sink with its own fan/)
    await expect(page.getByTestId('stops')).toHaveText('2 stops')
    const finding = page.getByTestId('finding-thing.under-lid')
    await expect(finding).toContainText('stands 22 mm above the board and the lid lies 18 mm above it')
    await finding.getByTestId('fix').first().click()
    await expect(page.getByTestId('stops')).toHaveText('1 stop')
    await goTo(page, 'power')
    await page.getByTestId('power-heat').click()
    // The load test runs with what was taken.
    await expect(page.getByTestId('heat').locator('.v-select').first()).toContainText('small heat sinks')
  })
