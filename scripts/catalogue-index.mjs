#!/usr/bin/env node
// Writes core/catalogue/generated/: imports of every folder below
// core/catalogue/{boards,parts,supplies,power,starters}, of the overlays, programs and simulated chips that parts
// bring. Not kept in the repository: adding a part is adding its folder. Runs before every build, test, lint and
// type check.
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const root = new URL('../core/catalogue/', import.meta.url)
/** Folder of a kind → its entries' file. */
const KINDS = { boards: 'board.json', parts: 'part.json', supplies: 'supply.json', power: 'item.json',
  starters: 'starter.json' }
const SUM = '// Written by scripts/catalogue-index.mjs; do not edit.'

const folders = kind => readdirSync(new URL(`${kind}/`, root), { withFileTypes: true })
  .filter(entry => entry.isDirectory()).map(entry => entry.name).sort()
const named = (kind, id) => `${kind}_${id.replaceAll('-', '_')}`
const holding = (kind, file) => folders(kind).filter(id => existsSync(new URL(`${kind}/${id}/${file}`, root)))

/** A module that lists what the folders of a kind have in one file. */
function listOf(exported, kind, file, ids) {
  return {
    imports: ids.map(id => `import ${named(kind, id)} from '../${kind}/${id}/${file.replace(/\.ts$/, '')}'`),
    body: [`export const ${exported}: unknown[] = [`, ...ids.map(id => `  ${named(kind, id)},`), ']'],
  }
}

/** A module that keeps by part what their folders have in one TypeScript file. */
function tableOf(type, exported, file) {
  const ids = holding('parts', file)
  return [
    SUM, `import type { ${type} } from '../shapes/${type === 'PartChip' ? 'chip' : 'program'}'`,
    ...ids.map(id => `import ${named('parts', id)} from '../parts/${id}/${file.replace(/\.ts$/, '')}'`),
    '', `export const ${exported}: Readonly<Record<string, ${type}>> = {`,
    ...ids.map(id => `  '${id}': ${named('parts', id)},`), '}',
  ]
}

function write(name, lines) {
  const target = fileURLToPath(new URL(`generated/${name}.ts`, root))
  const text = `${lines.join('\n')}\n`
  if (!existsSync(target) || readFileSync(target, 'utf8') !== text) writeFileSync(target, text)
}

/** Brings `core/catalogue/generated/` up to the folders there are; files that are right are left alone. */
export function writeCatalogueIndex() {
  mkdirSync(new URL('generated/', root), { recursive: true })
  const lists = Object.entries(KINDS).map(([kind, file]) => {
    for (const id of folders(kind)) {
      if (!existsSync(new URL(`${kind}/${id}/${file}`,
        root))) throw new Error(`core/catalogue/${kind}/${id} has no ${file}`)
    }
    return listOf(kind, kind, file, folders(kind))
  })
  write('entries', [SUM, ...lists.flatMap(({ imports }) => imports), ...lists.flatMap(({ body }) => ['', ...body])])
  const overlays = listOf('overlays', 'parts', 'overlays.json', holding('parts', 'overlays.json'))
  write('overlays', [SUM, ...overlays.imports, '', ...overlays.body])
  write('programs', tableOf('PartProgram', 'PROGRAMS', 'program.ts'))
  write('chips', tableOf('PartChip', 'CHIPS', 'chip.ts'))
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeCatalogueIndex()
