import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { behind, field, goTo, newProject, openDemo, saved, stored, WHOLE } from './helpers'

const list = 'projects'
const asFile = (name: string, text: string) => ({ name, mimeType: 'application/json', buffer: Buffer.from(text) })

test('projects are renamed, duplicated, deleted with undo, exported and imported', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByText('Nothing here yet')).toBeVisible()
  await page.getByTestId('load-demo').click()
  const rows = page.getByTestId(list).locator('li')
  await expect(rows).toHaveCount(3)

  const kiosk = rows.filter({ hasText: 'Tool library kiosk' })
  await kiosk.getByRole('button', { name: 'Rename' }).click()
  await page.getByLabel('New name').fill('Lending shelf')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('link', { name: 'Lending shelf' })).toBeVisible()

  const shelf = rows.filter({ hasText: 'Lending shelf' })
  await shelf.getByRole('button', { name: 'Duplicate' }).click()
  await expect(rows).toHaveCount(4)
  await rows.filter({ hasText: '(copy)' }).getByRole('button', { name: 'Delete' }).click()
  await expect(rows).toHaveCount(3)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows).toHaveCount(4)

  const [download] = await Promise.all([page.waitForEvent('download'), rows.filter({ hasText: 'Hive' })
    .getByRole('button', { name: 'Export' })
    .click()])
  expect(download.suggestedFilename()).toBe('hive-on-the-south-slope.voltaris.json')
  const text = readFileSync(await download.path(), 'utf8')
  // Everything the file says is in the export; fields it leaves out stand there with their first values.
  expect(JSON.parse(text)).toMatchObject(JSON.parse(readFileSync('demo/beehive-monitor.json', 'utf8')))
  await field(page, 'import-file').setInputFiles(asFile('hive.json', text))
  await expect(rows.filter({ hasText: 'Hive on the south slope' })).toHaveCount(2)
})

test('a damaged or foreign file is refused with its path, and changes nothing', async ({ page }) => {
  await page.goto('/')
  await page.getByTestId('load-demo').click()
  const rows = page.getByTestId(list).locator('li')
  await expect(rows).toHaveCount(3)
  const refused = page.getByTestId('refused')
  const plan = JSON.parse(readFileSync('demo/beehive-monitor.json', 'utf8'))
  for (const [file, words] of [
    [asFile('broken.json', '{ "format": '), 'not a JSON document'],
    [asFile('foreign.json', '{ "hello": 1 }'), 'not a Voltaris plan'],
    [asFile('newer.json', JSON.stringify({ ...plan, version: 7 })), 'newer Voltaris'],
    [
      asFile('wrong.json', JSON.stringify({ ...plan, assignments: { 'scale.dout': { position: 'x' } } })),
      'assignments["scale.dout"].position',
    ],
  ] as const) {
    await field(page, 'import-file').setInputFiles(file)
    await expect(refused).toContainText(file.name)
    await expect(refused).toContainText(words)
  }
  await expect(rows).toHaveCount(3)
})

test('a tab closed in the middle of typing loses nothing', async ({ page, context }) => {
  await newProject(page, 'Typing')
  await field(page, 'notes').pressSequentially('The third hole is stripped, use the long screw')
  const url = page.url()
  // As a person closes a tab: the browser lets the page go, and takes along what it was handing over.
  await Promise.all([page.waitForEvent('close'), page.close({ runBeforeUnload: true })])
  const again = await context.newPage()
  await again.goto(url)
  await expect(field(again, 'notes')).toHaveValue('The third hole is stripped, use the long screw')
})

/** What a tab leaves behind that ended between an edit and its save. */
const leave = (page: Page, id: string, tab: string, edits: { number: number, notes: string }[],
  baseRevision: number) => page.evaluate(
  ([project, writer, revision, list]) => localStorage.setItem(`voltaris.pending.${project}.${writer}`, JSON.stringify({
    tab: writer, baseRevision: revision, edits: list.map(({ number, notes }) =>
      ({ number, label: 'Notes', edit: { edit: 'write-notes', notes } })),
  })), [id, tab, baseRevision, edits] as const,
)

const idOf = (page: Page) => /project\/([^/]+)/.exec(page.url())![1]!

test('an edit that never reached the database comes back from the journal, one that did does not', WHOLE,
  async ({ page }) => {
    await newProject(page, 'Journal')
    await field(page, 'notes').fill('the whole thought')
    await saved(page)
    const id = idOf(page)
    await page.goto('/')
    // The browser was killed, and brought back a journal older than the database, of the tab that saved last.
    const { seen, revision } = await stored(page, id)
    const [tab, number] = Object.entries(seen).at(-1)!
    await leave(page, id, tab, [{ number: number - 1, notes: 'the whole' }], revision - 2)
    await page.goto(`/project/${id}/board`)
    await expect(field(page, 'notes')).toHaveValue('the whole thought')
    await page.goto('/')
    await leave(page, id, tab, [{ number: number + 1, notes: 'and half of the next' }], revision)
    await page.goto(`/project/${id}/board`)
    await expect(field(page, 'notes')).toHaveValue('and half of the next')
    await expect(page.getByTestId('notice')).toContainText('It is back')
    await page.goto('/')
    await expect(page.getByTestId('projects').locator('li')).toHaveCount(1)
  })

test('two tabs on one project follow each other, and join what both type at once', WHOLE, async ({ page, context }) => {
  await newProject(page, 'Two tabs')
  await saved(page)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(other.getByTestId('notes')).toBeVisible()
  await field(page, 'notes').fill('from the first tab')
  await expect(field(other, 'notes')).toHaveValue('from the first tab')
  await saved(page)

  // Both type at once: one into the notes, one the name, then both into the notes.
  const name = other.getByLabel('Name of the project')
  await Promise.all([
    field(page, 'notes').pressSequentially(' and more of it', { delay: 4 }),
    name.press('End').then(() => name.pressSequentially(' at work', { delay: 4 })),
  ])
  await expect(field(other, 'notes')).toHaveValue('from the first tab and more of it')
  const shownThere = `${await other.getByLabel('Name of the project').inputValue()}", `
    + `${await other.getByTestId('saved').innerText()}`
  await expect(page.getByLabel('Name of the project'), `the other tab shows "${shownThere}`)
    .toHaveValue('Two tabs at work')
  const [mine, theirs] = ['abcdefghijklmnopqrstuvwxyz', '0123456789ABCDEFGHIJ']
  await field(other, 'notes').press('Control+Home')
  await Promise.all([field(page, 'notes').press('Control+End'), field(other, 'notes').press('Control+Home')])
  await Promise.all([
    field(page, 'notes').pressSequentially(mine, { delay: 3 }),
    field(other, 'notes').pressSequentially(theirs, { delay: 3 }),
  ])
  for (const tab of [page, other]) await saved(tab)
  const letters = [...`from the first tab and more of it${mine}${theirs}`].sort().join('')
  for (const tab of [page, other]) {
    await expect.poll(async () => [...await field(tab, 'notes').inputValue()].sort().join('')).toBe(letters)
    await expect(tab.getByTestId('collisions')).toHaveCount(0)
  }
  await expect(field(other, 'notes')).toHaveValue(await field(page, 'notes').inputValue())
})

test('what two tabs changed at once and cannot be joined is shown, and taken from either', WHOLE,
  async ({ page, context }) => {
    await newProject(page, 'Both')
    await saved(page)
    const other = await context.newPage()
    await other.goto(page.url())
    await expect(other.getByTestId('notes')).toBeVisible()
    await behind(other, idOf(page), 'Theirs')
    await other.getByLabel('Name of the project').fill('Mine')
    const bar = other.getByTestId('collisions')
    await expect(bar).toContainText('Theirs stands')
    await expect(bar).toContainText('yours was Mine')
    await bar.getByRole('button', { name: 'Take mine' }).click()
    await expect(other.getByLabel('Name of the project')).toHaveValue('Mine')
    await expect(bar).toHaveCount(0)
    await saved(other)
    await expect(page.getByLabel('Name of the project')).toHaveValue('Mine')
    // This tab's whole version lies among the earlier states.
    await other.getByTestId('open-history').click()
    await expect(other.getByTestId('history')).toContainText('before it was joined')
  })

test('a project that is not there says so and leads back', async ({ page }) => {
  await page.goto('/project/nobody/wiring')
  await expect(page.getByRole('alert')).toContainText('no project "nobody"')
  await page.getByRole('link', { name: 'To the list of projects' }).click()
  await expect(page).toHaveURL(/\/$/)
})

test('undo and redo reach over stages and kinds of edit', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'parts')
  await page.getByRole('button', { name: 'Remove Field modem' }).click()
  await expect(page.getByTestId('part-modem')).toHaveCount(0)
  await goTo(page, 'board')
  await page.getByTestId('other-board').click()
  await page.getByTestId('board-forty-classic').click()
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(page.getByTestId('board-forty-usb-c')).toHaveAttribute('aria-checked', 'true')
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await goTo(page, 'parts')
  await expect(page.getByTestId('part-modem')).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.getByTestId('part-modem')).toHaveCount(0)
})

test('an empty project says on every stage what is missing, and leads there', WHOLE, async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New project' }).click()
  await expect(page.getByTestId('findings')).toContainText('it takes a board and a part')
  for (const [stage, words] of [
    ['parts', 'No part yet'], ['wiring', 'no board yet'], ['power', 'No supply yet'],
    ['boot', 'needs nothing of the boot file yet'],
    ['build', 'Nothing to join yet'], ['bringup', 'Nothing to bring up yet'],
  ] as const) {
    await goTo(page, stage)
    await expect(page.locator('#stage')).toContainText(words)
  }
  await goTo(page, 'wiring')
  await page.getByTestId('place-rest').click()
  await expect(page.getByTestId('notice')).toContainText('Choose a board first')
  await page.getByRole('button', { name: 'To the Board stage' }).click()
  await expect(page.getByTestId('board-forty-classic')).toBeVisible()
})
