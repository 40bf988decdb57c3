import { expect, test } from '@playwright/test'
import { addPart, choose, field, openDemo, WHOLE } from './helpers'

test('a terminal is moved on the header, fixed by it, let go and released', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope')
  await page.getByTestId('chip-vent').click()
  await page.getByRole('button', { name: 'Move FAN − on the header' }).click()
  await expect(page.getByText('press a position outlined in green')).toBeVisible()
  await page.getByTestId('position-33').click()
  await expect(page.getByTestId('place-vent.drive')).toContainText('33 ·')
  await expect(page.getByTestId('position-33')).toHaveAccessibleName(/Vent fan/)
  await page.getByRole('button', { name: 'Let go of FAN −' }).click()
  await page.getByRole('button', { name: 'Release FAN −' }).click()
  await expect(page.getByTestId('place-vent.drive')).not.toContainText('·')
  await expect(page.getByTestId('finding-terminal.unplaced')).toContainText('Vent fan')
})

test('the list moves a terminal too, and says which places are taken', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope')
  await page.getByTestId('chip-brood').click()
  await choose(page, 'place-brood.dq', '29 · G5 (taken)', '29')
  await expect(page.getByTestId('finding-position.claimed-twice')).toContainText('position 29')
  await page.getByTestId('finding-position.claimed-twice').getByRole('button', { name: 'Release Brood probes DQ' })
    .click()
  await expect(page.getByTestId('finding-position.claimed-twice')).toHaveCount(0)
})

test('a position is reserved with a reason, kept free by placing, and given free again', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope')
  await page.getByTestId('position-12').click()
  await page.getByLabel('Reason for reserving').fill('for the second fan')
  await page.getByRole('button', { name: 'Reserve', exact: true }).click()
  await expect(page.getByTestId('selection')).toContainText('Reserved: for the second fan')
  await page.getByTestId('place-all').click()
  await expect(page.getByTestId('position-12')).toHaveAccessibleName('Position 12, G18: free, reserved')
  await page.getByRole('button', { name: 'Give free' }).click()
  await expect(page.getByLabel('Reason for reserving')).toBeVisible()
})

test('the header is walked by arrow keys, turned over and around, and read by line', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope')
  await page.getByTestId('position-2').focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('position-4')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('position-3')).toBeFocused()
  const first = () => page.getByTestId('header-rail').locator('button').first()
  await page.keyboard.press('o')
  await expect(first()).toHaveAttribute('data-test', 'position-1')
  await page.keyboard.press('r')
  await expect(first()).toHaveAttribute('data-test', 'position-40')
  await page.keyboard.press('n')
  await expect(page.getByTestId('position-12').locator('.large')).toHaveText('G18')
})

test('what cannot be placed is named, and nothing moves', WHOLE, async ({ page }) => {
  await openDemo(page, 'Signal box at the branch junction', 'parts')
  await addPart(page, 'label-printer-serial')
  await addPart(page, 'positioning-serial')
  await page.keyboard.press('3')
  const before = await page.getByTestId('header-rail').innerText()
  await page.getByTestId('place-rest').click()
  await expect(page.getByTestId('notice')).toContainText('cannot be met together')
  await expect(page.getByTestId('notice')).toContainText('serial')
  expect(await page.getByTestId('header-rail').innerText()).toBe(before)
})

test('each of the six faults of the broken demo has a way out, and all of them are mended by pressing',
  async ({ page }) => {
    await openDemo(page, 'Signal box at the branch junction')
    await expect(page.getByTestId('stops')).toHaveText('7 stops')
    for (const code of ['position.claimed-twice', 'address.clash', 'address.clash', 'level.too-high',
      'line.driven-straight']) {
      const before = await page.getByTestId('stops').innerText()
      await page.getByTestId(`finding-${code}`).first().getByTestId('fix').first().click()
      await expect(page.getByTestId('stops')).not.toHaveText(before)
    }
    await page.getByTestId('stage-power').click()
    await page.getByTestId('finding-supply.too-small').getByTestId('fix').first().click()
    // What the lights take no longer goes through the board's own socket either.
    await expect(page.getByTestId('stops')).toHaveText('0 stops')
  })

test('hovering over a part shows on the strip what it would take', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'parts')
  await field(page, 'part-search').fill('servo-small')
  await page.getByTestId('add-servo-small').hover()
  await expect(page.getByText('if added: Servo')).toBeVisible()
  await expect(page.getByLabel('Gauges')).toContainText(/\+7\d\d mA/)
})

test('a chosen finding shows its subjects on the header, and a limit can be replaced', WHOLE, async ({ page }) => {
  await openDemo(page, 'Signal box at the branch junction')
  const finding = page.getByTestId('finding-level.too-high')
  await finding.getByRole('button', { name: /5 V into/ }).click()
  await expect(page.getByTestId('position-13')).toHaveClass(/marked/)
  await finding.getByRole('button', { name: '3.6 V' }).click()
  await page.getByLabel('Your own limit for arrives').fill('5.5')
  await page.keyboard.press('Enter')
  await expect(finding).toHaveCount(0)
})
