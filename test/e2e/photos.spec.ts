/** Photos: made small, in the logbook and from the bench, kept over a reload, out and in again with their plan. */
import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { openDemo, saved, WHOLE } from './helpers'

/** A picture of 2400 by 1800, as a camera gives it: larger than what is kept. */
const picture = (page: Page) => page.evaluate(() => new Promise<string>((resolve) => {
  const canvas = Object.assign(document.createElement('canvas'), { width: 2400, height: 1800 })
  const context = canvas.getContext('2d')!
  for (let i = 0; i < 60; i++) {
    context.fillStyle = `hsl(${i * 6} 60% 50%)`
    context.fillRect((i % 10) * 240, Math.floor(i / 10) * 300, 240, 300)
  }
  resolve(canvas.toDataURL('image/png').split(',')[1]!)
}))

test('a photo goes into the logbook made small, stays, comes off and back, and travels with its plan', WHOLE,
  async ({ page }) => {
    await openDemo(page, 'Hive on the south slope', 'build')
    await page.getByTestId('drawer-logbook').click()
    const log = page.getByTestId('logbook')
    const png = Buffer.from(await picture(page), 'base64')
    await log.getByTestId('log-photos').locator('input').setInputFiles([
      { name: 'box.png', mimeType: 'image/png', buffer: png },
      { name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') },
    ])
    await expect(page.getByTestId('notice')).toContainText('"notes.png" was not kept: it is no picture')
    await log.getByRole('textbox', { name: 'New entry' }).fill('Lid off, cable on the left')
    await log.getByRole('button', { name: 'Write it down' }).click()
    const entry = log.locator('li').first()
    await expect(entry).toContainText('Lid off')
    await entry.getByTestId('photo').click()
    const dialog = page.getByTestId('photo-dialog')
    await expect(dialog).toContainText('1600 × 1200')
    await dialog.getByTestId('photo-drop').click()
    await expect(entry.getByTestId('photo')).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(entry.getByTestId('photo').locator('img')).toBeVisible()
    await saved(page)
    await page.reload()
    await page.getByTestId('drawer-logbook').click()
    await expect(log.locator('li').first().getByTestId('photo').locator('img')).toBeVisible()

    // Out as a zip, and in again as a project of its own with its picture.
    await page.getByTestId('open-share').click()
    const waiting = page.waitForEvent('download')
    await page.getByTestId('share-file').click()
    const zip = await (await waiting).path()
    await page.goto('/')
    await page.getByTestId('import-file').locator('input').setInputFiles({
      name: 'hive.voltaris.zip', mimeType: 'application/zip', buffer: readFileSync(zip),
    })
    await expect(page.getByTestId('notice')).toContainText('"Hive on the south slope" is imported.')
    await page.getByRole('link', { name: 'Hive on the south slope' }).first().click()
    await page.getByTestId('drawer-logbook').click()
    await expect(log.locator('li').first().getByTestId('photo').locator('img')).toBeVisible()
  })

test('at the bench a step is photographed, and what it took is written down', WHOLE, async ({ page }) => {
  await page.clock.install()
  await openDemo(page, 'Hive on the south slope', 'build')
  const png = Buffer.from(await picture(page), 'base64')
  await page.getByTestId('focus').click()
  const focus = page.getByTestId('focus-mode')
  await expect(focus.getByTestId('focus-clock')).toBeVisible()
  // From here on time passes only when this test says so, however slow the machine.
  await page.clock.pauseAt(await page.evaluate(() => Date.now() + 60_000))
  await page.clock.runFor(60_000)
  await expect(focus.getByTestId('focus-clock')).toHaveText(/^1:\d\d$/)
  const before = (await focus.getByTestId('focus-clock').textContent())!
  await focus.getByTestId('focus-photo').locator('input')
    .setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: png })
  await expect(focus.getByRole('button', { name: 'Photo (1)' })).toBeVisible()
  const title = await focus.locator('.now').textContent()
  await focus.getByTestId('focus-next').click()
  await expect(focus.getByTestId('focus-clock')).toHaveText('0:00')
  await focus.getByTestId('focus-clock').click()
  await page.clock.runFor(30_000)
  await expect(focus.getByTestId('focus-clock')).toHaveText('⏸ 0:00')
  await focus.getByTestId('focus-close').click()
  await expect(page.getByTestId('build-order')).toContainText('1 min by the clock so far')
  await expect(page.getByTestId('build-order')).toContainText(`took ${before}`)
  await page.getByTestId('drawer-logbook').click()
  await expect(page.getByTestId('logbook').locator('li').first()).toContainText(title!.trim())
})
