/** The rooms of the core: arrows run one way, and nothing in it knows of the interface. */
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { CODES } from '../../core/vocabulary/codes'

const root = resolve('core')
const filesIn = (folder: string): string[] => readdirSync(folder).flatMap((name) => {
  const path = join(folder, name)
  return statSync(path).isDirectory() ? filesIn(path) : path.endsWith('.ts') ? [path] : []
})
const files = filesIn(root)
/** Folder below `core`, or the file itself where it lies there. */
const roomOf = (file: string) => relative(root, file).split('/')[0]!.replace(/\.ts$/, '')
const importsOf = (file: string) =>
  [...readFileSync(file, 'utf8').matchAll(/(?:from|import)\s*\(?'([^']+)'/g)].map(match => match[1]!)

const arrows = new Map<string, Set<string>>()
for (const file of files) {
  for (const to of importsOf(file).filter(path => path.startsWith('.'))
    .map(path => roomOf(resolve(dirname(file), path)))) {
    const from = roomOf(file)
    if (from !== to) arrows.set(from, (arrows.get(from) ?? new Set()).add(to))
  }
}

/** A way from a room back to itself; null where there is none. */
function circleFrom(start: string): string[] | null {
  const seen = new Set<string>()
  const walk = (at: string, trail: string[]): string[] | null => {
    for (const next of arrows.get(at) ?? []) {
      if (next === start) return [...trail, next]
      if (seen.has(next)) continue
      seen.add(next)
      const found = walk(next, [...trail, next])
      if (found) return found
    }
    return null
  }
  return walk(start, [start])
}

describe('the rooms of the core', () => {
  it('are found', () => {
    expect(files.length).toBeGreaterThan(150)
    expect([...arrows.keys()]).toEqual(expect.arrayContaining(['findings', 'netlist', 'boot', 'placement']))
  })

  it.each([...arrows.keys()])('%s leads back to itself by no way', (room) => {
    expect(circleFrom(room)).toBeNull()
  })

  it('have no circle of files, whether of code or of types', () => {
    const known = new Set(files)
    const uses = new Map(files.map(file => [file, importsOf(file).filter(path => path.startsWith('.'))
      .map(path => resolve(dirname(file), path))
      .flatMap(path => [`${path}.ts`, join(path, 'index.ts')].filter(candidate => known.has(candidate)))]))
    const state = new Map<string, 'open' | 'done'>()
    const circles: string[] = []
    const visit = (file: string, trail: string[]): void => {
      if (state.get(file) === 'open') {
        circles.push([...trail.slice(trail.indexOf(file)), file].map(path => relative(root, path)).join(' → '))
      }
      if (state.has(file)) return
      state.set(file, 'open')
      for (const next of uses.get(file)!) visit(next, [...trail, file])
      state.set(file, 'done')
    }
    for (const file of files) visit(file, [])
    expect(circles).toEqual([])
  })

  it('write and read ids of things in one file', () => {
    const byHand = /['`](?:splice[:@]|stage:|node:[$@'])|#usb|startsWith\('@(?:P|join)/
    // The types say what ids look like; what hands a list of Node.js over says `node:` of a package.
    const free = new Set(['plan/ids.ts', 'netlist/types.ts', 'plan/mentions.ts'])
    expect(files.filter(file => !free.has(relative(root, file)) && byHand.test(readFileSync(file, 'utf8')))
      .map(file => relative(root, file))).toEqual([])
  })

  it('hold every file but the pipeline: nothing lies loose on the floor', () => {
    expect(readdirSync(root).filter(name => name.endsWith('.ts'))).toEqual(['evaluate.ts'])
  })

  it('use no interface, no server and no browser', () => {
    const foreign = files.flatMap(file => importsOf(file).filter(path =>
      /^(vue|nuxt|pinia|vuetify|dexie|#|~|@\/)/.test(path)
      || (path.startsWith('.') && !resolve(dirname(file), path).startsWith(root)))
      .map(path => `${relative(root, file)}: ${path}`))
    expect(foreign).toEqual([])
  })

  it('use every code of the table of findings, each in one room', () => {
    const rooms = new Map<string, Set<string>>()
    for (const file of files.filter(path => !path.endsWith('codes.ts'))) {
      for (const [, word] of readFileSync(file, 'utf8').matchAll(/'([a-z0-9]+\.[a-z0-9-]+)'/g)) {
        if (word! in CODES) rooms.set(word!, (rooms.get(word!) ?? new Set()).add(roomOf(file)))
      }
    }
    expect(Object.keys(CODES).filter(code => !rooms.has(code))).toEqual([])
    expect([...rooms].filter(([, where]) => where.size > 1).map(([code]) => code)).toEqual([])
  })
})

describe('the list of checks against something outside', () => {
  it('is that of the tests: renew it with node scripts/checks-table.mjs', async () => {
    const { checksTable } = await import(/* @vite-ignore */ resolve('scripts',
      'checks-table.mjs')) as { checksTable: () => string }
    expect(readFileSync(join('docs', 'checks.md'), 'utf8')).toBe(checksTable())
  })
})

describe('the interface', () => {
  const vues = (folder: string): string[] => readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? vues(path) : path.endsWith('.vue') ? [path] : []
  })
  const all = vues(resolve('app'))
    .map(path => ({ path: relative(resolve('app'), path), text: readFileSync(path, 'utf8') }))
  const templateOf = (text: string) => text.slice(text.indexOf('<template>'), text.lastIndexOf('</template>'))

  it('has native controls in its own drawing of the header only', () => {
    const native = all.filter(({ text }) =>
      /<(select|input|button|table|textarea|details|dialog|progress)[\s>]/.test(templateOf(text)))
    expect(native.map(({ path }) => path)).toEqual(['stages/wiring/HeaderRail.vue'])
  })

  it('shares controls that know nothing of the project', () => {
    const shared = all.filter(({ path }) => path.startsWith('shared/'))
    expect(shared.length).toBeGreaterThan(8)
    expect(shared.filter(({ text }) => text.includes('useProjectStore')).map(({ path }) => path)).toEqual([])
  })

  it('has no hint that only a mouse can see', () => {
    const native = all.filter(({ text }) =>
      /<(?!v-|FoldPanel|[A-Z])[a-z]+[^>]*\s:?title="/.test(templateOf(text).replace(/<iframe[^>]*>/g, '')))
    expect(native.map(({ path }) => path)).toEqual([])
  })
})
