#!/usr/bin/env node
// `npm run demo`: sets up what is missing, builds, starts with the demo projects, prints the address.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { writeCatalogueIndex } from './catalogue-index.mjs'
import { ensureBuild, ensureRunPackages, root } from './setup.mjs'

ensureRunPackages()
writeCatalogueIndex()
ensureBuild()
const port = process.env.PORT ?? '4173'
const server = spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, PORT: port, HOST: process.env.HOST ?? '127.0.0.1', NUXT_PUBLIC_DEMO: 'true',
    NODE_ENV: 'production' },
})
server.on('exit', code => process.exit(code ?? 1))
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))

const address = `http://127.0.0.1:${port}/`
for (let tries = 0; tries < 100; tries++) {
  try {
    if ((await fetch(address)).ok) {
      console.log(`Voltaris with its demo projects: ${address}   (Ctrl+C ends it)`)
      break
    }
  }
  catch { /* not up yet: asked again below */ }
  await new Promise(resolve => setTimeout(resolve, 100))
}
