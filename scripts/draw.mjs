#!/usr/bin/env node
// `npm run test:draw [FILES…]`: the unit tests with inputs drawn anew, for cases that no run has seen; prints the
// seed to repeat a run with (`VOLTARIS_SEED=… npm run test:draw`). No part of `npm test`, whose inputs are the same
// each time.
import { run } from './setup.mjs'

const seed = process.env.VOLTARIS_SEED ?? String(Math.floor(Math.random() * 2 ** 31))
console.log(`VOLTARIS_SEED=${seed}`)
run(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', ...process.argv.slice(2)],
  { env: { ...process.env, VOLTARIS_SEED: seed } })
