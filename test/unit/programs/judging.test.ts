/** Programs held against plans: by hand, and as laws over generated plans on every board. */
import { describe, expect, it } from 'vitest'
import { evaluateFacts } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { programAgainst } from '../../../core/programs'
import { constantsOf } from '../../../core/programs/correct'
import { readProgram } from '../../../core/programs/reading'
import { planFrom } from '../../../core/programs/start'
import type { Language } from '../../../core/programs/types'
import { placedPlans } from '../../generated'
import { catalogue, fixedAt, planOf } from '../../plans'

const plan = planOf('forty-usb-c', {
  sound: 'audio-dac-add-on', screen: 'screen-spi-24', weather: ['pressure-humidity-i2c', { address: '0x76' }],
  relay: 'relay-board-1',
  mcu: ['controller-3v3-serial', { link: 'usb', baud: '115200' }], motion: 'motion-passive',
}, { assignments: fixedAt({
  'screen.sclk': 23, 'screen.mosi': 19, 'screen.select': 24, 'screen.dc': 22, 'screen.reset': 13, 'screen.light': 33,
  'weather.sda': 3, 'weather.scl': 5, 'relay.in1': 29, 'motion.out': 31,
  'sound.bclk': 12, 'sound.lrc': 35, 'sound.din': 40, 'sound.sda': 3, 'sound.scl': 5, 'sound.mute': 15,
}) })
const facts = gatherFacts(plan, catalogue)
const against = (text: string, name = 'x.py') => programAgainst(text, { name }, facts)
const first = (text: string, name?: string) => against(text, name).held[0]!

describe('a program against the plan', () => {
  it('says that 19 is the sound\'s word select, and that the backlight is 13', () => {
    const held = first('#define BACKLIGHT_GPIO 19\n', 'x.h')
    expect(held).toMatchObject({ verdict: 'contradicts', should: '13', position: 35, line: 19,
      terminal: 'screen.light' })
    expect(held.says).toContain('Position 35 (G19) is sound')
    expect(held.says).toContain('screen, LED is at position 33 (G13)')
  })

  it('agrees with what is right, in either numbering', () => {
    expect(first('BACKLIGHT_GPIO = 13\n').verdict).toBe('agrees')
    expect(against('import gpio\ngpio.setmode(gpio.BOARD)\nBACKLIGHT = 33\ngpio.setup(BACKLIGHT, gpio.OUT)\n').held[0])
      .toMatchObject(
        { verdict: 'agrees', line: 13 })
  })

  it('puts the number right as it is counted there', () => {
    expect(against('import gpio\ngpio.setmode(gpio.BOARD)\nRELAY = 36\ngpio.setup(RELAY, gpio.OUT)\n').corrected)
      .toContain('RELAY = 29\n')
    expect(against('from x import LED\nrelay = Relay("GPIO16")\n').corrected).toContain('Relay("GPIO5")')
    expect(against('import board\nrelay = digitalio.DigitalInOut(board.D16)\n').corrected).toContain('board.D5')
  })

  it('says what it cannot tell', () => {
    expect(first('import gpio\nx = 26\ngpio.setup(x, gpio.OUT)\n')).toMatchObject({ verdict: 'unknown', position: 37 })
    expect(first('import gpio\ngpio.setmode(gpio.BOARD)\ngpio.setup(6, gpio.OUT)\n'))
      .toMatchObject({ verdict: 'contradicts' })
  })

  it('sees two that push against each other', () => {
    expect(first('import gpio\nMOTION = 6\ngpio.setup(MOTION, gpio.OUT)\n').says).toContain('so does the part')
    expect(first('import gpio\nMOTION = 6\ngpio.setup(MOTION, gpio.IN)\n').verdict).toBe('agrees')
  })

  it('holds addresses against the straps', () => {
    expect(first('WEATHER_ADDRESS = 0x77\n'))
      .toMatchObject({ verdict: 'contradicts', should: '0x76', partId: 'weather' })
    expect(first('ADDRESS = 0x76\n').verdict).toBe('agrees')
    expect(first('ADDRESS = 0x1e\n').verdict).toBe('unknown')
    expect(against('ADDR = 0X77\nbus.read_byte(ADDR)').corrected).toContain('ADDR = 0X76')
    expect(against('ADDR = 119\nbus.read_byte(ADDR)').corrected).toContain('ADDR = 118')
  })

  it('holds buses, selects, rates and devices against the plan', () => {
    expect(first('import smbus\nb = smbus.SMBus(0)\n')).toMatchObject({ verdict: 'contradicts', should: '1' })
    expect(against('import spidev\ns = spidev.SpiDev(0, 0)\n').held.map(({ verdict }) => verdict))
      .toEqual(['agrees', 'agrees'])
    expect(against('import spidev\ns = spidev.SpiDev(0, 1)\n').held[1])
      .toMatchObject({ verdict: 'contradicts', should: '0' })
    expect(first('link = Serial("/dev/ttyACM0", 9600)\n').verdict).toBe('agrees')
    expect(against('link = Serial("/dev/ttyACM0", 9600)\n').held[1])
      .toMatchObject({ verdict: 'contradicts', should: '115200' })
    expect(first('link = Serial("/dev/ttyUSB0", 115200)\n'))
      .toMatchObject({ verdict: 'contradicts', should: '/dev/ttyACM0' })
  })

  it('does not judge a microcontroller\'s pins', () => {
    expect(against('void setup() { pinMode(13, OUTPUT); }\nvoid loop() {}\n', 'x.ino').counts)
      .toEqual({ agrees: 0, contradicts: 0,
        unknown: 1 })
  })

  it('leaves every other byte as it is', () => {
    const text = '\uFEFF# old\r\nRELAY_PIN = 16 # sixteen\r\n\tx = "16"\r\n'
    expect(against(text).corrected).toBe(text.replace('RELAY_PIN = 16', 'RELAY_PIN = 5'))
  })
})

const LANGUAGES: readonly [Language, string][] = [['python', 'x.py'], ['c', 'x.h'], ['javascript', 'x.js'],
  ['shell', 'x.sh'], ['yaml',
    'x.yaml'], ['json', 'x.json']]

describe('laws over generated plans', () => {
  const plans = placedPlans(40, 700).map(entry => gatherFacts(entry, catalogue))

  it.each(LANGUAGES)('the plan\'s own constants in %s are found, and none contradicts it', (language, name) => {
    for (const own of plans) {
      const report = evaluateFacts(own)
      for (const numbering of ['line', 'header'] as const) {
        const text = constantsOf(own, language, numbering)
        if (!text) continue
        const { held } = programAgainst(text, { name, numbering }, own, report)
        const rows = text.split('\n').filter(row => /_PIN\b|_pin\b|_PIN_\d|_pin_\d/.test(row)).length
        expect(held.filter(({ sighting }) => sighting.kind === 'pin'), text).toHaveLength(rows)
        expect(held.filter(({ verdict }) => verdict === 'contradicts').map(({ says }) => says), text).toEqual([])
      }
    }
  })

  it('what was put right contradicts no more', () => {
    for (const own of plans) {
      const report = evaluateFacts(own)
      const text = constantsOf(own, 'python', 'line').replace(/_PIN = (\d+)/g,
        (_, line) => `_PIN = ${(Number(line) * 7 + 5) % 28}`)
      const before = programAgainst(text, { name: 'x.py', numbering: 'line' }, own, report)
      const after = programAgainst(before.corrected, { name: 'x.py', numbering: 'line' }, own, report)
      expect(after.corrections, text).toEqual([])
      expect(after.held.length).toBe(before.held.length)
    }
  })

  it('comments and shown texts change nothing', () => {
    for (const own of plans.slice(0, 12)) {
      const text = constantsOf(own, 'python', 'line')
      const noisy = text.split('\n')
        .map(row => `# used to be 21 and 0x48 on /dev/ttyS3\n${row}\nprint("GPIO 4 on /dev/i2c-7")`).join('\n')
      const of = (source: string) => readProgram(source, { name: 'x.py', numbering: 'line' }).sightings.map(({ kind,
        value }) =>
        `${kind} ${value}`)
      expect(of(noisy)).toEqual(of(text))
    }
  })
})

describe('a plan begun from a text', () => {
  const begun = (text: string, name: string) =>
    planFrom(readProgram(text, { name }), { name: 'Begun', board: 'forty-usb-c', supply: 'adapter-5v-3a' }, catalogue)

  it('has the parts that the text has, where it has them', () => {
    const { plan: made, left } = begun(
      'from x import LED, Button\nlamp = LED(17)\ndoor = Button(27)\nAIR_ADDRESS = 0x77\nbus.read_byte(AIR_ADDRESS)\n',
      'x.py')
    expect(made.parts.map(({ type, name }) => `${type} ${name}`))
      .toEqual(['led-plain Lamp', 'button-1 Door', 'pressure-humidity-i2c Air'])
    expect(made.assignments['led-plain.a']).toEqual({ position: 11, fixed: true })
    expect(made.assignments['button-1.b']).toEqual({ position: 13, fixed: true })
    expect(made.parts[2]!.options).toEqual({ address: '0x77' })
    expect(left).toEqual([])
  })

  it('takes four relays of one list as one board', () => {
    expect(begun('import gpio\nRELAYS = [5, 6, 13, 19]\nfor r in RELAYS:\n    gpio.setup(r, gpio.OUT)\n',
      'x.py').plan.parts.map((
      { type }) => type)).toEqual(['relay-board-4'])
  })

  it('takes a table of connections', () => {
    const { plan: made } = begun('Signal,GPIO\nDC,24\nRST,25\nBLK,18\n', 'x.csv')
    expect(made.parts.map(({ type }) => type)).toEqual(['screen-spi-24'])
    expect(['dc', 'reset', 'light'].map(id => made.assignments[`screen-spi-24.${id}`]!.position)).toEqual([18, 22, 12])
  })

  it('says what it could not tell', () => {
    expect(begun('import gpio\nx = 26\ngpio.setup(x, gpio.OUT)\n', 'x.py').left).toEqual([{ line: 2, text: '26',
      why: 'what hangs on G26 is not told by its name' }])
  })

  it('says that a bus is wired and nobody on it is named', () => {
    const alone = begun('Sensor,Pin\nSDA,3\nSCL,5\n', 'x.csv')
    expect(alone.plan.parts).toEqual([])
    expect(alone.left.map(({ line, text, why }) => `${line} ${text} ${why}`)).toEqual([
      '2 SDA 3 which part is on the I²C bus is not told: add it on the Parts stage',
      '3 SCL 5 which part is on the I²C bus is not told: add it on the Parts stage',
    ])
    // With its address somewhere it is nobody's no more.
    expect(begun('SDA = 3\nSCL = 5\nAIR_ADDRESS = 0x77\nbus.read_byte(AIR_ADDRESS)\n', 'x.py').left).toEqual([])
  })

  it('takes nothing for a text that is none', () => {
    const { sightings, problems } = readProgram('\0\u0001\u0002GPIO 17', { name: 'x.bin' })
    expect([sightings.length, problems[0]]).toEqual([0, expect.stringMatching(/^That is no text/)])
  })

  // Law: the text agrees with what was begun from it.
  it.each(['p01-lamp.py', 'p02-relays.py', 'p04-screen.py', 'c03-config.h', 'd05-table.csv', 'h20.txt', 'j05-list.js'])(
    'agrees with %s', async (name) => {
      const { readFileSync } = await import('node:fs')
      const text = readFileSync(`test/data/programs/${name}.txt`, 'utf8')
      const made = gatherFacts(begun(text, name).plan, catalogue)
      expect(programAgainst(text, { name }, made).held.filter(({ verdict }) => verdict === 'contradicts')
        .map(({ says }) =>
          says)).toEqual([])
    })
})
