/**
 * Which terminal of the plan a number in a program is meant for, by what it is called there. Words for the same
 * thing: common practice.
 */
import type { Facts, Terminal } from '../facts/types'
import { wordsOf } from './words'

/** Each row means the same terminal. */
const SAME_TERMINAL: readonly (readonly string[])[] = [
  ['backlight', 'bl', 'blk', 'light', 'led', 'lite', 'lamp'], ['dc', 'd', 'rs', 'ao', 'data/command', 'a0'],
  ['reset', 'rst', 'res', 'rest', 'nrst'], ['select', 'cs', 'ce', 'ss', 'csn', 'nss', 'scs'],
  ['sck', 'sclk', 'clk', 'clock', 'scl'],
  ['mosi', 'sdi', 'din', 'di', 'sda', 'copi', 'si'], ['miso', 'sdo', 'dout', 'do', 'cipo', 'so'],
  ['int', 'irq', 'interrupt', 'alert',
    'drdy'],
  ['tx', 'txd', 'tx0', 'transmit'], ['rx', 'rxd', 'rx0', 'receive'], ['trig', 'trigger'], ['echo'], ['busy'],
  ['mute', 'sd', 'shutdown'],
  ['lrclk', 'lrck', 'lrc', 'ws', 'frame', 'fs', 'wsel'], ['bclk', 'bck'], ['dq', 'data', 'onewire', 'w1'],
  ['tacho', 'tach', 'rpm'], ['pulse', 'pwm', 'signal', 'servo'], ['key', 'pwrkey'], ['step'], ['dir', 'direction'],
  ['enable', 'en', 'standby', 'stby'], ['coil', 'relay'], ['out', 'output'], ['pps'], ['hold'],
  ['button', 'btn', 'switch', 'push'],
]
/** Each row means the same kind of thing. */
const SAME_THING: readonly (readonly string[])[] = [
  ['relay', 'relays', 'rly', 'relais'], ['lamp', 'lamps', 'led', 'leds', 'light', 'lights'],
  ['button', 'buttons', 'btn', 'switch',
    'key', 'keys'],
  ['screen', 'display', 'lcd', 'tft', 'oled', 'panel'], ['fan', 'vent', 'ventilator', 'cooling'],
  ['buzzer', 'beeper', 'beep', 'sounder'],
  ['motor', 'drive'], ['servo'], ['motion', 'pir', 'movement'], ['distance', 'range', 'sonar', 'ultrasonic', 'finder'],
  ['strip',
    'pixels', 'neopixel', 'ws'],
  ['sound', 'audio', 'voice', 'dac', 'amp', 'amplifier', 'i2s'], ['scale', 'weight', 'loadcell', 'hx'],
  ['probe', 'probes',
    'thermometer', 'temperature'],
  ['pump', 'pumps'], ['valve', 'valves'], ['door', 'doors', 'lock', 'bolt'], ['encoder', 'knob', 'rotary'],
  ['clock', 'rtc'],
  ['pressure', 'barometer', 'air', 'weather', 'bme', 'bmp'], ['humidity', 'hygrometer', 'sht', 'dht'],
  ['expander', 'mcp', 'pcf'],
  ['card', 'rfid', 'nfc'],
]

const NUMBERS: Readonly<Record<string, string>> = { one: '1', two: '2', three: '3', four: '4', first: '1', second: '2',
  third: '3',
  fourth: '4' }

function spread(words: readonly string[], rows: readonly (readonly string[])[]): Set<string> {
  return new Set(words.flatMap(word => [word, ...rows.filter(row => row.includes(word)).flat()]))
}

const digitsOf = (words: readonly string[]): Set<string> =>
  new Set(words.flatMap(word => /(\d+)$/.exec(word)?.[1] ?? NUMBERS[word] ?? []))

interface Named { terminal: Set<string>, thing: Set<string>, own: readonly string[], digits: Set<string> }
const named = new WeakMap<Terminal, Named>()

function namesOf(terminal: Terminal): Named {
  const known = named.get(terminal)
  if (known) return known
  const { owner, signal } = terminal
  const ends = [...wordsOf(signal!.id), ...wordsOf(signal!.label.replace('D/C',
    'dc')), ...wordsOf(signal!.role.split('.').at(-1)!)]
    .filter(word => word !== 'line')
  const own = [...wordsOf(owner.name), ...wordsOf(owner.id)]
  const names: Named = {
    terminal: spread(ends, SAME_TERMINAL),
    thing: spread([...own, ...wordsOf(owner.part.name.split(',')[0]!)], SAME_THING), own,
    digits: digitsOf([...wordsOf(signal!.id), ...wordsOf(signal!.label), signal!.label.toLowerCase()]),
  }
  named.set(terminal, names)
  return names
}

export interface Meant {
  terminal: Terminal
  points: number
  /** A word of its own name stands there, or one of its terminal and one of its kind. */
  isSure: boolean
}

/**
 * Terminals by how well the words fit them, the best first; those that none of the words fits are not there. What the
 * number is called itself, `name`, is sure where it fits one terminal alone.
 */
export function meantBy(words: readonly string[], facts: Facts, name = ''): Meant[] {
  const said = words.filter(word => word.length > 1 || /\d/.test(word))
  // `pump2` is the pump of that name, where there is one; else the second terminal of a pump.
  const names = new Set(facts.parts.flatMap(owner => [...wordsOf(owner.name), ...wordsOf(owner.id)])
    .filter(word => /\d/.test(word)))
  const exact = said.filter(word => names.has(word))
  const digits = digitsOf(said.filter(word => !names.has(word)))
  const plain = said.map(word => word.replace(/\d+$/, '')).filter(word => word.length > 1)
  const heardThings = spread(plain, SAME_THING)
  const called = wordsOf(name).map(word => word.replace(/\d+$/, '')).filter(word => word.length > 1)
  const found = facts.terminals.filter(terminal => terminal.signal).flatMap((terminal): Meant[] => {
    const names = namesOf(terminal)
    const whole = exact.some(word => names.own.includes(word))
    const end = plain.some(word => names.terminal.has(word))
    const own = plain.filter(word => word.length > 2 && names.own.includes(word)).length
    const thing = [...heardThings].some(word => names.thing.has(word))
    const digit = [...digits].some(entry => names.digits.has(entry))
    // A part with one terminal is meant by its own name alone.
    const single = terminal.owner.signals.filter(signal => !signal.optional).length === 1
    const points = (whole ? 6 : 0) + (end ? 3 : 0) + own * 3 + (thing ? 2 : 0)
      + (digit && (end || own || thing) ? 2 : 0)
      + (single && (own || thing) ? 1 : 0)
    return points >= 3
      ? [{ terminal, points, isSure: whole || (own > 0 && !exact.length) || (end && thing) || (single && thing) }]
      : []
  }).sort((a, b) => b.points - a.points)
  const ends = found.filter(({ terminal }) => called.some(word => namesOf(terminal).terminal.has(word)))
  return ends.length === 1 && ends[0] === found[0] ? [{ ...found[0]!, isSure: true }, ...found.slice(1)] : found
}
