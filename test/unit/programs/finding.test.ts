/**
 * Two hundred small programs, configurations and tables, written for these tests, with what a reader finds in each
 * noted by hand. Forty (`c`, `d`, `j`, `p`, `s`) were written first; the others without looking at the code, to see how
 * far it carries: `m` are plain, as an example or a first program is.
 */
import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readProgram } from '../../../core/programs/reading'

const FOLDER = 'test/data/programs'
const EXPECTED = JSON.parse(readFileSync(`${FOLDER}/expected.json`,
  'utf8')) as Record<string, { numbering: string, found: string[] }>
const NAMES = readdirSync(FOLDER).filter(name => name.endsWith('.txt')).map(name => name.slice(0, -4))
const textOf = (name: string) => readFileSync(`${FOLDER}/${name}.txt`, 'utf8')
const foundIn = (name: string, as: { name?: string } = { name }) => {
  const { sightings, numbering } = readProgram(textOf(name), as)
  return sightings.map(({ line, kind, value, numbering: own }) =>
    `${line} ${kind} ${value}${own && own !== numbering ? ` ${own}` : ''}`)
}

/** How many of what is there were found, and how many of what was found are there. */
function scored(names: readonly string[], only: (entry: string) => boolean) {
  let [right, found, there] = [0, 0, 0]
  for (const name of names) {
    const expected = EXPECTED[name]!.found.filter(only)
    const got = foundIn(name).filter(only)
    right += expected.filter(entry => got.includes(entry)).length
    found += got.length
    there += expected.length
  }
  return { precision: right / found, recall: right / there, there }
}
const isPin = (entry: string) => entry.split(' ')[1] === 'pin'

describe('what stands in a program', () => {
  it('is noted for every one of them', () => {
    expect(Object.keys(EXPECTED).sort()).toEqual([...NAMES].sort())
    expect(NAMES).toHaveLength(217)
  })

  it('is found: pins with a precision and a recall of at least 0.95', () => {
    const { precision, recall, there } = scored(NAMES, isPin)
    expect(there).toBeGreaterThan(180)
    expect(precision).toBeGreaterThanOrEqual(0.95)
    expect(recall).toBeGreaterThanOrEqual(0.95)
  })

  it('is found: buses, addresses, rates and devices as well', () => {
    const { precision, recall, there } = scored(NAMES, entry => !isPin(entry))
    expect(there).toBeGreaterThan(70)
    expect(precision).toBeGreaterThanOrEqual(0.95)
    expect(recall).toBeGreaterThanOrEqual(0.95)
  })

  it.each(NAMES)('is counted as %s counts', (name) => {
    expect(readProgram(textOf(name), { name }).numbering).toBe(EXPECTED[name]!.numbering)
  })

  it('is found without the name of the file, but for a few whose language it takes', () => {
    const same = NAMES.filter(name => JSON.stringify(foundIn(name, {})) === JSON.stringify(foundIn(name)))
    expect(same.length / NAMES.length).toBeGreaterThanOrEqual(0.95)
  })
})

describe('a text as other systems write it', () => {
  it('says the same with other ends of lines and a mark before it, each thing at its place', () => {
    for (const name of NAMES) {
      const text = textOf(name)
      const other = `\uFEFF${text.replace(/\r?\n/g, '\r\n')}`
      const found = readProgram(other, { name }).sightings
      expect([name, found.map(({ line, kind, value }) => `${line} ${kind} ${value}`)])
        .toEqual([name, readProgram(text, { name }).sightings.map(({ line, kind, value }) =>
          `${line} ${kind} ${value}`)])
      for (const { from, to, kind, value } of found) {
        if (kind === 'pin' && /^\d+$/.test(other.slice(from, to))) expect(Number(other.slice(from, to))).toBe(value)
      }
    }
  })

  it('a sentence is read clause by clause', () => {
    const read = readProgram('Red wire to pin 2, black wire to pin 6, yellow to pin 11 (GPIO17), probe on GPIO 4')
    expect(read.sightings.map(({ value, numbering }) => `${numbering} ${value}`))
      .toEqual(['header 2', 'header 6', 'line 17', 'line 4'])
  })
})

describe('what does not count', () => {
  const pins = (text: string,
    name: string) => readProgram(text, { name }).sightings.filter(({ kind }) => kind === 'pin').map((
    { value }) => value)

  it.each([
    ['a comment', 'x.py', 'import gpio\n# gpio.setup(5, gpio.OUT)\ngpio.setup(6, gpio.OUT)\n'],
    ['a text that is shown', 'x.py', 'import gpio\nprint("gpio.setup(5)")\ngpio.setup(6, gpio.OUT)\n'],
    ['what stands after the end', 'x.py',
      'import gpio\ndef f():\n    gpio.setup(6, gpio.OUT)\n    return\n    gpio.setup(5, gpio.OUT)\nf()\n'],
    ['a condition that never holds', 'x.js', 'if (false) { pinMode(5, 1) }\npinMode(6, 1)\n'],
    ['a function that nobody calls', 'x.c', 'void old(void) { pinMode(5, 1); }\nint main(void) { pinMode(6, 1); }\n'],
    ['what only a dead function calls', 'x.c',
      'void a(void) { pinMode(5, 1); }\nvoid b(void) { a(); }\nint main(void) { pinMode(6, 1); }\n'],
    ['what the preprocessor leaves out', 'x.c',
      '#if 0\n#define LED_PIN 5\n#else\n#define LED_PIN 6\n#endif\nint main(void) { pinMode(LED_PIN, 1); }\n'],
    ['a constant that nothing uses', 'x.py', 'import gpio\nOLD_PIN = 5\ngpio.setup(6, gpio.OUT)\n'],
    ['what stands after exit in a script', 'x.sh', 'gpioset gpiochip0 6=1\nexit 0\ngpioset gpiochip0 5=1\n'],
  ])('%s', (_, name, text) => {
    expect(pins(text, name)).toEqual([6])
  })

  it('is told, with its line and the reason', () => {
    expect(readProgram('import gpio\nOLD_PIN = 5\ngpio.setup(6, gpio.OUT)\n', { name: 'x.py' }).passedOver)
      .toEqual([expect.objectContaining({ line: 2, text: '5', why: 'OLD_PIN is never used' })])
  })

  it('a case of a switch is reached although a return stands before it', () => {
    expect(pins('int main(void) { switch (x) { case 1: return 0; case 2: pinMode(6, 1); } }', 'x.c')).toEqual([6])
  })

  it('the pins of a microcontroller are its own', () => {
    expect(readProgram('void setup() { pinMode(13, OUTPUT); }\nvoid loop() {}\n', { name: 'x.ino' }).isController)
      .toBe(true)
  })
})

describe('how pins are counted', () => {
  const counted = (text: string, name = 'x.py') => {
    const { numbering, isUnsure } = readProgram(text, { name })
    return `${numbering}${isUnsure ? ', unsure' : ''}`
  }
  // Positions of lines: handbook, header table (practice).
  it.each([
    ['by what is set', 'line', 'import gpio\ngpio.setmode(gpio.BCM)\ngpio.setup(11, gpio.OUT)\n'],
    ['by what is set, not by a comment about it', 'header',
      'import gpio\n# gpio.setmode(gpio.BCM)\ngpio.setmode(gpio.BOARD)\ngpio.setup(11, gpio.OUT)\n'],
    ['by a comment that translates', 'header', 'import gpio\nLED = 11  # GPIO17\ngpio.setup(LED, gpio.OUT)\n'],
    ['by a comment that translates the other way', 'line',
      'import gpio\nLED = 17  # pin 11\ngpio.setup(LED, gpio.OUT)\n'],
    ['by a number that is no line', 'header', 'import gpio\ngpio.setup(40, gpio.OUT)\n'],
    ['by a number whose position is a ground', 'line', 'import gpio\ngpio.setup(20, gpio.OUT)\n'],
    ['by its name', 'line', 'import gpio\nLED_BCM = 11\ngpio.setup(LED_BCM, gpio.OUT)\n'],
    ['by nothing: as most do, and it says so', 'line, unsure', 'import gpio\ngpio.setup(11, gpio.OUT)\n'],
  ])('%s', (_, numbering, text) => {
    expect(counted(text)).toBe(numbering)
  })

  it('is shown by its evidence, with the line', () => {
    const { evidence } = readProgram('import gpio\nLED = 11  # GPIO17\ngpio.setup(LED, gpio.OUT)\n', { name: 'x.py' })
    expect(evidence[0])
      .toMatchObject({ line: 2, for: 'header', says: 'the comment says line 17, which lies at position 11' })
  })

  it('is what the maker says, whatever the evidence', () => {
    expect(readProgram('gpio.setmode(gpio.BCM)\n', { name: 'x.py', numbering: 'header' }))
      .toMatchObject({ numbering: 'header',
        isUnsure: false })
  })
})

describe('a text that cannot be read', () => {
  it.each([
    ['nothing', ''], ['an empty line', '\n'], ['an open brace', '{'], ['open brackets', '(((('],
    ['no text', 'ab\u0000c'],
    ['a name that is a picture', '💡 = 17\n'], ['five thousand brackets', ')'.repeat(5000)],
    ['nested conditions', '#if 1\n'.repeat(50)],
  ])('gives an answer all the same: %s', (_, text) => {
    for (const name of ['x.py', 'x.c', 'x.js', 'x.sh', 'x.yaml', 'x.json', 'config.txt', 'x.md', '']) {
      expect(() => readProgram(text, { name })).not.toThrow()
    }
  })

  it('says that it is too long', () => {
    expect(readProgram('x'.repeat(400_001)).problems[0]).toContain('up to 400000 are read')
  })
})
