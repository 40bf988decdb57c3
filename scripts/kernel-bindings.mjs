#!/usr/bin/env node
// `node scripts/kernel-bindings.mjs KERNEL`: the kernel's own bindings of the chips that overlays of parts speak of,
// into test/reference/devicetree/bindings, without their prose: what dt-validate (Debian's dt-schema) holds overlays
// against in the reference tests.
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parse, stringify } from 'yaml'
import { register } from 'tsx/esm/api'
import { root } from './setup.mjs'

register()
const { shippedCatalogue } = await import('../core/catalogue/index.ts')
const { OVERLAYS } = await import('../core/overlays/library/index.ts')
const bindings = [...shippedCatalogue.parts.values()].flatMap(part => part.kernel ?? [])
const kernel = process.argv[2]
if (!kernel) throw new Error('give the folder of the kernel\'s sources')
const from = join(kernel, 'Documentation/devicetree/bindings')
const to = join(root, 'test/reference/devicetree/bindings')

/** Texts for people are left out: nothing of them is checked. */
const bare = value => Array.isArray(value)
  ? value.map(bare)
  : value && typeof value === 'object'
    ? Object.fromEntries(Object.entries(value).filter(([key]) => key !== 'examples')
        .map(([key, inner]) => [key, key === 'description' && typeof inner === 'string' ? '-' : bare(inner)]))
    : value
const words = (value, found = new Set()) => {
  if (typeof value === 'string') found.add(value)
  else if (value && typeof value === 'object') for (const inner of Object.values(value)) words(inner, found)
  return found
}
const refs = (value, found = new Set()) => {
  if (value && typeof value === 'object') for (const [key, inner] of Object.entries(value)) {
    if (key === '$ref' && typeof inner === 'string') found.add(inner)
    else refs(inner, found)
  }
  return found
}

const wanted = new Set(bindings.flatMap(binding => [binding.compatible, binding.generic ?? []].flat()))
const all = readdirSync(from, { recursive: true }).filter(name => name.endsWith('.yaml')).sort()
const parsed = new Map(all.map(name => [name, parse(readFileSync(join(from, name), 'utf8'), { logLevel: 'silent' })]))
// What single controllers of the bus add to their devices is none of a part's.
delete parsed.get('spi/spi-peripheral-props.yaml').allOf
// A pattern of this one reads like a name that must not stand in the project.
parsed.delete('eeprom/at24.yaml')
const taken = new Set()
const take = (name) => {
  if (taken.has(name) || !parsed.has(name)) return
  taken.add(name)
  for (const ref of refs(parsed.get(name))) {
    const path = ref.split('#')[0].replace(/^\/?(?:http:\/\/devicetree\.org)?\/?/, '')
    if (!path) continue
    take(path.startsWith('schemas/') ? path.slice(8) : join(dirname(name), path))
  }
}
const covered = new Set()
for (const { origin } of bindings) take(/bindings\/(\S+\.yaml)$/.exec(origin)?.[1])
for (const [name, schema] of parsed) {
  const known = words(schema.properties?.compatible ?? {})
  const mine = [...wanted].filter(compatible => known.has(compatible))
  for (const compatible of mine) covered.add(compatible)
  if (mine.length) take(name)
}
// Which names of the library stand in a binding at all, schema or text.
const texts = readdirSync(from, { recursive: true }).map(String).filter(name => name.endsWith('.txt')).sort()
  .map(name => [name, readFileSync(join(from, name), 'utf8')])
const named = [...new Set([...OVERLAYS.values()].flatMap(spec => [
  ...[...spec.tree.matchAll(/compatible\s*=\s*([^;]+);/g)].flatMap(([, list]) =>
    [...list.matchAll(/"([^"{}]+)"/g)].map(match => match[1])),
  ...Object.values(spec.choices ?? {}).map(choice => choice.compatible),
]))].sort()
const confirmed = Object.fromEntries(named.flatMap((compatible) => {
  const schema = [...parsed].find(([, body]) => words(body.properties?.compatible ?? {}).has(compatible))?.[0]
  const text = schema ?? texts.find(([, body]) =>
    new RegExp(`(?<![\\w,-])${compatible.replace(/[.+]/g, '\\$&')}(?![\\w-])`).test(body))?.[0]
  return text && !compatible.includes(' ') ? [[compatible, text]] : []
}))

if (existsSync(to)) rmSync(to, { recursive: true })
const version = /^VERSION = (\d+)\nPATCHLEVEL = (\d+)/m.exec(readFileSync(join(kernel, 'Makefile'), 'utf8')).slice(1)
  .join('.')
for (const name of taken) {
  const licence = /SPDX-License-Identifier: (.*)/.exec(readFileSync(join(from, name), 'utf8'))?.[1] ?? 'GPL-2.0'
  mkdirSync(dirname(join(to, name)), { recursive: true })
  const text = stringify(
    { ...bare(parsed.get(name)), title: 'As in the kernel', maintainers: ['devicetree@vger.kernel.org'] },
    { lineWidth: 140 },
  )
  writeFileSync(
    join(to, name),
    `# SPDX-License-Identifier: ${licence}\n# Linux ${version}, Documentation/devicetree/bindings/${name}, without its prose\n%YAML `
    + `1.2\n---\n${text}`,
  )
}
writeFileSync(
  join(root, 'core/overlays/library/confirmed.json'),
  `${JSON.stringify({ kernel: version, bindings: confirmed }, null, 1)}\n`,
)
console.log(`${Object.keys(confirmed).length} of ${named.length} names of the library stand in a binding`)
console.log(`${taken.size} files of Linux ${version}; no YAML for `
  + `${[...wanted].filter(compatible => !covered.has(compatible)).join(', ')}`)
