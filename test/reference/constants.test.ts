import { existsSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { BINDING_CONSTANTS } from '../../core/devicetree/source/constants'

/** published: the kernel's own header, from Debian's linux-libc-dev, which every C compiler there brings along. */
const HEADER = '/usr/include/linux/input-event-codes.h'

describe.skipIf(!existsSync(HEADER))('keys and buttons of the binding constants', () => {
  const codes = [
    ...readFileSync(HEADER, 'utf8')
      .matchAll(/^#define\s+((?:KEY|BTN|EV|REL|ABS|SW|LED|SND|MSC)_\w+)\s+(0x[0-9a-f]+|\d+)\b/gim),
  ].map(([, name, value]) =>
    [name!, Number(value)] as const)

  it('have the values of the kernel\'s header, as far as both know them', () => {
    const known = codes.filter(([name]) => name in BINDING_CONSTANTS)
    expect(known.length).toBeGreaterThan(500)
    for (const [name, value] of known) expect([name, BINDING_CONSTANTS[name]]).toEqual([name, value])
  })

  it('leave out none of the usual ones', () => {
    const names = new Set(Object.keys(BINDING_CONSTANTS))
    for (const [name, value] of codes) if (name.startsWith('KEY_')
      && value < 128) expect(names.has(name), name).toBe(true)
  })
})
