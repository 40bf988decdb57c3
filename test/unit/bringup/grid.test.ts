import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareScan, readGrid } from '../../../core/bringup/grid'

/** Prints a grid as the tool does: three characters a cell, first and last addresses left out. */
function printGrid(cells: Map<number, string>, first = 0x08): string {
  const rows = ['     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f']
  for (let row = 0; row < 0x80; row += 16) {
    let text = `${row.toString(16).padStart(2, '0')}:`
    for (let address = row; address < row + 16; address++) text += address < first || address > 0x77
      ? '   '
      : ` ${cells.get(address) ?? '--'}`
    rows.push(text)
  }
  return rows.join('\n')
}

const answers = fc.uniqueArray(fc.integer({ min: 0x08, max: 0x77 }), { maxLength: 20 })
  .chain(list => fc.tuple(fc.constant(list),
    fc.array(fc.boolean(), { minLength: list.length, maxLength: list.length })))

describe('reading a scan', () => {
  it('finds exactly the addresses that were printed, whatever stands around and however the lines end', () => {
    fc.assert(fc.property(answers, fc.constantFrom(0x03, 0x08), fc.constantFrom('\n', '\r\n'),
      fc.constantFrom('', '$ i2cdetect -y 1\n'), (
        [list, held], first, ending, prompt,
      ) => {
        const cells = new Map(list.map((address,
          i) => [address, held[i] ? 'UU' : address.toString(16).padStart(2, '0')]))
        const text = (prompt + printGrid(cells, first)).replaceAll('\n', ending)
        const grid = readGrid(text)
        expect(grid).toMatchObject({ ok: true })
        expect(grid.ok && grid.answers).toEqual([...cells].sort(([a], [b]) => a - b)
          .map(([address, cell]) => ({ address, held: cell === 'UU' })))
        expect(grid.ok && grid.tested.length).toBe(0x78 - first)
      }))
  })

  it('reads a grid whose trailing blanks were cut or whose blanks were squeezed', () => {
    const text = printGrid(new Map([[0x08, '08'], [0x76, '76']]))
    for (const mangled of [text.replace(/ +$/gm, ''), text.replace(/ +/g, ' ')]) {
      const grid = readGrid(mangled)
      expect(grid.ok && grid.answers.map(answer => answer.address)).toEqual([0x08, 0x76])
    }
  })

  it('says what is wrong with text that is no grid, or whose columns have slipped', () => {
    expect(readGrid('Error: Could not open file /dev/i2c-1'))
      .toMatchObject({ ok: false, message: expect.stringContaining('i2cdetect -y') })
    expect(readGrid('40: -- -- 41 --')).toMatchObject({ ok: false, message: expect.stringContaining('"41"') })
  })

  it('never throws', () => {
    fc.assert(fc.property(fc.string(), text => typeof readGrid(text).ok === 'boolean'))
  })

  it('tells there, missing, unexpected and not asked apart', () => {
    const grid = readGrid(printGrid(new Map([[0x3C, '3c'], [0x68, 'UU'], [0x77, '77']])))
    const verdict = grid.ok
      ? compareScan(grid.answers, grid.tested,
          [0x3C, 0x68, 0x76, 0x03].map(address => ({ address, names: [`part ${address}`] })))
      : null
    expect(verdict).toMatchObject({
      present: [{ address: 0x3C, held: false }, { address: 0x68, held: true }],
      missing: [{ address: 0x76 }], unexpected: [{ address: 0x77 }], untested: [{ address: 0x03 }],
    })
  })
})
