import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseCommandLine, printCommandLine, withoutWord } from '../../../core/boot/dialects/command-line'
import { parseEnvironment, printEnvironment } from '../../../core/boot/dialects/environment'
import { parseMenu, printMenu, startedEntry } from '../../../core/boot/dialects/extlinux'
import { parseBoot, printBoot } from '../../../core/boot/dialects/key-value'
import { joinLines, splitLines } from '../../../core/boot/dialects/lines'
import { tellDialect, tellFile } from '../../../core/boot/dialects/tell'
import { tokensOf, type Grammar } from '../../../core/boot/dialects/tokens'
import { anyBootText } from '../../bootfiles'
import { draws } from '../../random'

const bytes = (text: string) => new TextEncoder().encode(text)

const MENU = `# boot menu
default garden
timeout 30

label garden
    menu label Garden hut
    linux /vmlinuz
    fdtdir /dtbs
    fdtoverlays /overlays/clock.dtbo /overlays/fan.dtbo
    append root=/dev/mmcblk0p2 rootwait

label old
    kernel /vmlinuz.old
`

describe('a boot file of any dialect', () => {
  it('is printed exactly as it was read, whatever it holds', () => {
    fc.assert(fc.property(fc.oneof(anyBootText, fc.string(), fc.string({ unit: 'binary' })), (text) => {
      expect(joinLines(splitLines(text))).toBe(text)
      expect(printBoot(parseBoot(text))).toBe(text)
      expect(printMenu(parseMenu(text))).toBe(text)
      expect(printEnvironment(parseEnvironment(text))).toBe(text)
      expect(printCommandLine(parseCommandLine(text))).toBe(text)
    }), { numRuns: draws(600) })
  })

  it('is printed as it was read at five megabytes, with a mark, tabs, both line endings and none at the end', () => {
    const text = `\uFEFF\t# first\r\n${'dtparam=i2c_arm=on\r\n\tdtoverlay=w1-gpio,gpiopin=4\n   \n'.repeat(110_000)}last=1`
    expect(text.length).toBeGreaterThan(5e6)
    expect(printBoot(parseBoot(text))).toBe(text)
    expect(printMenu(parseMenu(text))).toBe(text)
    expect(printEnvironment(parseEnvironment(text))).toBe(text)
  })

  it('has its pieces where the lines say they are', () => {
    fc.assert(fc.property(anyBootText, (text) => {
      for (const line of parseBoot(text)) {
        expect(text.slice(line.from, line.from + line.text.length)).toBe(line.text)
        for (const param of line.params ?? []) if (param.name) {
          expect(line.text.slice(param.from, param.to).startsWith(param.name)).toBe(true)
        }
        if (line.kind === 'setting') expect(line.text.slice(line.valueAt).trimEnd()).toBe(line.value)
      }
      for (const { name, value, from, to } of parseCommandLine(text).words) {
        expect(text.slice(from, to)).toBe(value === null ? name : `${name}=${value}`)
      }
    }))
  })

  it('is coloured in pieces that follow each other and cover each line', () => {
    const grammar = fc.constantFrom<Grammar>('key-value', 'extlinux', 'environment', 'command-line', 'source')
    fc.assert(fc.property(fc.oneof(anyBootText, fc.string()), grammar, (text, kind) => {
      for (const { text: line } of splitLines(text)) {
        const tokens = tokensOf(line, kind)
        expect(tokens.map(token => line.slice(token.from, token.to)).join('')).toBe(line)
        tokens.forEach((token, i) => expect(token.from).toBe(i === 0 ? 0 : tokens[i - 1]!.to))
      }
    }), { numRuns: draws(300) })
  })
})

describe('the menu file', () => {
  it('knows which entry starts, and what belongs to it', () => {
    const lines = parseMenu(MENU)
    expect(startedEntry(lines)).toBe('garden')
    expect(lines.filter(line => line.entry === 'old').map(line => line.keyword)).toEqual(['label', 'kernel'])
    expect(lines.find(line => line.keyword === 'menu label')?.value).toBe('Garden hut')
    expect(startedEntry(parseMenu('label a\n linux /x\nlabel b\n menu default\n linux /y\n'))).toBe('b')
    expect(startedEntry(parseMenu('# nothing'))).toBe(null)
  })
})

describe('the kernel command line', () => {
  it('keeps what stands in quotes together and says where a second line begins', () => {
    expect(parseCommandLine('a="b c" d\n').words.map(word => word.name)).toEqual(['a', 'd'])
    expect(parseCommandLine('a b\nc').secondLineAt).toBe(4)
    expect(parseCommandLine('a b\n').secondLineAt).toBe(null)
  })

  it('loses a word with one blank beside it and nothing else', () => {
    const text = 'console=serial0,115200 console=tty1  root=/dev/x'
    const without = (i: number) => withoutWord(text, parseCommandLine(text).words[i]!)
    expect(without(0)).toBe('console=tty1  root=/dev/x')
    expect(without(2)).toBe('console=serial0,115200 console=tty1')
    fc.assert(fc.property(fc.array(fc.constantFrom('a', 'b=1', 'c="x y"'), { minLength: 1, maxLength: 5 }), fc.nat(4),
      (words, i) => {
        const line = words.join(' ')
        const parsed = parseCommandLine(line).words
        expect(parseCommandLine(withoutWord(
          line, parsed[i % parsed.length]!,
        )).words.map(word => word.name)).toEqual(parsed.filter((_, n) => n !== i % parsed.length)
          .map(word => word.name))
      }))
  })
})

describe('files that are dropped', () => {
  it('sort themselves by name and contents', () => {
    const kinds: [string, string, string][] = [
      ['config.txt', '', 'key-value'], ['boot.txt', 'dtparam=i2c_arm=on\n', 'key-value'],
      ['extlinux.conf', MENU, 'extlinux'],
      ['menu', MENU, 'extlinux'],
      ['someEnv.txt', 'verbosity=1\noverlays=i2c0 uart1\n', 'environment'],
      ['list', 'overlays=i2c0\nuser_overlays=clock\n', 'environment'],
      ['cmdline.txt', 'root=/dev/mmcblk0p2 rootwait', 'command-line'],
      ['line', 'console=tty1 root=/dev/mmcblk0p2 rootwait quiet\n', 'command-line'],
      ['clock.dts', '/dts-v1/;\n/plugin/;\n', 'tree-source'], ['plan.json', '{"format": "voltaris-plan"}', 'plan'],
      ['picture.png', '\u0089PNG\u0000\u0001', 'unknown'], ['letter.md', 'Dear garden,\nall is well.\n', 'unknown'],
    ]
    for (const [name, text, kind] of kinds) expect([name, tellFile(name, bytes(text))]).toEqual([name, kind])
    expect(tellFile('x.dtb', Uint8Array.from([0xD0, 0x0D, 0xFE, 0xED, 0, 0]))).toBe('tree-blob')
    expect(tellFile('x', Uint8Array.from([0xD0, 0x0D, 0xFE, 0xED, ...bytes('__overlay__')]))).toBe('overlay-blob')
    expect(tellDialect('')).toBe('key-value')
  })

  it('are told whatever bytes they are', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 400 }), fc.string({ maxLength: 12 }), (content, name) => {
      expect(typeof tellFile(name, content)).toBe('string')
    }))
  })
})
