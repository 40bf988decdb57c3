import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { field, goTo, openDemo, saved, WHOLE } from './helpers'
import { startServer } from './server'

test.use({ serviceWorkers: 'allow' })

const STAGES = ['board', 'parts', 'wiring', 'power', 'boot', 'build', 'bringup']

/** Everything is there for later: the worker has taken over and holds every file. */
const kept = (page: Page) => page.evaluate(async () => {
  await navigator.serviceWorker.ready
  const counts = (await caches.keys()).map(async name => (await (await caches.open(name)).keys()).length)
  return (await Promise.all(counts)).reduce((a, b) => a + b, 0)
})

test('every stage opens without a net, also one never visited; placing and rehearsing too',
  async ({ page, context }) => {
    await page.goto('/')
    await expect.poll(() => kept(page), { timeout: 60_000 }).toBeGreaterThan(60)
    await context.setOffline(true)
    await openDemo(page, 'Hive on the south slope')
    await page.getByTestId('wiring-more').click()
    await page.getByTestId('place-rest').click()
    await expect(page.getByTestId('notice')).toContainText('Everything has a place')
    for (const stage of STAGES) {
      await goTo(page, stage)
      await expect(page.locator('#stage h1, #stage h2').first()).toBeVisible()
    }
    await goTo(page, 'boot')
    await page.getByTestId('boot-rehearsal').click()
    await expect(page.getByTestId('rehearsal-steps')).toBeVisible()
    await page.reload()
    await expect(page.getByTestId('saved')).toBeVisible()
    await page.goto('/')
    await expect(page.getByTestId('projects').locator('li')).toHaveCount(3)
  })

test(
  'it can be installed, asks nothing of another host, and breaks no rule of its policy on any stage',
  WHOLE, async ({ page, baseURL }) => {
    const asked: string[] = []
    page.on('request', request => asked.push(request.url()))
    await page.addInitScript(() => {
      const broken: string[] = []
      Object.assign(window, { broken })
      document.addEventListener('securitypolicyviolation',
        event => broken.push(`${event.violatedDirective}: ${event.blockedURI}`))
    })
    const broken = () => page.evaluate(() => (window as unknown as { broken: string[] }).broken)
    await openDemo(page, 'Signal box at the branch junction')
    for (const stage of STAGES) {
      await goTo(page, stage)
      await expect(page.locator('#stage h1, #stage h2').first()).toBeVisible()
    }
    await page.getByTestId('open-history').click()
    await expect(page.getByTestId('history')).toBeVisible()
    expect(await broken()).toEqual([])
    expect(asked.filter(url => !url.startsWith(baseURL!) && !/^(data|blob):/.test(url))).toEqual([])
    const manifest = await (await page.request.get(await page.locator('link[rel=manifest]').getAttribute('href')
      ?? '')).json()
    expect(manifest).toMatchObject({ name: 'Voltaris', start_url: '/', display: 'standalone' })
    for (const { src } of manifest.icons) expect((await page.request.get(src)).status(), src).toBe(200)
  })

/** A server of its own, whose build can be made another one, and which can be stopped. */
async function ownServer() {
  const folder = mkdtempSync(join(tmpdir(), 'voltaris-build-'))
  cpSync('.output', folder, { recursive: true })
  const server = await startServer(folder)
  return {
    ...server,
    /** Another build: a figure in the list of files, and with it what the server tells the file apart by. */
    renew: async () => {
      const change = (file: string, pattern: RegExp) => {
        const text = readFileSync(join(folder, file), 'utf8')
        const changed = text.replace(pattern, (_, head: string, digit: string) => head + (Number(digit) + 1) % 10)
        expect(changed, file).not.toBe(text)
        writeFileSync(join(folder, file), changed)
      }
      change('public/sw.js', /(url:"\/",revision:")(\d)/)
      change('server/chunks/nitro/nitro.mjs', /("\/sw\.js": \{[^}]*?"etag": "\\"[^\d]*?)(\d)/)
      await server.stop()
      await server.start()
    },
    end: async () => {
      await server.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

const withServer = test.extend<{ server: Awaited<ReturnType<typeof ownServer>> }>({
  server: async ({ browserName: _ }, use) => {
    const server = await ownServer()
    await use(server)
    await server.end()
  },
})

withServer('a new version is told and waits; a stopped server is no matter', async ({ page, context, server }) => {
  await page.goto(server.address)
  await expect.poll(() => kept(page), { timeout: 60_000 }).toBeGreaterThan(60)
  await page.reload()
  await page.getByLabel('Name of a new project').fill('Through versions')
  await page.getByRole('button', { name: 'New project' }).click()
  await field(page, 'notes').fill('in the middle of')
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(field(other, 'notes')).toHaveValue('in the middle of')

  await server.renew()
  await page.evaluate(async () => void await (await navigator.serviceWorker.ready).update())
  await expect(page.getByTestId('update')).toContainText('Nothing changes until you take it')
  await field(page, 'notes').press('End')
  await field(page, 'notes').pressSequentially(' a sentence')
  await expect(field(page, 'notes')).toHaveValue('in the middle of a sentence')
  await saved(page)
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(other.getByTestId('update')).toContainText('load it again when it suits you')
  await expect(page.getByTestId('update')).toHaveCount(0)
  await expect(field(page, 'notes')).toHaveValue('in the middle of a sentence')
  // The other tab was not loaded anew under the hands of whoever works there.
  await expect(field(other, 'notes')).toHaveValue('in the middle of a sentence')

  await server.stop()
  await page.reload()
  await expect(field(page, 'notes')).toHaveValue('in the middle of a sentence')
  await goTo(page, 'power')
  await expect(page.locator('#stage')).toContainText('No supply yet')
})

test.describe('without a service worker', () => {
  test.use({ serviceWorkers: 'block' })

  test('what a stopped server does not give is told, and nothing is lost', WHOLE, async ({ page }) => {
    // What tells of it is fetched a moment after the page.
    const bars = Promise.all([page.waitForResponse(/NoticeBar.*css/), page.waitForResponse(/SaveBar.*css/)])
    await openDemo(page, 'Tool library kiosk')
    await goTo(page, 'board')
    await bars
    await page.route('**/_nuxt/**', route => route.abort())
    await page.getByTestId('stage-power').click()
    await expect(page.getByTestId('notice')).toContainText('the server does not answer')
    await field(page, 'notes').fill('and on it goes')
    await saved(page)
  })

  test('a worker that does not start is told, and tried again', async ({ page }) => {
    await openDemo(page, 'Tool library kiosk')
    await page.route('**/*heavy.worker*', route => route.abort())
    await page.getByTestId('place-all').click()
    await expect(page.getByTestId('notice')).toContainText('Placement failed')
    await page.unroute('**/*heavy.worker*')
    await page.getByRole('button', { name: 'Try again' }).click()
    await expect(page.getByTestId('notice')).not.toContainText('Placement failed')
  })

  test('a worker that hangs while it starts is given up and told', WHOLE, async ({ page }) => {
    await page.clock.install()
    await openDemo(page, 'Tool library kiosk')
    const asked = new Promise<void>(done =>
      void page.route('**/*heavy.worker*', () => done() /* and never answered */))
    await page.getByTestId('place-all').click()
    // The time to start in runs from here on.
    await asked
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
    await page.clock.fastForward(16_000)
    await expect(page.locator('#stage')).toContainText('No sign of life')
    await page.clock.fastForward(6_000)
    await expect(page.getByTestId('notice')).toContainText('did not start within 20 s')
  })
})
