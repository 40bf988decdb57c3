#!/usr/bin/env node
// `npm run bench`: the core in Node.js, then the built application in Chromium.
import { join } from 'node:path'
import { ensureBuild, ensurePackages, ensurePrograms, prepareSources, root, run } from './setup.mjs'

ensurePackages()
prepareSources()
ensurePrograms()
ensureBuild()
const tsx = join(root, 'node_modules', '.bin', 'tsx')
run(tsx, ['bench/index.ts'])
run(tsx, ['bench/placement.ts'])
run(tsx, ['bench/browser.ts'])
run(tsx, ['bench/typing.ts'])
run(tsx, ['bench/diagnosis.ts'])
