import { chromium } from '@playwright/test'
import { readFileSync } from 'fs'; import { gzipSync } from 'zlib'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] })
const p = await b.newPage(); await p.goto('http://127.0.0.1:4173/'); await p.getByLabel('Name of a new project').fill('x'); await p.getByRole('button', { name: 'New project' }).click(); await p.waitForSelector('[data-test=board-forty-classic]')
const url = p.url(); const asked = new Set(); p.on('response', r => { const n = new URL(r.url()).pathname; if (n.endsWith('.js')) asked.add(n) })
await p.goto('about:blank'); await p.goto(url); await p.waitForSelector('[data-test=board-forty-classic]'); await p.waitForTimeout(500)
for (const a of asked) { const t = readFileSync('.output/public'+a); console.log(gzipSync(t).length, t.length, a, t.toString().slice(0,0)) }
await b.close()
