/** Words of names, and what they say of what a number is. Names as people give them: common practice. */

/** `LED_PIN` → `led pin`, `backlightPin` → `backlight pin`, `gpio_DC` → `gpio dc`. */
export function wordsOf(name: string): string[] {
  return name.replace(/([a-z\d])([A-Z])/g, '$1 $2').replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2').toLowerCase()
    .split(/[^a-z\d]+/)
    .flatMap(word => /^[a-z]+\d+$/.test(word) ? [word, word.replace(/\d+$/, '')] : [word]).filter(Boolean)
}

/** It is a pin by its name alone. */
const PIN = /^(pin|pins|gpio|gpios|bcm|line|offset|port_pin|k?pin)$/
/** Terminals and things by which people call a pin. */
const TERMINALS = new Set((
  'dc rst reset cs ce ss bl backlight blk led leds lamp light relay relais relays button buttons btn key switch fan '
  + 'buzzer beeper beep motor servo trig trigger echo sda scl mosi miso sck sclk clk din dout tx rx txd rxd irq int '
  + 'interrupt busy drdy pir motion pump valve heater lock door reed encoder enc step dir enable en standby stby sleep '
  + 'tacho tach pwm strip neopixel data dq onewire w1 ir red green blue white yellow amber up down left right fire '
  + 'power shutdown mute hold latch siren horn solenoid coil laser probe lrck lrclk bclk ws sd fault alert pps one two '
  + 'three four out in sw clock joy joystick dpad forward backward backwards phase rs row rows col cols'
).split(' '))
const RESTS = /^(\d+|k|the|my|status|main|front|back|rear|top|bottom|inner|outer|north|south|east|west|first|second|third|fourth|pin|pins|gpio|bcm|line|board|header|phys|physical|signal|list|array|table)$/
/** A count, a time, a rate: no pin, whatever else the name says. */
const NO_PIN = new RegExp(
  '^(count|num|number|len|length|size|time|delay|timeout|interval|period|duration|ms|us|sec|seconds|s|minutes|hz|khz|freq|frequency|'
  + 'speed|baud|rate|brightness|level|temp|temperature|threshold|limit|max|min|on|off|state|value|channel|dma|address|addr|bus|mode|color|'
  + 'colour|width|height|rotation|version|step|steps|angle|duty|cycles|retries|invert|inverted|id|index|px|percent|bits|debounce|bounce|'
  + 'watchdog|hours|days|port|device|hold|cm|mm)$',
)

/** A count, a time or a rate by its name. */
export const saysNoPin = (name: string): boolean => wordsOf(name).some(word => NO_PIN.test(word))

/** How surely a name is one of a pin: 2 says so, 1 is called like a terminal, 0 is not. */
export function pinNamed(name: string): 0 | 1 | 2 {
  const words = wordsOf(name).filter(word => word.length > 0)
  const bare = words.filter(word => !/\d$/.test(word) || words.length === 1)
  if (bare.some(word => PIN.test(word)) && !/^(pin|pins)_?(count|num|mode|state|value)/i.test(name)) {
    return bare.some(word => /^(count|num|mode|state|value|delay|time|factory|name|names)$/.test(word)) ? 0 : 2
  }
  if (words.some(word => NO_PIN.test(word))) return 0
  const isTerminal = words.some(word => TERMINALS.has(word))
  return isTerminal && words.every(word => TERMINALS.has(word) || RESTS.test(word) || /^[a-z]+\d+$/.test(word)) ? 1 : 0
}

export const isAddressName = (name: string) => /^(i2c)?(addr|address|slave|device)$/.test(wordsOf(name).at(-1) ?? '')
  && !/mac|ip|host|url|mail|base|register|reg|mem/i.test(name)
  && (wordsOf(name).at(-1) !== 'device' || /i2c/i.test(name))
export const isBusName = (name: string) =>
  /^(i2c_?)?(bus|bus_?(num|number|id|nr|no))$/i.test(name) || /i2c_?(bus|port|channel|dev)(_?(num|id))?$/i.test(name)
export const isBaudName = (name: string) => /baud(_?rate)?$/i.test(name)
export const isClockName = (name: string) => /^(max_?speed(_?hz)?|spi_?(speed|clock|freq(uency)?|hz)(_?hz)?|i2c_?(speed|clock|freq(uency)?)|bus_speed_hz|clock_?(hz|frequency|speed)|speed_?hz)$/i
  .test(name)

/** `GPIO17`, `BCM17`, `D17` → line 17; `BOARD11`, `P1_11`, `J8:11`, `pin 11` → position 11. */
export function pinText(text: string): { value: number, numbering: 'header' | 'line', digits: number } | null {
  const match = /^(GPIO|gpio|BCM|bcm|G|D|IO|line)[ _-]?(\d{1,2})$|^(BOARD|board|PHYS|phys|header|P1|J8|pin)[ _:.#-]?(\d{1,2})$/.exec(text.trim())
  if (!match) return null
  const digits = match[2] ?? match[4]!
  return { value: Number(digits), numbering: match[1] ? 'line' : 'header', digits: text.lastIndexOf(digits) }
}

/**
 * Lines of the header's own buses, by the names of their functions: the same on every board with that
 * header, common practice.
 */
const OWN_LINES: Readonly<Record<string, number>> = {
  SDA: 2, SCL: 3, CE1: 7, CE0: 8, MISO: 9, MOSI: 10, SCK: 11, SCLK: 11, TX: 14, TXD: 14, RX: 15, RXD: 15,
}

/** `board.SCL`: the line that a board's module calls by its function. Null where the path names none. */
export const functionOfBoard = (path: readonly string[]): number | null =>
  path.length === 2 && path[0] === 'board' ? OWN_LINES[path[1]!] ?? null : null
