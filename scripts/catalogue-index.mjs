#!/usr/bin/env node
// Writes core/catalogue/shipped.ts: one import for each board, part, supply and power item file.
// Adding a part is adding its file; this runs before every build, test and lint. `--check` only compares.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const root = new URL('../core/catalogue/', import.meta.url)
const kinds = ['boards', 'parts', 'supplies', 'power']
const files = kinds.map(kind => readdirSync(new URL(`${kind}/`, root)).filter(file => file.endsWith('.json')).sort())
const nameOf = (kind, file) => `${kind}_${file.replace('.json', '').replaceAll('-', '_')}`
const lines = ['// Written by scripts/catalogue-index.mjs; do not edit.']
kinds.forEach((kind, k) => files[k].forEach(file => lines.push(`import ${nameOf(kind, file)} from './${kind}/${file}'`)))
kinds.forEach((kind, k) => lines.push('', `export const ${kind}: unknown[] = [`, ...files[k].map(file => `  ${nameOf(kind, file)},`), ']'))
const text = lines.join('\n') + '\n'
const target = fileURLToPath(new URL('shipped.ts', root))
let before = ''
try {
  before = readFileSync(target, 'utf8')
}
catch { /* first run: there is none yet */ }
if (process.argv.includes('--check')) {
  if (before !== text) {
    console.error('core/catalogue/shipped.ts does not list the catalogue files: run node scripts/catalogue-index.mjs')
    process.exit(1)
  }
}
else if (before !== text) writeFileSync(target, text)
