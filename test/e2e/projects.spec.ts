import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { goTo, newProject, openDemo, saved } from './helpers'

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
  await page.getByTestId('import-file').setInputFiles(asFile('hive.json', text))
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
    await page.getByTestId('import-file').setInputFiles(file)
    await expect(refused).toContainText(file.name)
    await expect(refused).toContainText(words)
  }
  await expect(rows).toHaveCount(3)
})

test('a tab closed in the middle of typing loses nothing', async ({ page, context }) => {
  await newProject(page, 'Typing')
  await page.getByTestId('notes').pressSequentially('The third hole is stripped, use the long screw')
  const url = page.url()
  // As a person closes a tab: the browser lets the page go, and takes along what it was handing over.
  await Promise.all([page.waitForEvent('close'), page.close({ runBeforeUnload: true })])
  const again = await context.newPage()
  await again.goto(url)
  await expect(again.getByTestId('notes')).toHaveValue('The third hole is stripped, use the long screw')
})

test('an edit that never reached the database comes back from the journal', async ({ page }) => {
  await newProject(page, 'Journal')
  await saved(page)
  const id = /project\/([^/]+)/.exec(page.url())![1]!
  await page.goto('/')
  // What a tab leaves behind that was closed between the edit and the save.
  await page.evaluate((project) => {
    const open = indexedDB.open('voltaris')
    return new Promise<void>((resolve, reject) => {
      open.onerror = () => reject(open.error)
      open.onsuccess = () => {
        const get = open.result.transaction('projects').objectStore('projects').get(project)
        get.onsuccess = () => {
          localStorage.setItem(
            `voltaris.pending.${project}`,
            JSON.stringify({ plan: { ...get.result.plan, notes: 'half a thought' }, baseRevision: get.result.revision }),
          )
          resolve()
        }
      }
    })
  }, id)
  await page.goto(`/project/${id}/board`)
  await expect(page.getByTestId('notes')).toHaveValue('half a thought')
  await expect(page.getByTestId('notice')).toContainText('It is back')
})

test('two tabs on one project follow each other, and never overwrite in silence', async ({ page, context }) => {
  await newProject(page, 'Two tabs')
  await saved(page)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(other.getByTestId('notes')).toBeVisible()

  await page.getByTestId('notes').fill('from the first tab')
  await expect(other.getByTestId('notes')).toHaveValue('from the first tab')

  // A save that this tab hears nothing of, as from a tab that was frozen.
  await saved(page)
  await other.evaluate(async () => {
    const open = indexedDB.open('voltaris')
    await new Promise<void>(resolve => open.onsuccess = () => {
      const store = open.result.transaction('projects', 'readwrite').objectStore('projects')
      const all = store.getAll()
      all.onsuccess = () => {
        const record = all.result.find((entry: { plan: { name: string } }) => entry.plan.name === 'Two tabs')
        store.put({
          ...record, revision: record.revision + 1, plan: { ...record.plan, notes: 'saved behind its back' },
        }).onsuccess = () => resolve()
      }
    })
  })
  await other.getByTestId('notes').fill('from the second tab')
  const conflict = other.getByTestId('conflict')
  await expect(conflict).toContainText('Nothing was overwritten')
  await conflict.getByRole('button', { name: /Keep both/ }).click()
  await expect(other.getByLabel('Name of the project')).toHaveValue('Two tabs (kept from this tab)')
  await goTo(other, 'board')
  await expect(other.getByTestId('notes')).toHaveValue('from the second tab')
  await page.reload()
  await expect(page.getByTestId('notes')).toHaveValue('saved behind its back')
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
  await page.getByTestId('board-forty-classic').click()
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(page.getByTestId('board-forty-usb-c')).toHaveAttribute('aria-checked', 'true')
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await goTo(page, 'parts')
  await expect(page.getByTestId('part-modem')).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.getByTestId('part-modem')).toHaveCount(0)
})

test('an empty project says on every stage what is missing, and leads there', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New project' }).click()
  await expect(page.getByTestId('findings')).toContainText('it takes a board and a part')
  for (const [stage, words] of [
    ['parts', 'No part yet'], ['wiring', 'no board yet'], ['power', 'No supply yet'], ['boot', 'needs nothing of the boot file yet'],
    ['build', 'Nothing to join yet'], ['bringup', 'No part on I²C has a place yet'],
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
