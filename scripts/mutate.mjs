#!/usr/bin/env node
// `npm run mutate [-- --mutate 'core/netlist/**/*.ts']`: changes the judging rooms of the core step by step and counts
// the changes that no test notices. Its runner is fetched when it is first asked for: nothing else needs it.
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { ensurePackages, prepareSources, root, run } from './setup.mjs'

const RUNNER = ['@stryker-mutator/core@9', '@stryker-mutator/vitest-runner@9']

ensurePackages()
prepareSources()
if (!existsSync(join(root, 'node_modules', '@stryker-mutator'))) {
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error', ...RUNNER])
}
run(process.execPath, ['node_modules/@stryker-mutator/core/bin/stryker.js', 'run', ...process.argv.slice(2)])
