#!/usr/bin/env node
// `npm run test:screens`: every end-to-end test, those tagged @whole too. `npm test` takes one way through each screen
// and promise.
import { ensureBuild, ensurePackages, ensurePrograms, prepareSources, run } from './setup.mjs'

ensurePackages()
prepareSources()
ensurePrograms()
ensureBuild()
run(
  process.execPath, ['node_modules/@playwright/test/cli.js', 'test', ...process.argv.slice(2)],
  { env: { ...process.env, VOLTARIS_SCREENS: 'whole' } },
)
