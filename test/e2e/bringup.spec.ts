import { expect, test, type Page } from '@playwright/test'
import { downloaded, field, openDemo, saved } from './helpers'

/** Opens a phase of the run sheet and one of its tests. */
async function look(page: Page, phase: string, probe: string) {
  const row = page.getByTestId(`probe-${probe}`)
  if (!await row.isVisible()) await page.getByTestId(`phase-${phase}`).getByRole('button').first().click()
  await row.click()
}

test('what a scan shows is explained, pasted anew it is in order, and undo brings it back', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'bringup')
  const diagnosis = page.getByTestId('diagnosis')
  await expect(diagnosis).toContainText('answers at 0x3c, 0x68, 0x77')
  await expect(page.getByTestId('candidate')).toHaveCount(1)
  await expect(page.getByTestId('candidate')).toContainText('Air in the lid is strapped to 0x77, not 0x76')
  await expect(page.getByTestId('mend')).toContainText('Set its strap to 0x76')
  const built = await downloaded(page, 'as-built')
  expect(built.name).toMatch(/-as-built\.md$/)
  expect(built.text).toContain('5.04 V measured')
  expect((await downloaded(page, 'check-script')).text).toMatch(/^#!\/bin\/sh\n/)
  await field(page, 'paste-text').fill([
    'maker@hive:~ $ i2cdetect -y 1', '     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f',
    '30: -- -- -- -- -- -- -- -- -- -- -- -- 3c -- -- --',
    '60: -- -- -- -- -- -- -- -- UU -- -- -- -- -- -- --', '70: -- -- -- -- -- -- 76 --', 'maker@hive:~ $ ls -d /dev/rtc0', '/dev/rtc0',
    'maker@hive:~ $ uptime', ' 16:02:11 up 12 min',
  ].join('\n'))
  await expect(page.getByTestId('paste-read')).toContainText('answers at 0x3c, 0x68, 0x76')
  await expect(page.getByTestId('paste-read')).toContainText('/dev/rtc0')
  await expect(page.getByTestId('paste-read')).toContainText('1 line says nothing here')
  await page.getByTestId('paste-take').click()
  await expect(diagnosis).toHaveCount(0)
  await expect(page.getByText('11 seen', { exact: true })).toBeVisible()
  await page.getByTestId('drawer-logbook').click()
  await expect(page.getByTestId('logbook').locator('li').first()).toContainText('In order again: Scan of I²C 1')
  // What is marked is found again, by words and by its mark.
  const entries = page.getByTestId('logbook').locator('li')
  await field(page, 'log-words').fill('in order again')
  await expect(entries).toHaveCount(1)
  await page.getByTestId('log-mark').click()
  await field(page, 'log-words').fill('')
  await page.getByTestId('log-marked').getByRole('checkbox').check()
  await expect(entries).toHaveCount(1)
  await field(page, 'log-words').fill('nowhere')
  await expect(page.getByTestId('log-none')).toContainText('None of the')
  await page.getByTestId('log-none').getByRole('button', { name: 'show all' }).click()
  await expect(entries).not.toHaveCount(1)
  await page.getByTestId('drawer-findings').click()
  // The mark first, then what was pasted.
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(diagnosis).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(diagnosis).toContainText('0x77')
})

test('from a sign to the fault by the tests that tell most, typed figures among them', async ({ page }) => {
  await openDemo(page, 'Tool library kiosk', 'bringup')
  await look(page, 'each-part', 'works:cards')
  await page.getByTestId('run-probe').getByRole('button', { name: 'nothing' }).click()
  const candidates = page.getByTestId('candidate')
  await expect(candidates.first()).toBeVisible()
  await expect(page.getByTestId('run-probe')).toContainText('Next:')
  // What the volts at its own pins say is typed: nothing arrives there.
  await look(page, 'first-power', 'volt:cards.vcc')
  await field(page, 'probe-reading').fill('0,03')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('diagnosis')).toContainText('supply at its own pins: nothing')
  await expect(candidates.filter({ hasText: 'VCC' }).first()).toBeVisible()
  await expect(candidates.filter({ hasText: 'MOSI' })).toHaveCount(0)
  // Followed to its end: the wire of its supply has no contact.
  for (let test = 0; test < 8 && await candidates.count() > 1; test++) {
    const probe = page.getByTestId('run-probe')
    const title = await probe.locator('b').first().textContent()
    const isIt = /VCC .*from end to end/.test(title!)
    await probe.getByRole('button', { name: isIt ? 'open' : /^(as planned|near 0 Ω|no difference|it is there|it moves|it does|no short)/ }).first().click()
    await expect(probe.locator('b').first()).not.toHaveText(title!)
  }
  await expect(candidates).toHaveCount(1)
  await expect(candidates).toContainText('VCC')
  await expect(page.getByTestId('mend')).toContainText('Power off')
  await candidates.getByRole('button', { name: /^Show where/ }).click()
  await expect(page).toHaveURL(/wiring$/)
  await saved(page)
})

test('a hidden fault is found by tries, named, and scored; what was played is kept', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'bringup')
  await page.getByTestId('bringup-trainer').click()
  await page.getByTestId('trainer-begin').click()
  await expect(page.getByTestId('trainer-task')).toContainText('0 tests')
  // The board itself may be asked: that takes its minutes too.
  await page.getByTestId('trainer-board').getByRole('button').first().click()
  await expect(page.getByTestId('board-lamps')).toBeVisible()
  await expect(page.getByTestId('board-fault')).toHaveCount(0)
  await field(page, 'board-line').fill(':lamps')
  await field(page, 'board-line').press('Enter')
  await expect(page.getByTestId('board-screen')).toContainText('lamps: ')
  await expect(page.getByTestId('trainer-task')).toContainText('0.5 min')
  await page.getByTestId('trainer-board').getByRole('button').first().click()
  // Alone nothing is given away; with help the candidates stand there.
  const candidates = page.getByTestId('candidate')
  await expect(candidates).toHaveCount(0)
  await page.getByTestId('trainer-help').getByRole('switch').or(page.getByTestId('trainer-help').locator('input')).first().check()
  await expect(candidates.first()).toBeVisible()
  for (let test = 1; test < 14 && await page.getByTestId('run-probe').getByText('Next:').count(); test++) {
    await page.getByTestId('probe-attempt').click()
    await expect(page.getByTestId('trainer-task')).toContainText(`${test} test`)
  }
  const title = (await candidates.first().locator('p').first().textContent())!.trim()
  await page.getByTestId('trainer-guess').locator('.v-field').click()
  await page.keyboard.type(title)
  await page.getByRole('option', { name: title, exact: true }).click()
  await page.getByTestId('trainer-name').click()
  // The way was that of the most telling tests, but for the half minute at the board.
  await expect(page.getByTestId('trainer-solution')).toContainText(/\d+ of 100/)
  await page.reload()
  await page.getByTestId('bringup-trainer').click()
  await expect(page.getByTestId('trainer')).toContainText(/1 played, \d+ of 100 on average/)
})

test('the simulated board is typed at, measured, pulled at, and has a fault hidden in it', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'bringup')
  await page.getByTestId('bringup-board').click()
  const screen = page.getByTestId('board-screen')
  const type = async (line: string) => {
    await field(page, 'board-line').fill(line)
    await field(page, 'board-line').press('Enter')
  }
  await expect(page.getByTestId('board-lamps')).toContainText('green flickers')
  await type('i2cdetect -y 1')
  await expect(screen).toContainText('70: -- -- -- -- -- -- 76 --')
  await page.getByTestId('board-offer').filter({ hasText: 'dmesg' }).click()
  await expect(screen).toContainText('rtc_ds1307 1-0068: registered')
  await field(page, 'board-line').press('ArrowUp')
  await field(page, 'board-line').press('ArrowUp')
  await expect(field(page, 'board-line')).toHaveValue('i2cdetect -y 1')
  await page.getByTestId('meter-volt').click()
  await expect(page.getByTestId('meter-shows')).toHaveText('3.30 V')
  await page.getByTestId('breathe-air').click()
  await type(':wait 3')
  await expect(page.getByTestId('board-part-air')).toContainText(/[7-9]\d %/)
  await page.getByTestId('pull-air').click()
  await type('i2cdetect -y 1 | tail -1')
  await expect(screen).toContainText('70: -- -- -- -- -- -- -- --')
  await page.getByTestId('board-power').click()
  await page.getByTestId('meter-ohm').click()
  await expect(page.getByTestId('meter-shows')).toHaveText('650 Ω')
  await page.getByTestId('board-hide').click()
  await page.getByTestId('board-reveal').click()
  await expect(page.getByTestId('board-revealed')).not.toBeEmpty()
})

test('each part has its first programs, in the languages of the board, and a reason where it has none', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'bringup')
  await page.getByTestId('bringup-programs').click()
  await page.getByTestId('program-air-read.py').click()
  const text = page.getByTestId('program-text')
  await expect(text).toContainText('transfer(bus, 0x76')
  await page.getByTestId('language-c').click()
  await expect(text).toContainText('#include <linux/i2c-dev.h>')
  expect((await downloaded(page, 'program-save')).name).toBe('air-read.c')
  await expect(page.getByText('Its driver in the kernel moves it')).toBeVisible()
  expect((await downloaded(page, 'programs-all')).name).toMatch(/-programs\.zip$/)
})
