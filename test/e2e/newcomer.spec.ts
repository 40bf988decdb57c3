import { expect, test } from '@playwright/test'
import { addPart, downloaded, field, goTo, newProject, saved } from './helpers'

test('a newcomer goes from nothing to a boot file and a wire list, and finds everything again', async ({ page }) => {
  const elsewhere: string[] = []
  page.on('request', (request) => {
    const { protocol, hostname } = new URL(request.url())
    if (!['blob:', 'data:'].includes(protocol) && hostname !== '127.0.0.1') elsewhere.push(request.url())
  })

  await newProject(page, 'Greenhouse door')
  await expect(page.getByTestId('board-forty-classic')).toHaveAttribute('aria-checked', 'true')

  await goTo(page, 'parts')
  for (const part of ['pressure-humidity-i2c', 'clock-cell-i2c', 'motion-i2c', 'controller-5v-serial', 'relay-bare']) {
    await addPart(page, part)
  }
  await expect(page.getByText('5 in the plan')).toBeVisible()

  await goTo(page, 'wiring')
  await page.getByTestId('place-rest').click()
  await expect(page.getByTestId('notice')).toContainText('placed')
  await expect(page.getByTestId('position-3')).toHaveAccessibleName(/SDA/)

  // Two parts that come with one address were strapped apart by placing.
  await expect(page.getByTestId('notice')).toContainText('Strap motion-i2c to 0x69')
  await expect(page.getByTestId('finding-address.clash')).toHaveCount(0)

  // Two findings read and mended: 5 V into the serial receive, a coil straight on a line.
  const level = page.getByTestId('finding-level.too-high')
  await expect(level).toContainText('3.6 V')
  await level.getByRole('button', { name: /Divider/ }).click()
  await expect(level).toHaveCount(0)
  const straight = page.getByTestId('finding-line.driven-straight')
  await expect(straight).toContainText('72 mA')
  await straight.getByRole('button', { name: /MOSFET/ }).click()
  await expect(straight).toHaveCount(0)

  await goTo(page, 'boot')
  await page.getByTestId('boot-text').fill('# mine\ndtparam=audio=on\n')
  await page.getByTestId('show-difference').click()
  await expect(page.getByTestId('boot-difference')).toContainText('dtparam=i2c_arm=on')
  const boot = await downloaded(page, 'download-boot')
  expect(boot.name).toBe('config.txt')
  expect(boot.text.startsWith('# mine\ndtparam=audio=on\n')).toBe(true)
  expect(boot.text).toContain('enable_uart=1')
  expect(boot.text).toContain('dtparam=i2c_arm=on')

  await goTo(page, 'build')
  await page.getByTestId('build-wires').click()
  const wires = await downloaded(page, 'download-wires')
  expect(wires.name).toBe('greenhouse-door-wires.csv')
  expect(wires.text).toContain('Divider, 1.8 kΩ over 3.3 kΩ')
  const rows = await page.getByTestId('wires').locator('tbody tr').count()
  expect(wires.text.trimEnd().split('\r\n')).toHaveLength(rows + 1)
  await saved(page)

  await page.reload()
  await page.getByTestId('build-wires').click()
  await expect(page.getByTestId('wires').locator('tbody tr')).toHaveCount(rows)
  await goTo(page, 'boot')
  await expect(page.getByTestId('boot-text')).toContainText('dtparam=audio=on')
  await goTo(page, 'parts')
  await expect(page.getByText('5 in the plan')).toBeVisible()
  expect(elsewhere).toEqual([])
})

test('the bench: focus mode by keyboard, then a scan that tells a wrong strap', async ({ page }) => {
  await newProject(page, 'Bench')
  await goTo(page, 'parts')
  await addPart(page, 'pressure-humidity-i2c')
  await page.keyboard.press('3')
  await expect(page).toHaveURL(/wiring$/)
  await page.keyboard.press('p')
  await expect(page.getByTestId('notice')).toContainText('placed')

  await goTo(page, 'build')
  await page.getByTestId('focus').click()
  const focus = page.getByTestId('focus-mode')
  await expect(focus).toContainText('Lay everything out')
  await page.keyboard.press('Space')
  await expect(focus).toContainText('Find position 1')
  await page.keyboard.press('Space')
  await expect(focus).toContainText('GND')
  await page.keyboard.press('Space')
  await expect(focus).toContainText('3 done')
  await page.keyboard.press('ArrowLeft')
  await expect(focus).toContainText('GND')
  for (let i = 0; i < 4; i++) await page.keyboard.press('Space')
  await expect(focus).toContainText('Measure before power')
  // Nobody goes past it unseen.
  await page.keyboard.press('ArrowRight')
  await expect(focus).toContainText('Measure before power')
  // A short that was measured stops it; another figure lets go.
  await field(page, 'focus-ohm:5V').fill('0,6')
  await page.keyboard.press('Enter')
  await expect(focus).toContainText('Do not switch on')
  await expect(page.getByTestId('focus-next')).toBeDisabled()
  await field(page, 'focus-ohm:5V').fill('1400')
  await page.keyboard.press('Enter')
  await expect(focus).not.toContainText('Do not switch on')
  await expect(page.getByTestId('focus-next')).toBeEnabled()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(focus).toHaveCount(0)
  await expect(page.getByText('4 of 5 joined')).toBeVisible()

  await goTo(page, 'bringup')
  await expect(page.getByTestId('run-sheet')).toContainText('1 of')
  await page.getByTestId('bringup-scans').click()
  await expect(page.getByTestId('expected-addresses')).toContainText('0x76')
  await field(page, 'scan-text')
    .fill('     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n70: -- -- -- -- -- -- -- 77')
  const verdict = page.getByTestId('scan-verdict')
  await expect(verdict).toContainText('missing 0x76')
  await expect(verdict).toContainText('unexpected 0x77')
  await page.getByTestId('keep-scan').click()
  await page.getByTestId('finding-scan.missing').getByTestId('fix').click()
  await expect(page.getByTestId('expected-addresses')).toContainText('0x77')
  await expect(page.getByTestId('finding-scan.missing')).toHaveCount(0)

  await field(page, 'scan-text').fill('Error: no such bus')
  await expect(verdict).toContainText('Paste the whole output')
})
