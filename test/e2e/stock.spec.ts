/** The drawer: counted once, said in every plan. */
import { expect, test } from '@playwright/test'
import { downloaded, field, goTo, openDemo } from './helpers'

test('what lies in the drawer is counted, said in parts list and offers, and comes from a table', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  await page.getByTestId('open-stock').click()
  await expect(page.getByTestId('stock-none')).toBeVisible()
  await page.getByTestId('stock-what').locator('input').fill('Fan, 5 V, two wires')
  await page.keyboard.press('Enter')
  await page.getByTestId('stock-add').click()
  await expect(page.getByTestId('stock-rows')).toContainText('Fan, 5 V, two wires')

  const table = 'What,Count,Place\n"Small screen, 128 × 64, I²C 0x3C/0x3D",3,left box\nfuse,many,\n'
  await page.getByTestId('stock-file').locator('input')
    .setInputFiles({ name: 'stock.csv', mimeType: 'text/csv', buffer: Buffer.from(table) })
  await expect(page.getByTestId('notice')).toContainText('1 came')
  await expect(page.getByTestId('notice')).toContainText('line 3: "many" is no count')
  await page.getByTestId('stock').getByRole('button', { name: 'Close' }).click()

  const list = page.getByTestId('parts-list')
  const screen = list.locator('tr', { hasText: 'Small screen' })
  await expect(screen).toContainText('3')
  await expect(list.locator('thead')).toContainText('buy')
  await expect(page.getByText(/to buy/)).toBeVisible()
  const { text } = await downloaded(page, 'download-parts')
  expect(text).toContain('Have,Taken by others,Buy,Lies in')
  expect(text).toMatch(/Small screen.*,3,0,0,left box/)

  // At the parts, and after the page is loaded anew.
  await page.reload()
  await goTo(page, 'parts')
  await field(page, 'part-search').fill('oled')
  await expect(page.getByTestId('add-oled-i2c')).toContainText('3 in the drawer')
  await field(page, 'part-search').fill('')
  await page.getByTestId('only-drawer').locator('input').check()
  await expect(page.getByTestId('add-oled-i2c')).toBeVisible()
  await expect(page.getByTestId('add-servo-small')).toHaveCount(0)
})
