/**
 * Shapes of projects gone through on the screen where something is chosen: what is told, and what a press on its
 * way out does.
 */
import { expect, test, type Page } from '@playwright/test'
import { emptyPlan } from '../../core/plan/create'
import type { Host } from '../../core/plan/host-shape'
import type { Plan } from '../../core/plan/types'
import { downloaded, goTo, openPlan, WHOLE } from './helpers'

function planOf(board: string | null, supply: string, parts: Record<string, string>, host: Partial<Host> = {}): Plan {
  const empty = emptyPlan('Case')
  return {
    ...empty, board, supply: { type: supply }, host: { ...empty.host, ...host },
    parts: Object.entries(parts).map(([id, type]) => ({ id, type, name: id })),
  }
}

/** A finding in the list, by its title. */
const told = (page: Page, title: string | RegExp) => page.getByTestId('findings').locator('article')
  .filter({ has: page.locator('[data-finding]').filter({ hasText: title }) })

async function take(page: Page, title: string | RegExp, way: string | RegExp) {
  await told(page, title).getByRole('button', { name: way }).click()
  await expect(told(page, title)).toHaveCount(0)
}

async function files(page: Page) {
  await page.getByRole('tab', { name: 'Other files' }).click()
  await expect(page.getByTestId('host-files').or(page.getByTestId('host-none'))).toBeVisible()
}

/** The file of that name, as it is written. */
async function written(page: Page, what: string) {
  await page.getByTestId('host-files').getByText(what, { exact: true }).click()
  return page.getByTestId('host-text')
}

test(
  'a current board: supply, cooler and lid, small video socket; each way out ends it, and is in the parts list',
  WHOLE, async ({ page }) => {
    await openPlan(page, planOf('forty-io-bridge', 'adapter-5v-3a', {
      cooler: 'cooler-active', box: 'case-closed', card: 'card-memory-32', panel: 'panel-video-7',
      stick: 'modem-wide-stick',
    }), 'board')
    await expect(told(page, 'USB sockets give 600 mA together with this supply')).toContainText('in place of 1.6 A')
    await expect(told(page, 'The supply is too small')).toContainText('At peak everything together draws 3.')
    await take(page, 'USB sockets give 600 mA together with this supply', /^Take Mains adapter, USB-C, 5 V 5 A/)
    await expect(told(page, 'The supply is too small')).toHaveCount(0)
    await take(page, 'cooler does not go under box', 'Take Case with openings')
    await take(page, 'An adapter is wanted for video', /^Add Adapter/)

    await goTo(page, 'power')
    await page.getByTestId('power-heat').click()
    // The load test runs with what is in the plan.
    await expect(page.getByTestId('heat')).toContainText('cooler, in the plan')
    await expect(page.getByTestId('heat')).toContainText('Case with openings, in the plan')
    await expect(page.getByTestId('heat')).toContainText('Clocks hold')
    await expect(page.getByTestId('fan-mode')).toContainText('as the board runs it')

    await goTo(page, 'build')
    await page.getByTestId('build-parts').click()
    for (const what of [
      'Mains adapter, USB-C, 5 V 5 A', 'Case with openings', 'Adapter, micro video to full size', 'Memory card, 32 GB',
    ]) {
      await expect(page.getByTestId('parts-list').locator('tr', { hasText: what })).toHaveCount(1)
    }
  })

test('without screen and keyboard: name, user, remote shell, network; what is secret is in none of the files', WHOLE,
  async ({ page }) => {
    await openPlan(page,
      planOf('forty-classic', 'adapter-5v-2a4', { sensor: 'pressure-humidity-i2c', card: 'card-memory-16' }, {
        name: 'shed', user: 'keeper', remote: true, radio: { network: 'garden', country: 'IT' },
        record: { passwordAt: 'in the green book', address: '192.168.7.20' },
      } as Partial<Host>), 'boot')
    await files(page)
    await expect(await written(page, 'First-boot settings')).toContainText('hostname: shed')
    await expect(page.getByTestId('host-text')).not.toContainText('green book')
    await expect(page.getByText('read at the very first start only')).toBeVisible()
    await expect(await written(page, 'Network at the first start')).toContainText('garden')
    await expect(page.getByTestId('host-opens'))
      .toContainText('Whoever is on the network and knows the password can log in')
    await expect(page.getByTestId('host-opens')).toContainText('Everything on that network can reach the board')
  })

test('a panel in a machine: page, keys on the screen, fixed address; against a ready-made one by price', WHOLE,
  async ({ page }) => {
    await openPlan(page, planOf('forty-classic', 'din-rail-5v-5a', { panel: 'panel-video-7' }, {
      user: 'keeper', runs: [{ id: 'r', name: 'panel', how: 'page', command: 'http://localhost:8080' }],
      screenKeys: '/usr/bin/keys',
      address: { interface: 'eth0', address: '192.168.7.20/24', gateway: '192.168.7.1' },
    } as Partial<Host>), 'boot')
    await files(page)
    await expect(await written(page, 'A page with the desktop')).toContainText('http://localhost:8080')
    await expect(await written(page, 'Keys on the screen')).toContainText('/usr/bin/keys')
    await expect(await written(page, 'A fixed address')).toContainText('192.168.7.20/24')
    await goTo(page, 'build')
    await page.getByTestId('build-parts').click()
    await page.getByTestId('open-totals').click()
    const rows = page.getByTestId('totals').locator('tbody tr')
    await expect(rows.first()).toContainText('As it is now')
    await expect(rows.filter({ hasText: 'Ready-made panel computer' })).toHaveCount(2)
  })

test('a tiny board: pins, which socket, adapters against a dearer board, an image that is too old',
  async ({ page }) => {
    await openPlan(page, planOf('tiny-unpopulated', 'adapter-5v-2a4', { screen: 'oled-i2c', keys: 'keyboard-usb' }, {
      record: { imageDate: '2016-05-27' },
    } as Partial<Host>), 'board')
    await expect(told(page, 'The image is older than the board')).toContainText('the first that knew')
    await expect(told(page, 'One of the two like sockets carries data')).toContainText('the inner one')
    await take(page, 'An adapter is wanted for USB', /^Add Adapter/)
    await page.getByRole('button', { name: /Which board would carry this/ }).click()
    await page.getByTestId('try-boards').click()
    const trials = page.getByTestId('board-trials')
    const row = (name: string) => trials.locator('tbody tr', { hasText: name })
    await expect(row('Tiny board')).toContainText('yours now')
    await expect(row('Forty-position board, micro-USB power')).toContainText('against yours')
    await expect(row('Forty-position board, micro-USB power').getByRole('button', { name: /^Take / })).toBeEnabled()

    await goTo(page, 'wiring')
    await page.getByTestId('place-all').click()
    await goTo(page, 'board')
    await expect(told(page, 'The header has holes and no pins yet'))
      .toContainText('from below every position is mirrored')
    await take(page, 'The header has holes and no pins yet', 'Add Header, two rows of twenty pins')
  })

test('a source that cannot give it: a better one or a lower clock, with figures; a card of the wrong class', WHOLE,
  async ({ page }) => {
    await openPlan(page,
      planOf('forty-classic', 'internal-usb-500', { screen: 'screen-spi-24', card: 'card-memory-32-plain' }), 'board')
    const small = told(page, 'The supply is too small')
    await expect(small).toContainText('the supply gives 500 mA')
    await expect(small.getByRole('button', { name: /^Clock 600 MHz .* mA less/ })).toBeVisible()
    await expect(told(page, /The supply gives 2.5 W/))
      .toContainText('wants 6 W at least (1.2 A at 5 V), and 12 W is advised')
    await small.getByRole('button', { name: /^Take .* of \d/ }).first().click()
    await expect(small).toHaveCount(0)
    await take(page, 'card is made for pictures', 'Take Memory card, 32 GB')
  })

test('displays beside each other; sound as a board or by wires; what is kept loaded against memory and card', WHOLE,
  async ({ page }) => {
    await openPlan(page,
      planOf('forty-classic', 'adapter-5v-2a4', { sound: 'audio-dac-add-on', card: 'card-memory-16' }, {
        user: 'keeper', memoryMb: 1024, keeps: [{ id: 'k', what: 'samples', memoryMb: 900, cardMb: 14_000 }],
        runs: [{ id: 'r', name: 'drum', how: 'service', command: '/usr/bin/python3 /home/keeper/drum.py',
          realTime: true }],
      } as Partial<Host>), 'parts')
    await page.getByTestId('compare-displays').click()
    const displays = page.getByTestId('display-table')
    for (const head of [
      'Size', 'Touch', 'Picture by', 'Touch by', 'Positions', 'Backlight', 'Driver', 'mA typ. / peak', 'Pictures/s',
      'Price',
    ]) {
      await expect(displays.getByRole('columnheader', { name: head, exact: true })).toHaveCount(1)
    }
    expect(await displays.locator('tbody tr').count()).toBeGreaterThanOrEqual(7)
    await displays.getByRole('button', { name: 'Close' }).click()

    await page.getByTestId('ways-sound').click()
    await expect(page.getByTestId('ways')).toContainText('minutes to build')
    await page.getByTestId('ways').getByRole('button', { name: 'Close' }).click()

    await goTo(page, 'boot')
    await files(page)
    await expect(page.getByTestId('host-memory')).toHaveCount(1)
    await expect(told(page, 'More is kept loaded than the board has memory')).toContainText('1080 MB')
    await take(page, 'More lies on the card than it should hold', 'Take Memory card, 32 GB')
    await expect(await written(page, 'drum by itself')).toContainText(/LimitRTPRIO=\d+/)
  })

test('an old keyboard: keys of the matrix, power key, lines of the latch; like sticks by their names', WHOLE,
  async ({ page }) => {
    await openPlan(page, planOf('forty-classic', 'adapter-5v-2a4', {
      k: 'keypad-matrix', l: 'power-latch', left: 'receiver-wide-stick', right: 'receiver-wide-stick',
    }, { user: 'keeper', powerKey: 'poweroff',
      matrix: { k: { 1.1: { code: 'KEY_A', types: 'ä' } } } } as Partial<Host>),
    'wiring')
    await page.getByTestId('place-all').click()
    await goTo(page, 'boot')
    await expect(told(page, /Not loaded: driver of l, gpio-poweroff$/)).toHaveCount(1)
    await page.getByTestId('write-boot').click()
    await expect(told(page, /Not loaded/)).toHaveCount(0)
    await expect(page.getByTestId('boot-text')).toContainText('dtoverlay=gpio-poweroff')
    await files(page)
    await expect(await written(page, 'The power key')).toContainText('HandlePowerKey=poweroff')
    await expect(await written(page, 'What the keys of k type')).toContainText('U00E4')
    await goTo(page, 'build')
    await page.getByTestId('build-parts').click()
    await expect(page.getByTestId('parts-list').locator('tr', { hasText: 'left, right' })).toContainText('2')
    const { text } = await downloaded(page, 'download-parts')
    expect(text).toMatch(/^2,.*left.*right/m)
  })
