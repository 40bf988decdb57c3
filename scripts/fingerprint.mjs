#!/usr/bin/env node
// Prints a fingerprint of everything that goes into the build.
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const PLACES = [
  'app', 'core', 'server', 'demo', 'public', 'scripts/bundle.mjs', 'nuxt.config.ts', 'vuetify.options.ts',
  'package-lock.json',
]
const hash = createHash('sha256')
const add = (path) => {
  let entries
  try {
    entries = readdirSync(path, { withFileTypes: true })
  }
  catch (error) {
    if (error.code !== 'ENOTDIR') throw error
    hash.update(path).update(readFileSync(path))
    return
  }
  for (const entry of entries.sort((a, b) => a.name < b.name ? -1 : 1)) add(join(path, entry.name))
}
PLACES.forEach(add)
process.stdout.write(hash.digest('hex'))
