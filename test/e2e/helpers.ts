import AxeBuilder from '@axe-core/playwright'
import { readFileSync } from 'node:fs'
import { expect, type Locator, type Page } from '@playwright/test'

/**
 * Tests that `npm run test:screens` runs beside those of `npm test`: other states of a screen whose main
 * way is tried there.
 */
export const WHOLE = { tag: '@whole' }
/** True in `npm run test:screens`. */
export const isWhole = process.env.VOLTARIS_SCREENS === 'whole'

/** Makes the three demo projects in this browser and opens one of them on a stage. */
export async function openDemo(page: Page, name: string, stage = 'wiring') {
  await page.goto('/')
  await page.getByTestId('load-demo').click()
  const link = page.getByRole('link', { name })
  if (stage === 'wiring') {
    await link.click()
    await expect(page.getByTestId('header-rail')).toBeVisible()
    return
  }
  // Straight there, without drawing the header first.
  await page.goto((await link.getAttribute('href'))!.replace(/\/wiring$/, `/${stage}`))
  await expect(page.getByTestId(`stage-${stage}`)).toBeVisible()
}

/** Reads a plan from a file and opens it on a stage. */
export async function openPlan(page: Page, plan: object, stage: string) {
  await page.goto('/')
  await field(page, 'import-file')
    .setInputFiles({ name: 'plan.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(plan)) })
  const link = page.getByTestId('projects').getByRole('link')
  await page.goto((await link.getAttribute('href'))!.replace(/\/wiring$/, `/${stage}`))
  await expect(page.getByTestId(`stage-${stage}`)).toBeVisible()
}

export async function goTo(page: Page, stage: string) {
  await page.getByTestId(`stage-${stage}`).click()
  await expect(page).toHaveURL(new RegExp(`/${stage}$`))
}

/** A new project with a board and a supply. */
export async function newProject(page: Page, name: string, board = 'forty-classic') {
  await page.goto('/')
  await page.getByLabel('Name of a new project').fill(name)
  await page.getByRole('button', { name: 'New project' }).click()
  await page.getByTestId(`board-${board}`).click()
  await page.getByTestId('supply-adapter-5v-2a4').click()
}

/** Waits until the top bar says that everything is saved. */
export async function saved(page: Page) {
  await expect(page.getByTestId('saved')).toHaveText(/^saved \d/)
}

/** The text of the file that a press on the button hands over. */
export async function downloaded(page: Page, testId: string) {
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId(testId).click()])
  return { name: download.suggestedFilename(), text: readFileSync(await download.path(), 'utf8') }
}

/** What is typed into, of a control of the library. */
export const field = (scope: Page | Locator, testId: string): Locator =>
  scope.getByTestId(testId).locator('input, textarea:not([aria-hidden=true])').first()

/**
 * Chooses an entry of a list that opens when it is pressed. Long lists draw what is in view: those that can
 * be searched are.
 */
export async function choose(page: Page, testId: string, entry: string, typed = entry): Promise<void> {
  const control = page.getByTestId(testId)
  await control.locator('.v-field').click()
  if (await control.evaluate(element => element.classList.contains('v-autocomplete'))) {
    await page.keyboard.press('ControlOrMeta+a')
    await page.keyboard.type(typed)
  }
  await page.getByRole('option', { name: entry, exact: true }).first().click()
}

/** Chooses in a list inside a table. */
export async function pick(page: Page, name: string | RegExp, entry: string): Promise<void> {
  await page.getByRole('button', { name }).click()
  await page.locator('.v-overlay--active').getByRole('listitem').or(page.locator('.v-overlay--active .v-list-item'))
    .filter({ hasText: new RegExp(`^${entry}$`) }).first().click()
}

/** Takes a part into the plan, found by its file's name. */
export async function addPart(page: Page, id: string): Promise<void> {
  await field(page, 'part-search').fill(id)
  await page.getByTestId(`add-${id}`).click()
  await expect(page.getByTestId('notice')).toContainText('is in the plan')
  await field(page, 'part-search').fill('')
  // Single keys are shortcuts again.
  await field(page, 'part-search').blur()
}

interface Stored { revision: number, seen: Record<string, number>, plan: Record<string, unknown> }

/** A project's record as it lies in the browser's database. */
export const stored = (page: Page,
  id: string): Promise<Stored> => page.evaluate(project => new Promise<Stored>((resolve, reject) => {
  const open = indexedDB.open('voltaris')
  open.onerror = () => reject(open.error)
  open.onsuccess = () => {
    const get = open.result.transaction('projects').objectStore('projects').get(project)
    get.onsuccess = () => {
      open.result.close()
      resolve(get.result)
    }
  }
}), id)

/** Another name, saved behind the application's back, as from a tab that was frozen. */
export const behind = (page: Page, id: string, name: string): Promise<void> => page.evaluate(([project, wanted]) =>
  new Promise<void>((resolve, reject) => {
    const open = indexedDB.open('voltaris')
    open.onerror = () => reject(open.error)
    open.onsuccess = () => {
      const work = open.result.transaction('projects', 'readwrite')
      const store = work.objectStore('projects')
      const get = store.get(project)
      get.onsuccess = () => {
        const { savedBy: _by, alone: _alone, ...record } = get.result
        store.put({ ...record, revision: record.revision + 1, plan: { ...record.plan, name: wanted } })
      }
      work.oncomplete = () => {
        open.result.close()
        resolve()
      }
    }
  }), [id, name] as const)

/**
 * What the page breaks of the rules for readers and for eyes, of any impact; in words. Parts that fade in
 * have faded in.
 */
export async function violations(page: Page, where: string, onlyColours = false): Promise<string[]> {
  await page.evaluate(() => Promise.all(document.getAnimations()
    .filter(({ effect }) => Number.isFinite(effect?.getComputedTiming().endTime))
    .map(animation => animation.finished.catch(() => null))))
  // In the page itself and without the rules that hold: the same findings in a sixth of the time. There are no
  // foreign frames.
  const found = await new AxeBuilder({ page }).setLegacyMode(true)
    .options({ resultTypes: ['violations'], ...onlyColours && { runOnly: ['color-contrast', 'link-in-text-block'] } })
    .analyze()
  return found.violations.map(({ id, nodes }) =>
    `${where}: ${id}: ${nodes.slice(0, 3).map(node => node.html.slice(0, 160)).join(' | ')}`)
}
