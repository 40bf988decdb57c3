import { chromium, selectors } from '@playwright/test'
selectors.setTestIdAttribute('data-test')
import { readFileSync } from 'node:fs'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const out = process.env.OUT
// jobs: JSON [{plan, stage, w, h, dark, js}]
const jobs = JSON.parse(readFileSync(process.env.JOBS, 'utf8'))
const files = []
for (const [i, job] of jobs.entries()) {
  const c = await b.newContext({ viewport: { width: job.w, height: job.h }, serviceWorkers: 'block', colorScheme: job.dark ? 'dark' : 'light', hasTouch: job.w < 500 })
  const page = await c.newPage()
  await page.goto('http://127.0.0.1:4394/')
  await page.waitForTimeout(1200)
  if (job.file) {
    await page.locator('[data-test=import-file] input').setInputFiles(job.file)
    await page.waitForTimeout(800)
  }
  if (job.name) {
    await page.getByRole('link', { name: job.name }).first().click()
    await page.getByTestId('stage-' + job.stage).click()
    await page.waitForTimeout(900)
  }
  if (job.js) { await page.evaluate(job.js); await page.waitForTimeout(900) }
  for (const c of job.click ?? []) { await page.getByTestId(c).first().click(); await page.waitForTimeout(700) }
  const f = `${out}-${i}.png`
  await page.screenshot({ path: f })
  files.push(f)
  await c.close()
}
const cell = jobs.map((j, i) => `<img src="data:image/png;base64,${readFileSync(files[i]).toString('base64')}" style="height:${process.env.H ?? 640}px;margin:4px;border:1px solid red">`).join('')
const page = await b.newPage({ viewport: { width: Number(process.env.W ?? 2080), height: 100 } })
await page.setContent(`<body style="margin:0;font-size:0">${cell}</body>`)
await page.screenshot({ path: `${out}.png`, fullPage: true })
await b.close()
