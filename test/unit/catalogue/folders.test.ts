/**
 * Law: one row, one part. A part, a board, a supply, a power item is one folder, and nothing else in the core
 * knows its name.
 */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { CHIPS } from '../../../core/catalogue/generated/chips'
import { PROGRAMS } from '../../../core/catalogue/generated/programs'
import { offeredFuse, offeredItem, offeredSupply } from '../../../core/catalogue/offered'
import { catalogue } from '../../plans'

const ROOT = 'core/catalogue'
const KINDS = {
  boards: { file: 'board.json', entries: catalogue.boards }, parts: { file: 'part.json', entries: catalogue.parts },
  supplies: { file: 'supply.json', entries: catalogue.supplies },
  power: { file: 'item.json', entries: catalogue.powerItems },
}
const MAY_BRING: Readonly<Record<string, readonly string[]>> = { parts: ['chip.ts', 'overlays.json', 'program.ts'] }

const filesBelow = (folder: string): string[] => readdirSync(folder, { withFileTypes: true })
  .flatMap(entry => entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)])

/** Names of kinds in the plan's own vocabulary that are spelled like an entry, with where they are declared. */
const KIND_NAMES: Readonly<Record<string, string>> = { 'rs232-converter': 'core/plan/shape.ts: what may stand in a wire' }

describe('a folder of the catalogue', () => {
  it.each(Object.entries(KINDS))('of %s holds its entry under its id, and nothing that nobody reads',
    (kind, { file, entries }) => {
      const folders = readdirSync(join(ROOT, kind))
      expect(folders.toSorted()).toEqual([...entries.keys()].toSorted())
      for (const id of folders) {
        const files = readdirSync(join(ROOT, kind, id))
        expect(files, id).toContain(file)
        expect(files.filter(name => name !== file && !MAY_BRING[kind]?.includes(name)), id).toEqual([])
        expect((JSON.parse(readFileSync(join(ROOT, kind, id, file), 'utf8')) as { id: string }).id).toBe(id)
      }
    })

  it('is the one place in the core that knows its name', () => {
    const ids = new Set(Object.values(KINDS).flatMap(({ entries }) => [...entries.keys()]))
    const known = (path: string) =>
      [...Object.keys(KINDS), 'starters', 'generated'].some(kind => path.startsWith(join(ROOT, kind) + '/'))
    const named = filesBelow('core').filter(path => path.endsWith('.ts') && !known(path)).flatMap((path) => {
      const text = readFileSync(path, 'utf8')
      const words = [...text.matchAll(/['"`]([a-z0-9]+(?:-[a-z0-9]+)*)['"`]|^\s*([a-z0-9]+(?:-[a-z0-9]+)+):/gm)].map(([, a, b]) => a ?? b!)
      return [...new Set(words)].filter(word => ids.has(word) && !(word in KIND_NAMES)).map(word => `${path}: ${word}`)
    })
    expect(named).toEqual([])
  })

  it('names other parts only where there are such', () => {
    for (const part of catalogue.parts.values()) {
      const others = [...part.byWires?.parts ?? [], ...part.called?.severalOf ? [part.called.severalOf] : []]
      expect(others.filter(id => !catalogue.parts.has(id)), part.id).toEqual([])
    }
  })

  it('says of terminals only what the part has', () => {
    for (const { id, signals, answers, called, holdsSupply } of catalogue.parts.values()) {
      const own = new Set(signals.flatMap(signal => signal.repeat ? [signal.id, `${signal.id}1`] : [signal.id]))
      const named = [
        ...answers ? answers.by === 'echo' ? [answers.trigger, answers.echo] : [answers.data, answers.clock] : [],
        ...Object.keys(called?.terminals ?? {}), ...holdsSupply ? [holdsSupply] : [],
        ...called?.terminal ? [`${called.terminal}1`] : [],
      ]
      expect(named.filter(terminal => !own.has(terminal)), id).toEqual([])
    }
  })
})

describe('what a part brings beside its figures', () => {
  it('is for a bus that it has', () => {
    for (const [id, { i2c, spi }] of Object.entries(PROGRAMS)) {
      const part = catalogue.parts.get(id)!
      expect([id, !i2c || !!part.i2c, !spi || !!part.spi]).toEqual([id, true, true])
      for (const need of spi?.needs ?? []) expect(part.signals.map(signal => signal.id), id).toContain(need)
    }
    for (const [id, { registers, spi }] of Object.entries(CHIPS)) {
      const part = catalogue.parts.get(id)!
      expect([id, !registers || !!part.i2c, !spi || !!part.spi]).toEqual([id, true, true])
    }
  })

  it('names itself alike in its program and in its registers, where it has both', () => {
    const state = { of: () => 20, now: new Date(0), written: () => undefined }
    for (const [id, { i2c }] of Object.entries(PROGRAMS)) {
      const registers = CHIPS[id]?.registers
      if (i2c?.who && registers) expect([id, registers.at(i2c.who.register, state)]).toEqual([id, i2c.who.value])
    }
  })
})

describe('what fixes offer', () => {
  it('is there for every use, one of a kind but for fuses', () => {
    const uses = [...catalogue.powerItems.values(), ...catalogue.supplies.values()].flatMap(({ inFixes }) =>
      inFixes ?? [])
    const single = uses.filter(use => use !== 'fuse')
    expect(new Set(single).size).toBe(single.length)
    for (const use of ['diode', 'bridge', 'step-up', 'step-down', 'step-up-down', 'regulator-3v3', 'hub'] as const) {
      expect(offeredItem(catalogue, use), use).toBeDefined()
    }
    expect(offeredSupply(catalogue, 'hub-adapter')).toBeDefined()
    // Published: IEC 60127-2, sheet 2: the preferred ratings between 2 and 5 A.
    const offered = [1500, 2000, 2001, 3151, 5001].map(ma => offeredFuse(catalogue, ma)?.figures.ratedMa)
    expect(offered).toEqual([2000, 2000, 3150, 5000, undefined])
  })
})
