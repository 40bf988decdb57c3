import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { field, newProject, openDemo, saved, stored, WHOLE } from './helpers'

const rows = (page: Page) => page.getByTestId('projects').locator('li')
const idOf = (page: Page) => /project\/([^/]+)/.exec(page.url())![1]!
const hive = readFileSync('demo/beehive-monitor.json', 'utf8')

test('a full storage is told at everything that needs room, what is there stays, and what is open can be exported',
  async ({ page }) => {
    await newProject(page, 'Full')
    await saved(page)
    const url = page.url()
    await page.evaluate(() => {
      for (const name of ['add', 'put'] as const) {
        IDBObjectStore.prototype[name] = () => {
          throw new DOMException('no room', 'QuotaExceededError')
        }
      }
    })
    await field(page, 'notes').fill('this finds no room')
    const bar = page.getByTestId('not-saved')
    await expect(bar).toContainText('storage is full')
    await expect(page.getByTestId('saved')).toHaveText('not saved')
    const [file] = await Promise.all([page.waitForEvent('download'),
      bar.getByRole('button', { name: 'Export what is here' }).click()])
    expect(JSON.parse(readFileSync(await file.path(), 'utf8')).notes).toBe('this finds no room')

    await page.getByRole('link', { name: 'Voltaris' }).click()
    await expect(rows(page)).toHaveCount(1)
    const notice = page.getByTestId('notice')
    await expect(notice).toContainText('nothing can be kept')
    const told = async (act: () => Promise<unknown>, words: string) => {
      await act()
      await expect(notice).toContainText(words)
      await expect(notice).toContainText('storage is full')
      await page.locator('.v-snackbar').getByRole('button', { name: 'Close' }).click()
      await expect(notice).toHaveCount(0)
    }
    await told(() => page.getByTestId('load-demo').click(), 'The demo projects were not loaded')
    await told(() => page.getByRole('button', { name: 'New project' }).click(), 'No project was made')
    await told(() => page.getByRole('button', { name: 'Duplicate' }).click(), 'Not duplicated')
    await told(() => page.getByRole('button', { name: 'Delete' }).click(), 'Not deleted')
    await field(page, 'import-file')
      .setInputFiles({ name: 'hive.json', mimeType: 'application/json', buffer: Buffer.from(hive) })
    await expect(page.getByTestId('refused')).toContainText('storage is full')
    await expect(rows(page)).toHaveCount(1)
    // The list exports what only the journal holds.
    const [listed] = await Promise.all([page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export' }).click()])
    expect(JSON.parse(readFileSync(await listed.path(), 'utf8')).notes).toBe('this finds no room')

    await page.goto(url)
    await expect(field(page, 'notes')).toHaveValue('this finds no room')
    await saved(page)
  })

for (const [what, script, words] of [
  ['refused', () => Object.defineProperty(window, 'indexedDB', {
    value: { open: () => { throw new DOMException('denied', 'SecurityError') } },
  }), 'does not let Voltaris keep anything'],
  ['missing', () => Object.defineProperty(window, 'indexedDB', { value: undefined }),
    'does not let Voltaris keep anything'],
  ['silent', () => Object.defineProperty(
    window, 'indexedDB', { value: { open: () => ({ addEventListener: () => null }) } },
  ), 'does not answer'],
] as const) {
  test(`a database that is ${what} has its sentence, and the page goes on`, WHOLE, async ({ page }) => {
    await page.addInitScript(script)
    await page.goto('/')
    await expect(page.getByTestId('storage-failure')).toContainText(words)
    await page.goto('/project/some/board')
    await expect(page.getByRole('alert')).toContainText(words)
    await page.getByRole('link', { name: 'To the list of projects' }).click()
    await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible()
  })
}

test(
  'a database that another tab holds in an older form has its sentence, and opens when that tab closes',
  WHOLE, async ({ page, context }) => {
    await page.goto('/mark.svg')
    await page.evaluate(() => new Promise<void>((resolve, reject) => {
      const open = indexedDB.open('voltaris', 10)
      open.onerror = () => reject(open.error)
      open.onupgradeneeded = () =>
        open.result.createObjectStore('projects', { keyPath: 'id' }).createIndex('updatedAt', 'updatedAt')
      // Held open: nobody lets go when a newer form is asked for.
      open.onsuccess = () => resolve(void ((window as unknown as { held: IDBDatabase }).held = open.result))
    }))
    const other = await context.newPage()
    await other.goto('/')
    await expect(other.getByTestId('storage-failure')).toContainText('Close the other tabs')
    await page.close()
    await other.getByRole('button', { name: 'Try again' }).click()
    await expect(other.getByText('Nothing here yet')).toBeVisible()
  })

test('storage deleted under an open tab: it is told, and the project is kept anew', WHOLE, async ({ page }) => {
  await newProject(page, 'Under the saw')
  await saved(page)
  await page.evaluate(() => new Promise<void>((resolve, reject) => {
    const gone = indexedDB.deleteDatabase('voltaris')
    gone.onsuccess = () => resolve()
    gone.onerror = () => reject(gone.error)
  }))
  await field(page, 'notes').fill('still here')
  const bar = page.getByTestId('not-saved')
  await expect(bar).toContainText('no project')
  await bar.getByRole('button', { name: 'Keep it anew' }).click()
  await saved(page)
  await page.reload()
  await expect(field(page, 'notes')).toHaveValue('still here')
})

test('without local storage everything works, but that settings last as long as the tab', WHOLE, async ({ page }) => {
  await page.addInitScript(() => Object.defineProperty(window, 'localStorage', {
    get: () => { throw new DOMException('denied', 'SecurityError') },
  }))
  await newProject(page, 'No slots')
  await field(page, 'notes').fill('kept all the same')
  await saved(page)
  await page.keyboard.press('Tab')
  await page.getByTestId('more').click()
  await page.getByTestId('theme').click()
  await expect(page.locator('.v-application')).toHaveClass(/night/)
  await page.reload()
  await expect(field(page, 'notes')).toHaveValue('kept all the same')
})

test('a damaged record and a newer one hide no other, are told, handed out and left as they are', async ({ page }) => {
  await newProject(page, 'Fine')
  await field(page, 'notes').fill('one')
  await saved(page)
  const id = idOf(page)
  await page.getByTestId('open-history').click()
  await page.getByLabel(/Mark how it is now/).fill('while it was whole')
  await page.getByRole('button', { name: 'Mark', exact: true }).click()
  await expect(page.getByTestId('history')).toContainText('while it was whole')
  await page.goto('/mark.svg')
  await page.evaluate(project => new Promise<void>((resolve, reject) => {
    const open = indexedDB.open('voltaris')
    open.onerror = () => reject(open.error)
    open.onsuccess = () => {
      const work = open.result.transaction(['projects', 'heads'], 'readwrite')
      const store = work.objectStore('projects')
      const get = store.get(project)
      get.onsuccess = () => {
        const { result } = get
        store.put({ ...result, plan: { ...result.plan, parts: 'chewed' } })
        store.put({ ...result, id: 'newer', plan: { ...result.plan, version: 99, name: 'From the future', wonder: 1 } })
        store.put({ ...result, id: 'other', plan: { ...result.plan, name: 'Whole' } })
        work.objectStore('heads').clear()
      }
      work.oncomplete = () => resolve(open.result.close())
    }
  }), id)
  await page.goto('/')
  await expect(rows(page)).toHaveCount(3)
  const newer = rows(page).filter({ hasText: 'From the future' })
  await expect(newer).toContainText('newer Voltaris')
  await expect(newer.getByRole('button', { name: 'Rename' })).toHaveCount(0)
  const [record] = await Promise.all([page.waitForEvent('download'),
    newer.getByRole('button', { name: 'Save the record' }).click()])
  const before = JSON.parse(readFileSync(await record.path(), 'utf8'))
  expect(before.plan.wonder).toBe(1)
  await newer.getByRole('link').click()
  await expect(page.getByRole('alert')).toContainText('newer Voltaris')
  expect(await stored(page, 'newer')).toEqual(before)

  await page.goto(`/project/${id}/board`)
  await expect(page.getByRole('alert')).toContainText('damaged')
  await expect(page.getByRole('button', { name: 'Save the record to a file' })).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect(field(page, 'notes')).toHaveValue('one')
})

test('deleted projects wait in the bin and come back', WHOLE, async ({ page }) => {
  await page.goto('/')
  await page.getByTestId('load-demo').click()
  await expect(rows(page)).toHaveCount(3)
  await page.getByLabel('Choose all that are shown').check()
  await page.getByTestId('chosen').getByRole('button', { name: 'Delete' }).click()
  await expect(page.getByText('Nothing here yet')).toBeVisible()
  await page.reload()
  await page.getByTestId('open-bin').click()
  const bin = page.getByTestId('bin')
  await expect(bin).toContainText('stays 30 more days')
  await bin.locator('li').filter({ hasText: 'Hive' }).getByRole('button', { name: 'Take back' }).click()
  await expect(rows(page)).toHaveCount(1)
  await bin.locator('li').first().getByRole('button', { name: 'Delete for good' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click()
  await expect(bin.locator('li')).toHaveCount(1)
})

test('a backup brings everything back into another browser, history and undo too',
  async ({ page, browser, baseURL }) => {
    await openDemo(page, 'Tool library kiosk', 'board')
    await field(page, 'notes').fill('before the backup')
    await saved(page)
    const url = page.url()
    await page.goto('/')
    await expect(rows(page)).toHaveCount(3)
    await page.getByTestId('backup-menu').click()
    const [zip] = await Promise.all([page.waitForEvent('download'), page.getByTestId('backup-all').click()])
    expect(zip.suggestedFilename()).toMatch(/^voltaris-backup-\d{4}-\d\d-\d\d\.zip$/)
    const bytes = readFileSync(await zip.path())

    const elsewhere = await browser.newPage({ baseURL: baseURL! })
    await elsewhere.goto('/')
    await field(elsewhere, 'restore-file').setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: bytes })
    await expect(rows(elsewhere)).toHaveCount(3)
    await expect(elsewhere.getByTestId('notice')).toContainText('3 came back')
    await elsewhere.goto(url)
    await expect(field(elsewhere, 'notes')).toHaveValue('before the backup')
    await elsewhere.getByRole('button', { name: 'Undo', exact: true }).first().click()
    await expect(field(elsewhere, 'notes')).not.toHaveValue('before the backup')
    await elsewhere.goto('/')
    await field(elsewhere, 'restore-file').setInputFiles(
      { name: 'cut.zip', mimeType: 'application/zip', buffer: bytes.subarray(0, 2000) },
    )
    await expect(elsewhere.getByTestId('refused')).toContainText('cannot be read as a backup')
    await expect(rows(elsewhere)).toHaveCount(3)
    await elsewhere.close()
  })

test('plans in other scripts go out under their own names, several at once as a zip', WHOLE, async ({ page }) => {
  await page.goto('/')
  const plan = JSON.parse(hive)
  const names = ['蜂の巣モニター', 'Пасіка на схилі', 'خلية النحل', 'Bienenstöcke: Süd?']
  await field(page, 'import-file').setInputFiles(names.map((name, i) => (
    { name: `${i}.json`, mimeType: 'application/json', buffer: Buffer.from(JSON.stringify({ ...plan, name })) })))
  await expect(rows(page)).toHaveCount(4)
  const files: string[] = []
  for (const name of names) {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      rows(page).filter({ hasText: name }).getByRole('button', { name: 'Export' }).click(),
    ])
    files.push(file.suggestedFilename())
  }
  expect(files).toEqual([
    '蜂の巣モニター.voltaris.json', 'пасіка-на-схилі.voltaris.json', 'خلية-النحل.voltaris.json',
    'bienenstöcke-süd.voltaris.json',
  ])
  await page.getByTestId('find-project').locator('input').fill('bienenstocke')
  await expect(rows(page)).toHaveCount(1)
  await page.getByTestId('find-project').locator('input').fill('')
  await page.getByLabel('Choose all that are shown').check()
  const [zip] = await Promise.all([
    page.waitForEvent('download'), page.getByTestId('chosen').getByRole('button', { name: 'Export' }).click(),
  ])
  expect(zip.suggestedFilename()).toBe('voltaris-projects.zip')
})

test('an earlier state is looked at in words, taken back, and that is undone', WHOLE, async ({ page }) => {
  await newProject(page, 'History')
  await field(page, 'notes').fill('first')
  await page.getByTestId('open-history').click()
  await page.getByLabel(/Mark how it is now/).fill('before the fan')
  await page.getByRole('button', { name: 'Mark', exact: true }).click()
  const dialog = page.getByTestId('history')
  await dialog.getByRole('button', { name: 'Close' }).click()
  await field(page, 'notes').fill('second')
  await page.getByLabel('Name of the project').fill('History, later')
  await page.getByTestId('open-history').click()
  await dialog.getByRole('button', { name: 'What changed since' }).first().click()
  await expect(page.getByTestId('changes')).toContainText('Name: "History" → "History, later"')
  await expect(page.getByTestId('changes')).toContainText('Notes: 1 line new, 1 line gone')
  await dialog.getByRole('button', { name: 'Take back' }).first().click()
  await expect(field(page, 'notes')).toHaveValue('first')
  await expect(page.getByLabel('Name of the project')).toHaveValue('History')
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(field(page, 'notes')).toHaveValue('second')
  await saved(page)
  await page.reload()
  // Undo goes on where it was.
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(page.getByLabel('Name of the project')).toHaveValue('History')
})
