/**
 * Overlays made for parts against the kernel's own bindings, by Debian's `dt-validate` (dt-schema), which the set-up
 * installs. The bindings are those of Linux 6.1 without their prose, in `devicetree/bindings`;
 * `scripts/kernel-bindings.mjs` takes them from a kernel's sources.
 */
import { createHash } from 'node:crypto'
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parse } from 'yaml'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMANDS } from '../../core/boot/rehearse/demands'
import { baseFor } from '../../core/boot/rehearse/rehearse'
import { startDevices } from '../../core/boot/rehearse/kernel'
import { writeBlob } from '../../core/devicetree/blob/write'
import { applyOverlay } from '../../core/devicetree/overlay/apply'
import { compileText } from '../../core/devicetree/source/compile'
import { gatherFacts } from '../../core/facts/gather'
import { overlayForPart, treeOf } from '../../core/overlays/write'
import { placed } from '../generated'
import { bindings, catalogue, planOf } from '../plans'

const BINDING_FILES = fileURLToPath(new URL('devicetree/bindings', import.meta.url))
const folder = mkdtempSync(join(tmpdir(), 'voltaris-bindings-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** What the validator says that is no fault of ours, with why. */
const KNOWN: [part: string, words: RegExp, why: string][] = [
  [
    'pressure-spi', /'spi-max-frequency' does not match/,
    'the binding of 6.1 forgets that the chip lies on SPI too, as its driver bmp280-spi.c has it',
  ],
  [
    'screen-spi-24', /compatible:0: 'voltaris-p' is not one of|not allowed \('compatible' was unexpected\)/,
    'the first name is that of the file of start commands, one for each panel',
  ],
  [
    'screen-spi-13', /compatible:0: 'voltaris-p' is not one of|not allowed \('compatible' was unexpected\)/,
    'the first name is that of the file of start commands, one for each panel',
  ],
]

/** Each part with a binding, alone on a board, with its overlay on the base. */
function made(board: string) {
  return [...catalogue.parts.values()].flatMap((part) => {
    if (!part.kernel) return []
    const plan = placed(planOf(board, { p: part.id }))
    if (!plan) return []
    const facts = gatherFacts(plan, catalogue)
    const overlay = overlayForPart(facts, facts.parts[0]!)
    if (!overlay.ok) return []
    return [{ part: part.id, facts,
      tree: applyOverlay(baseFor(facts.board), compileText(overlay.source, { symbols: true })) }]
  })
}

describe('an overlay made for a part', () => {
  const board = 'forty-usb-c'
  let said: Map<string, string[]>
  let parts: ReturnType<typeof made>
  beforeAll(() => {
    parts = made(board)
    const schema = join(folder, 'schema.json')
    writeFileSync(
      schema, execFileSync('/usr/bin/dt-mk-schema', ['-j', BINDING_FILES],
        { stdio: ['ignore', 'pipe', 'ignore'], maxBuffer: 1 << 26 }),
    )
    for (const { part, tree } of parts) writeFileSync(join(folder, `${part}.dtb`), writeBlob(tree))
    const { stdout, stderr } = spawnSync(
      '/usr/bin/dt-validate', [
        '-s', schema, ...parts.map(({ part }) => join(folder, `${part}.dtb`)),
      ], { encoding: 'utf8', maxBuffer: 1 << 26 },
    )
    said = new Map()
    for (const line of `${stdout}${stderr}`.split('\n')) {
      const [, part, text] = /([\w-]+)\.dtb: (.*)$/.exec(line) ?? []
      // The base's own lamp is none of the part's.
      if (part && text && !text.startsWith('leds: \'act\'')) said.set(part, [...said.get(part) ?? [], text])
    }
  })

  it('is as its binding wants it, for every part that has one', () => {
    expect(parts.length).toBeGreaterThan(50)
    const faults = [...said].flatMap(([part, texts]) => texts
      .filter(text => !KNOWN.some(([of, words]) => of === part && words.test(text)))
      .map(text => `${part}: ${text}`))
    expect(faults).toEqual([])
    // What is known is still there: an exemption that nothing needs is taken out.
    expect(KNOWN.filter(([part, words]) => !said.get(part)?.some(text => words.test(text))).map(([part]) => part))
      .toEqual([])
  })

  it('is told when it is not', () => {
    const { tree } = parts.find(({ part }) => part === 'scale-two-wire')!
    const broken = { ...tree, root: structuredClone(tree.root) }
    const scale = broken.root.children.find(child => child.name.startsWith('scale'))!
    scale.properties = scale.properties.filter(property => property.name !== 'avdd-supply')
    writeFileSync(join(folder, 'broken.dtb'), writeBlob(broken))
    const { stdout, stderr } = spawnSync(
      '/usr/bin/dt-validate', ['-s', join(folder, 'schema.json'), join(folder, 'broken.dtb')], { encoding: 'utf8' },
    )
    expect(stdout + stderr).toMatch(/'avdd-supply' is a required property/)
  })

  it('has all that its driver wants, in the rehearsal too, on every board', () => {
    for (const id of catalogue.boards.keys()) {
      for (const { part, facts, tree } of made(id)) {
        const wants = [...startDevices(tree, treeOf(facts.board!).chips).nodes].flatMap(
          ([path, { wants }]) => wants ? `${id} ${part} ${path}: ${wants}` : [],
        )
        expect(wants).toEqual([])
      }
    }
  })

  it('names files of Linux 6.1 alone', () => {
    // Sums of the names of all binding files of Linux 6.1, as Debian's linux-source-6.1 has them: the first ten digits
    // of each SHA-256.
    const list = readFileSync(fileURLToPath(new URL('devicetree/binding-files.txt', import.meta.url)), 'utf8')
    const known = new Set(list.trim().split(/\s+/))
    const isKnown = (file: string) => known.has(createHash('sha256').update(file).digest('hex').slice(0, 10))
    for (const [id, { origin }] of Object.entries(bindings)) {
      const [, file] = /^published: Linux 6\.1, bindings\/(\S+\.(?:yaml|txt))$/.exec(origin) ?? []
      if (file) expect([id, isKnown(file)]).toEqual([id, true])
      else expect(origin).toMatch(/^memory$|^published: Linux 6\.1, drivers\/\S+\.c$/)
    }
    expect(bindings['pressure-humidity-i2c']?.origin).toMatch(/bmp085\.yaml$/)
  })
})

const requiredIn = (schema: unknown): string[] => schema && typeof schema === 'object'
  ? Object.entries(schema)
      .flatMap(([key, value]) => key === 'required' && Array.isArray(value) ? value.map(String) : requiredIn(value))
  : []

describe('what a driver wants', () => {
  it('is required by its binding, where that is a schema', () => {
    for (const demand of DEMANDS) {
      const [, file] = /^bindings\/(\S+\.yaml)$/.exec(demand.source) ?? []
      if (!file) continue
      const schema = parse(readFileSync(join(BINDING_FILES, file), 'utf8')) as unknown
      // Also what only some of its chips require.
      const required = new Set(requiredIn(schema))
      for (const wanted of demand.properties ?? []) {
        const names = typeof wanted === 'string' ? [wanted] : wanted
        expect(names.some(name => required.has(name)), `${file}: ${names.join()}`).toBe(true)
      }
    }
  })
})
