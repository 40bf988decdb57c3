import { chromium } from '@playwright/test'
export const start = async (w=1280,h=800) => { const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
const page = await browser.newPage({ viewport: { width: w, height: h } }); page.on('pageerror',e=>console.log('PAGEERROR',e.message)); page.on('console',m=>{ if(['error','warning'].includes(m.type())) console.log('CONSOLE',m.text().slice(0,300)) })
return {browser,page} }
export const open = async (page, project) => { await page.goto('http://127.0.0.1:4173/'); await page.click(`text=${project}`); await page.waitForSelector('[data-test=header-rail]'); await page.click('[data-test=stage-power]'); await page.waitForURL('**/power') }
