#!/usr/bin/env node
// `npm test`: sets up what is missing, then lint, types, unit, reference and end-to-end; one closing line.
import { spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensurePackages, ensurePrograms, prepareSources, root } from './setup.mjs'

const started = Date.now()
ensurePackages()
prepareSources()
ensurePrograms()

const reports = mkdtempSync(join(tmpdir(), 'voltaris-test-'))
const total = { passed: 0, failed: 0 }

/** Runs one step; it counts as one check unless `count` reads its report. */
function step(name, command, args, count, env = {}) {
  console.log(`\n== ${name}`)
  const { status } = spawnSync(command, args,
    { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } })
  let result = { passed: status === 0 ? 1 : 0, failed: status === 0 ? 0 : 1 }
  if (count) {
    try {
      result = count()
    }
    catch (error) {
      console.error(`${name}: no report was written (${error.message})`)
    }
    // A runner that fails without a failed test (a crash, an unhandled error) is still a failure.
    if (status !== 0 && !result.failed) result.failed = 1
  }
  total.passed += result.passed
  total.failed += result.failed
}

/** One step, whose words are printed whole when it ends. */
const quietly = ([name, command, args]) => new Promise((resolve) => {
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', chunk => said += chunk)
  child.on('error', error => said += `${error.message}\n`)
  child.on('close', (status) => {
    console.log(`\n== ${name}\n${said.trimEnd()}`)
    total[status === 0 ? 'passed' : 'failed']++
    resolve()
  })
})

/** Lanes side by side, one for each core; the steps of a lane one after the other. */
const sideBySide = lanes => Promise.all(lanes.map(async (steps) => {
  for (const step of steps) await quietly(step)
}))

/** How long each test took, of all steps. */
const took = []
function takeTimes({ specs = [], suites = [] }) {
  for (const { title,
    tests } of specs) for (const { results } of tests) took.push({ name: title, ms: results.at(-1)?.duration ?? 0 })
  suites.forEach(takeTimes)
}

const bin = name => join(root, 'node_modules', '.bin', name)
const json = name => JSON.parse(readFileSync(join(reports, name), 'utf8'))

const node = process.execPath
await sideBySide([
  [
    ['build', node, ['-e', 'import("./scripts/setup.mjs").then(setup => setup.ensureBuild())']],
    ['types of the core, without a browser', bin('tsc'), ['-p', 'tsconfig.core.json']],
  ],
  [
    ['lint', bin('eslint'), ['.']],
    ['types of all', bin('vue-tsc'), ['-p', 'tsconfig.app.json']],
    ['types of the server', bin('vue-tsc'), ['--noEmit', '-p', '.nuxt/tsconfig.server.json']],
  ],
])
step('unit and reference', bin('vitest'), [
  'run', '--reporter=default', '--reporter=json', `--outputFile.json=${join(reports, 'unit.json')}`,
],
() => {
  const { numPassedTests, numFailedTests, testResults } = json('unit.json')
  for (const { assertionResults } of testResults) {
    for (const { fullName, duration } of assertionResults) took.push({ name: fullName, ms: duration ?? 0 })
  }
  return { passed: numPassedTests, failed: numFailedTests }
})
step('end to end', bin('playwright'), ['test', '--reporter=list,json'], () => {
  const { suites, stats: { expected, unexpected, flaky } } = json('e2e.json')
  suites.forEach(takeTimes)
  return { passed: expected, failed: unexpected + flaky }
}, { PLAYWRIGHT_JSON_OUTPUT_NAME: join(reports, 'e2e.json') })

console.log('\nthe ten slowest:')
for (const { name, ms } of took.sort((a, b) => b.ms - a.ms).slice(0,
  10)) console.log(`${(ms / 1000).toFixed(1).padStart(6)} s  ${name}`)
console.log(`\n${Math.round((Date.now() - started) / 1000)} s`)
console.log(`${total.passed} passed, ${total.failed} failed`)
process.exit(total.failed ? 1 : 0)
