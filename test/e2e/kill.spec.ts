/**
 * A browser killed in the middle of typing, process and all, as by a power cut of its machine: what was shown as saved
 * is there afterwards.
 */
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, expect, test, type Page } from '@playwright/test'
import { isWhole } from './helpers'
import { random } from '../random'

/** Thirty and more by `VOLTARIS_KILLS=30 npx playwright test kill`. */
const ROUNDS = Number(process.env.VOLTARIS_KILLS ?? (isWhole ? 6 : 2))
const PARTS = 2
const ARGS = [
  '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

interface Started { page: Page, kill: () => Promise<void> }

/** The browser's first process, by the profile that it has open. */
function processOf(profile: string): number {
  const found = readdirSync('/proc').filter(name => /^\d+$/.test(name)).find((id) => {
    try {
      const words = readFileSync(`/proc/${id}/cmdline`, 'utf8').split('\0')
      return words.includes(`--user-data-dir=${profile}`) && !words.some(word => word.startsWith('--type='))
    }
    catch {
      // Ended while it was looked at.
      return false
    }
  })
  if (!found) throw new Error(`No browser has ${profile} open.`)
  return Number(found)
}

/** A browser of its own on a profile that outlives it. */
async function start(profile: string): Promise<Started> {
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: '/usr/bin/chromium', args: ARGS, serviceWorkers: 'block',
  })
  const ended = new Promise<void>(resolve => context.on('close', () => resolve()))
  return {
    page: context.pages()[0]!,
    kill: async () => {
      // The whole group at once: no process of it gets to write anything down any more.
      process.kill(-processOf(profile), 'SIGKILL')
      await ended
    },
  }
}

for (let part = 0; part < PARTS; part++) {
  const rounds = `${part * ROUNDS / PARTS + 1} to ${(part + 1) * ROUNDS / PARTS}`
  test(`what was shown as saved outlives a kill, rounds ${rounds}`, async ({ baseURL }) => {
    const profile = mkdtempSync(join(tmpdir(), 'voltaris-kill-'))
    const next = random(20261127 + part)
    let url = ''
    let typed = ''
    /** What the field held whenever the bar said "saved". */
    let shown = ''
    let lost = 0
    for (let round = 0; round <= ROUNDS / PARTS; round++) {
      const { page, kill } = await start(profile)
      await page.exposeFunction('sawSaved', (text: string) => shown = text)
      if (!url) {
        await page.goto(baseURL!)
        await page.getByLabel('Name of a new project').fill('Power cut')
        await page.getByRole('button', { name: 'New project' }).click()
        await expect(page.locator('[data-test=saved]')).toHaveText(/^saved \d/)
        url = page.url()
      }
      else await page.goto(url)
      const notes = page.locator('[data-test=notes] textarea').first()
      await expect(notes).toBeVisible()
      const found = await notes.inputValue()
      // Nothing that was shown as saved is missing, and what is more is what was typed.
      if (!found.startsWith(shown)) lost++
      expect(typed.startsWith(found), `typed …${typed.slice(-60)}, found …${found.slice(-60)}`).toBe(true)
      expect(found.length, `round ${round}: shown as saved …${shown.slice(-40)}`).toBeGreaterThanOrEqual(shown.length)
      if (round === ROUNDS / PARTS) {
        await page.goto(baseURL!)
        await expect(page.locator('[data-test=projects] li')).toHaveCount(1)
        await kill()
        break
      }
      typed = shown = found
      await page.evaluate(() => {
        const label = document.querySelector('[data-test=saved]')!
        const field = document.querySelector<HTMLTextAreaElement>('[data-test=notes] textarea')!
        new MutationObserver(() => {
          if (/^saved \d/.test(label.textContent)) void (window as unknown as { sawSaved: (text: string) => void }).sawSaved(field.value)
        }).observe(label, { childList: true, subtree: true, characterData: true })
      })
      const text = ` round ${round} of ${part}: the quick brown solder flows over the lazy pad`.repeat(6)
      typed += text
      await notes.press('Control+End')
      // The moment is drawn: anything from the first letters on.
      const moment = new Promise(resolve => setTimeout(resolve, 60 + next() * 900))
      const typing = notes.pressSequentially(text, { delay: 1 + next() * 8 }).catch(() => null)
      await moment
      await kill()
      await typing
    }
    expect(lost).toBe(0)
    rmSync(profile, { recursive: true, force: true })
  })
}
