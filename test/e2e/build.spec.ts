/**
 * Building: steps in their order, moved and mended; what has to be taken off; spacers and screws; boards
 * pushed on wrong.
 */
import { expect, test } from '@playwright/test'
import { emptyPlan } from '../../core/plan/create'
import { choose, downloaded, field, openDemo, openPlan, saved, WHOLE } from './helpers'

test('a step that is moved too late is told, stops the build, and the computed order comes back', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  const order = page.getByTestId('build-order')
  await expect(order).toContainText('no order that keeps every rule has fewer')
  const steps = page.locator('[data-test^=step-]')
  await expect(steps.first()).toContainText('Lay everything out')
  await page.getByRole('button', { name: 'Move Measure before power down' }).click()
  await expect(order).toContainText('this is your own order')
  await expect(page.getByTestId('step-supply')).toContainText('has to come before this: the supply goes in last of all')
  await expect(page.getByTestId('finding-build.too-late')).toContainText('Measure before power')
  await page.getByTestId('finding-build.too-late').getByTestId('fix').click()
  await expect(order).toContainText('no order that keeps every rule has fewer')
  await expect(page.getByTestId('finding-build.too-late')).toHaveCount(0)
})

test('a step is ticked with its wires in one edit, and everything goes out as text and as what is cut',
  async ({ page }) => {
    await openDemo(page, 'Hive on the south slope', 'build')
    const joined = page.getByText(/^\d+ of \d+ joined$/)
    const before = await joined.textContent()
    const clock = page.getByTestId('step-part:clock')
    await clock.getByRole('checkbox', { name: 'Wire Clock with cell done' }).check()
    await expect(clock.locator('.rest')).toBeHidden()
    await expect(joined).not.toHaveText(before!)
    await page.keyboard.press('Control+z')
    await expect(joined).toHaveText(before!)
    const all = await downloaded(page, 'download-build')
    expect(all.text).toContain('## Steps')
    expect(all.text).toContain('Stop here until: Neither reads near 0 Ω')
    await page.getByTestId('build-wires').click()
    expect((await downloaded(page, 'download-cuts')).text).toContain('Count,Length (m),Gauge,Colour,Wires')
  })

test('a rule of the maker that goes round in a circle is a stop with a way out', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  await page.getByText('What else has to come before what').click()
  await choose(page, 'rule-first', 'The supply, last of all')
  await choose(page, 'rule-then', 'Wire Hive scale')
  await field(page, 'rule-why').fill('I want to see its lamp')
  await page.getByTestId('rule-add').click()
  const finding = page.getByTestId('finding-build.circle')
  await expect(finding).toContainText('I want to see its lamp')
  await finding.getByTestId('fix').click()
  await expect(finding).toHaveCount(0)
})

test(
  'a board on a plate has its spacers and screws, each length with its reason, and they stand in the parts list',
  WHOLE, async ({ page }) => {
    await openDemo(page, 'Tool library kiosk', 'build')
    await page.getByText('Spacers and screws').click()
    await page.getByTestId('mount-on').locator('input').check()
    await expect(page.getByTestId('mount-answer')).toContainText('4 × Spacer, M2.5')
    await expect(page.getByTestId('mount')).toContainText('of thread hold')
    await expect(page.getByTestId('step-mount')).toContainText('Board on its spacers')
    await field(page, 'mount-under').fill('9')
    await field(page, 'mount-under').blur()
    await expect(page.getByTestId('mount-answer')).toContainText('10 mm')
    // A board that is pushed on stands on what holds the one below.
    await page.getByTestId('spacers-on').locator('input').check()
    await expect(page.getByTestId('levels')).toContainText('4 × Spacer, M2.5, stud of 5 mm and thread, 11 mm')
    await expect(page.getByTestId('step-seat:voice')).toContainText('4 × Screw, pan head, M2.5 × 5, from above')
    await page.getByTestId('build-parts').click()
    await expect(page.getByTestId('parts-list')).toContainText('Spacer, M2.5, thread at both ends, 10 mm')
    await expect(page.getByTestId('parts-list')).toContainText('Spacer, M2.5, stud of 5 mm and thread, 11 mm')
    await saved(page)
  })

test('every way to push a board on wrong is told, what breaks something first', WHOLE, async ({ page }) => {
  await openDemo(page, 'Tool library kiosk', 'build')
  const wrong = page.getByTestId('misplugged-voice')
  await expect(wrong).toContainText('of 6 ways break something')
  await wrong.getByRole('button').first().click()
  await expect(wrong.locator('li').first()).toContainText('breaks something')
  await expect(wrong).toContainText('Near 0 Ω between positions 4 and 6: do not switch on.')
})

test('the flat cable is told by how its two slots lie', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  await page.getByText('Which flat cable?').click()
  await page.getByTestId('flat-add').click()
  const answer = page.getByTestId('flat-answer')
  await expect(answer).toContainText('This one: 15 ways, 1 mm, contacts at its ends on the same side.')
  await choose(page, 'flat-contacts-two', 'on top')
  await expect(answer).toContainText('on opposite sides')
  await field(page, 'flat-ways-two').fill('22')
  await field(page, 'flat-ways-two').blur()
  await expect(answer).toContainText('None does: One has 15 ways, the other 22')
  await saved(page)
})

test('the build is seen to scale, a lid that does not close is told, measured and mended', WHOLE, async ({ page }) => {
  await openDemo(page, 'Tool library kiosk', 'build')
  const picture = page.getByTestId('picture')
  await page.getByTestId('show-part:labels').click()
  await expect(picture).toContainText('Wire Label printer')
  await expect(picture.locator('.body.now rect').first()).toBeVisible()
  await expect(picture.getByTestId('picture-above')).toHaveAttribute('aria-label', /New in this step: Label printer/)
  await page.getByTestId('turn-over').click()
  await expect(picture.getByTestId('picture-above')).toHaveAttribute('aria-label', /from below/)
  const lid = page.getByTestId('finding-room.lid')
  await expect(lid).toContainText('16.3 mm are lacking')
  await expect(picture.locator('.lid.bad')).toHaveCount(1)
  // What is measured stands in for the file, here and in the check.
  await page.getByText('Sizes and places').click()
  await choose(page, 'room-thing', 'Box behind the panel')
  await field(page, 'measure-lidMm').fill('24,5')
  await field(page, 'measure-lidMm').blur()
  await expect(lid).toContainText('9.8 mm are lacking')
  await expect(lid).toContainText('lid: measured')
  await page.keyboard.press('Control+z')
  await expect(lid).toContainText('16.3 mm are lacking')
  await lid.getByTestId('fix').click()
  await expect(lid).toHaveCount(0)
  await expect(picture.locator('.lid.bad')).toHaveCount(0)
})

test('a thing that is put somewhere is drawn and judged there', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  await page.getByText('Sizes and places').click()
  await choose(page, 'room-thing', 'Porch screen')
  await field(page, 'place-x').fill('100')
  await field(page, 'place-x').blur()
  await field(page, 'place-y').fill('10')
  await field(page, 'place-y').blur()
  await expect(page.getByTestId('finding-room.clash')).toHaveCount(0)
  await field(page, 'place-x').fill('70')
  await field(page, 'place-x').blur()
  await expect(page.getByTestId('finding-room.clash').first()).toContainText('in one another')
  await page.getByRole('button', { name: 'Where it was' }).click()
  await expect(page.getByTestId('finding-room.clash')).toHaveCount(0)
})

test('the bench sheet is one document', WHOLE, async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'build')
  const sheet = await downloaded(page, 'bench-sheet')
  expect(sheet.text.slice(0, 5)).toBe('%PDF-')
  expect(sheet.text.length).toBeGreaterThan(20_000)
})

test('a panel: the board stands on its threads, the screws of what is screwed to it, and which flat cable',
  async ({ page }) => {
    const plan = { ...emptyPlan('Panel on the wall'), board: 'forty-usb-c',
      parts: [{ id: 'panel', type: 'panel-flat-7', name: 'Panel' }] }
    await openPlan(page, plan, 'build')
    await expect(page.getByTestId('flat-planned')).toContainText('contacts at its ends on the same side')
    await page.getByRole('button', { name: 'Spacers and screws' }).click()
    await page.getByLabel('The board stands on spacers').check()
    await choose(page, 'mount-onto', 'Panel')
    await expect(page.getByTestId('mount-answer')).toContainText('Spacer, M2.5, stud of 5 mm and thread, 5 mm')
    await field(page, 'fixing-clamped').fill('3')
    await field(page, 'fixing-clamped').blur()
    await expect(page.getByTestId('fixing')).toContainText('4 × M3 × 6')
    await expect(page.getByTestId('fixing'))
      .toContainText('12it wants 9 mm of thread, there are 6 mm: it hits the ground by 3 mm')
    await expect(page.getByTestId('step-mount')).toContainText('Board onto Panel')
  })
