/** The drawer: counted once, said in every plan; and one function by loose wires or as a board. */
import { expect, test } from '@playwright/test'
import { addPart, downloaded, field, goTo, newProject, openDemo, WHOLE } from './helpers'

test('what lies in the drawer is counted, said in parts list and offers, and comes from a table', WHOLE,
  async ({ page }) => {
    await openDemo(page, 'Hive on the south slope', 'build')
    await page.getByTestId('build-parts').click()
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

test('one function is tried by loose wires and as an add-on board, and the other way is taken and taken back',
  async ({ page }) => {
    await newProject(page, 'Time')
    await goTo(page, 'parts')
    await addPart(page, 'clock-cell-i2c')
    await page.getByTestId('ways-clock-cell-i2c').click()
    const ways = page.getByTestId('ways')
    await expect(ways).toContainText('minutes to build')
    await expect(ways).toContainText('as it is now')
    await page.getByTestId('way-add-on').click()
    await expect(page.getByTestId('part-clock-add-on')).toBeVisible()
    await expect(page.getByTestId('part-clock-cell-i2c')).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(page.getByTestId('part-clock-cell-i2c')).toBeVisible()
  })

test('what the whole costs in each way is listed, and an arrangement is taken and taken back', WHOLE,
  async ({ page }) => {
    await openDemo(page, 'Tool library kiosk', 'build')
    await page.getByTestId('build-parts').click()
    await page.getByTestId('open-totals').click()
    const rows = page.getByTestId('totals').locator('tbody tr')
    await expect(rows.first()).toContainText('As it is now')
    await expect(page.getByTestId('totals')).toContainText('Ready-made panel computer, 7-inch')
    await expect(page.getByTestId('totals')).toContainText('what hangs on the header, which it has not')
    await page.getByTestId('totals').getByRole('button', { name: /^Take Fed as in/ }).first().click()
    await expect(page.getByTestId('notice')).toContainText('in the plan')
    await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
    await page.getByTestId('open-totals').click()
    await expect(rows.first()).toContainText('As it is now')
    await expect(page.getByTestId('totals').getByRole('button', { name: /^Take Fed as in/ })).toBeVisible()
  })
