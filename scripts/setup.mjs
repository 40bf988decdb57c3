#!/usr/bin/env node
// Sets up what is missing, asks nothing, and says in one line what it cannot set up.
// Needs nothing but Node.js itself: it runs before any package is there.
import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { writeCatalogueIndex } from './catalogue-index.mjs'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const STAMP = join(root, 'node_modules', '.voltaris-setup')

/** Runs a command with its output shown; ends the process with its code when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (error) throw error
  if (status !== 0) process.exit(status ?? 1)
}

/** Sum of the lock file: which packages there should be. */
const lockSum = () => createHash('sha256').update(readFileSync(join(root, 'package-lock.json'))).digest('hex')

/** `npm ci` of these packages when they are not there yet or the lock file has changed since. */
function installOnce(kind, more) {
  const wanted = `${kind} ${lockSum()}`
  const there = existsSync(STAMP) ? readFileSync(STAMP, 'utf8') : ''
  // What tests need has in it what running needs.
  if (there === wanted || there === `all ${lockSum()}`) return
  console.log('setting up: packages')
  run('npm', ['ci', ...more, '--no-audit', '--no-fund', '--loglevel=error'])
  writeFileSync(STAMP, wanted)
}

/** All packages, those of tests too. */
export const ensurePackages = () => installOnce('all', [])
/** Only the packages that the build and the server need. */
export const ensureRunPackages = () => installOnce('run', ['--omit=dev'])

/** The catalogue's index and Nuxt's own types, both made from the sources. */
export function prepareSources() {
  writeCatalogueIndex()
  // The linter's own file is missing where only what runs was installed before.
  if (!['tsconfig.app.json', 'eslint.config.mjs'].every(file => existsSync(join(root, '.nuxt', file)))) {
    run(process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'prepare'], { stdio: ['ignore', 'ignore', 'inherit'] })
  }
}

const PROGRAMS = [
  { debian: 'chromium', files: ['/usr/bin/chromium'] },
  // Tests drive this one: the same browser without its windows, a quarter faster.
  { debian: 'chromium-headless-shell', files: ['/usr/bin/chromium-headless-shell'] },
  { debian: 'device-tree-compiler', files: ['/usr/bin/dtc'] },
  { debian: 'cpp', files: ['/usr/bin/cpp'] },
  { debian: 'dt-schema', files: ['/usr/bin/dt-validate'] },
  { debian: 'xcvt', files: ['/usr/bin/cvt'] },
  { debian: 'ngspice', files: ['/usr/bin/ngspice'] },
  { debian: 'busybox', files: ['/usr/bin/busybox', '/bin/busybox'] },
  { debian: 'i2c-tools', files: ['/usr/sbin/i2cdetect'] },
  { debian: 'gpiod', files: ['/usr/bin/gpioinfo'] },
  { debian: 'sigrok-cli', files: ['/usr/bin/sigrok-cli'] },
  { debian: 'python3', files: ['/usr/bin/python3'] },
  { debian: 'gcc', files: ['/usr/bin/gcc'] },
  { debian: 'g++', files: ['/usr/bin/g++'] },
  { debian: 'libc6-dev', files: ['/usr/include/stdio.h'] },
  { debian: 'cloud-init', files: ['/usr/bin/cloud-init'] },
  { debian: 'netplan.io', files: ['/usr/sbin/netplan'] },
  { debian: 'network-manager', files: ['/usr/bin/nmcli'] },
  { debian: 'systemd', files: ['/usr/bin/systemd-analyze'] },
  { debian: 'poppler-utils', files: ['/usr/bin/pdftotext'] },
  { debian: 'desktop-file-utils', files: ['/usr/bin/desktop-file-validate'] },
  { debian: 'x11-xkb-utils', files: ['/usr/bin/xkbcomp'] },
  { debian: 'xkb-data', files: ['/usr/share/X11/xkb/symbols/us'] },
  { debian: 'linux-libc-dev', files: ['/usr/include/linux/input-event-codes.h'] },
]

/** Chromium and the reference programs, from Debian, when they are missing and may be installed. */
export function ensurePrograms() {
  const missing = PROGRAMS.filter(({ files }) => !files.some(file => existsSync(file))).map(({ debian }) => debian)
  if (!missing.length) return
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')
  if (!mayInstall) {
    console.error(`setup: not installed here: ${missing.join(', ')}. Install them first: apt-get `
      + `install ${missing.join(' ')}`)
    process.exit(1)
  }
  console.log(`setting up: ${missing.join(', ')}`)
  const quiet = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }, stdio: ['ignore', 'ignore', 'inherit'] }
  run('apt-get', ['update', '-qq'], quiet)
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], quiet)
}

/** Builds the application when there is no build of the present sources yet. */
export function ensureBuild() {
  const stamp = join(root, '.output', '.sources')
  const sources = execFileSync(process.execPath, ['scripts/fingerprint.mjs'], { cwd: root, encoding: 'utf8' })
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return
  console.log('building')
  run(
    process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'build', '--logLevel', 'silent'],
    { env: { ...process.env, NODE_ENV: 'production' } },
  )
  writeFileSync(stamp, sources)
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  ensurePackages()
  prepareSources()
}
