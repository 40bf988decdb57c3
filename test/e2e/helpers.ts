import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'

/** Makes the three demo projects in this browser and opens one of them on a stage. */
export async function openDemo(page: Page, name: string, stage = 'wiring') {
  await page.goto('/')
  await page.getByTestId('load-demo').click()
  await page.getByRole('link', { name }).click()
  await expect(page.getByTestId('header-rail')).toBeVisible()
  if (stage !== 'wiring') await goTo(page, stage)
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
