/** Example code held against the plan, and a plan begun from a table. */
import { expect, test } from '@playwright/test'
import { choose, goTo, openDemo, saved, WHOLE } from './helpers'

test('example code is held against the plan, put right, taken back, and kept', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope')
  await goTo(page, 'boot')
  await page.getByTestId('boot-programs').click()
  const summary = page.getByTestId('program-summary')
  await expect(summary).toContainText('3 contradict the plan, 5 agree')
  await expect(page.getByTestId('program-rows')).toContainText('Hive scale, SCK is at position 31 (G6)')

  // One place by its own button, the rest at once.
  await page.getByRole('button', { name: 'Write 6', exact: true }).click()
  await expect(summary).toContainText('2 contradict the plan')
  await page.getByTestId('program-right').click()
  await page.getByTestId('program-mend').click()
  await expect(summary).toContainText('0 contradict the plan, 8 agree')
  await expect(page.getByTestId('program-text')).toContainText('AIR_ADDRESS = 0x76')

  // What is typed is read again, and stays after the page is loaded anew.
  await page.getByTestId('program-new').click()
  await page.getByTestId('program-text').click()
  await page.keyboard.insertText('fan = Fan(18)\n')
  await expect(summary).toContainText('1 contradicts the plan')
  await saved(page)
  await page.reload()
  await page.getByTestId('boot-programs').click()
  await choose(page, 'program-choice', 'Example')
  await expect(summary).toContainText('1 contradicts the plan')
  await page.getByTestId('program-drop').click()
  await expect(page.getByTestId('program-rows')).toContainText('SCALE_SCK')
})

test('a plan is begun from a table of connections', async ({ page }) => {
  await page.goto('/')
  await page.getByTestId('from-text').click()
  await page.getByTestId('begin-text').locator('textarea').first()
    .fill('Signal,GPIO\nDC,24\nRST,25\nBacklight,18\nRelay,5\n')
  await expect(page.getByTestId('begun')).toContainText('Colour screen 2.4″')
  await expect(page.getByTestId('begun')).toContainText('Relay board, one channel')
  await page.getByTestId('begin-make').click()
  await expect(page.getByRole('heading', { name: 'Wiring' })).toBeVisible()
  await expect(page.getByTestId('chip-relay-board-1')).toBeVisible()
})
