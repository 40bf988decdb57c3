import { describe, expect, it } from 'vitest'
import { tokensOf, type Grammar } from '../../../core/boot/dialects/tokens'

/** The pieces of a line with their kinds, blanks left out: `key:gpu_mem sign:= number:64`. */
const coloured = (line: string, grammar: Grammar) => tokensOf(line, grammar).filter(token => token.kind !== 'blank')
  .map(token => `${token.kind}:${line.slice(token.from, token.to)}`)
  .join(' ')

const LINES: [grammar: Grammar, line: string, pieces: string][] = [
  ['key-value', 'gpu_mem=64', 'key:gpu_mem sign:= number:64'],
  ['key-value', '  enable_uart = 1', 'key:enable_uart  sign:= number: 1'],
  ['key-value', 'kernel=vmlinuz', 'key:kernel sign:= value:vmlinuz'],
  ['key-value', '# a note = 1', 'comment:# a note = 1'],
  ['key-value', '[all]', 'section:[all]'],
  ['key-value', 'dtparam=i2c_arm=on,spi', 'key:dtparam sign:= word:i2c_arm sign:= value:on sign:, word:spi'],
  ['key-value', 'dtoverlay=w1-gpio,gpiopin=0x4',
    'key:dtoverlay sign:= name:w1-gpio sign:, word:gpiopin sign:= number:0x4'],
  ['key-value', 'dtoverlay=', 'key:dtoverlay sign:='],
  ['key-value', 'include more.txt', 'key:include value:more.txt'],
  ['key-value', 'what is this', 'junk:what value:is this'],
  ['extlinux', '  fdtoverlays /a.dtbo /b.dtbo', 'key:fdtoverlays value:/a.dtbo /b.dtbo'],
  ['extlinux', 'LABEL main', 'key:LABEL value:main'],
  ['extlinux', 'kernle /x', 'junk:kernle value:/x'],
  ['environment', 'overlays=i2c0 uart1', 'key:overlays sign:= value:i2c0 uart1'],
  ['environment', 'verbosity=1', 'key:verbosity sign:= number:1'],
  ['command-line', 'root=/dev/x quiet loglevel=3',
    'key:root sign:= value:/dev/x key:quiet key:loglevel sign:= number:3'],
  ['command-line', 'init="/bin/sh -x" ro', 'key:init sign:= value:"/bin/sh -x" key:ro'],
  ['source', '/dts-v1/;', 'section:/dts-v1/ sign:;'],
  ['source', '\tbus: i2c@1 { // first', 'name:bus sign:: word:i2c@1 sign:{ comment:// first'],
  ['source', '\treg = <0x68 12>;', 'key:reg sign:= sign:< number:0x68 number:12 sign:> sign:;'],
  ['source', '\tcompatible = "a,b";', 'key:compatible sign:= string:"a,b" sign:;'],
  ['source', '&i2c1 { };', 'name:&i2c1 sign:{ sign:} sign:;'],
  ['source', 'x = <&{/soc/a}>;', 'key:x sign:= sign:< name:&{/soc/a} sign:> sign:;'],
  ['source', '/* open', 'comment:/* open'],
]

describe('the colours of a line', () => {
  it.each(LINES)('of the %s grammar: %s', (grammar, line, pieces) => {
    expect(coloured(line, grammar)).toBe(pieces)
  })

  it('are none for an empty line', () => {
    for (const grammar of ['key-value', 'extlinux', 'environment', 'command-line', 'source'] as const) {
      expect(tokensOf('', grammar)).toEqual([])
    }
  })

  it('pass over a byte-order mark and a carriage return that stands alone', () => {
    expect(coloured('\uFEFFgpu_mem=64', 'key-value')).toBe('key:gpu_mem sign:= number:64')
    expect(tokensOf('\r', 'key-value').map(token => token.kind)).toEqual(['blank'])
  })
})
