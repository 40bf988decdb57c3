/** Finding a part by what one knows of it: a word, a bus as one types it, or what is printed on its chip. */
import type { Part } from '../catalogue/types'

/** Small letters and figures, with the superscripts and accents that nobody types flattened: `I²C` → `i2c`. */
const plain = (text: string): string => text.normalize('NFKD').toLowerCase().replace(/[^a-z0-9 ,/-]+/g, '')
/** Words apart, whatever stood between them. */
const spaced = (text: string): string => plain(text).replace(/[^a-z0-9]+/g, ' ').trim()
const joined = (word: string): string => plain(word).replace(/[^a-z0-9]+/g, '')

const BUS_WORDS: Readonly<Record<string, string>> = {
  i2c: 'i2c iic twi two wire', spi: 'spi', serial: 'serial uart rs232 rs485', pwm: 'pwm', i2s: 'i2s sound audio',
  onewire: '1wire onewire one wire',
  strip: 'strip pixels led', line: 'gpio line digital',
}

const texts = new WeakMap<Part, string[]>()

/** Words that a part answers to; kept, as a person types letter by letter. */
function textOf(part: Part): string[] {
  const known = texts.get(part)
  if (known) return known
  const kinds = [...new Set(part.signals.map(signal => signal.role.split('.')[0]!))]
  const said = [
    part.name, part.summary, part.group, part.id, ...part.search ?? [], ...kinds.map(kind => BUS_WORDS[kind] ?? kind),
    // What is printed on the chip stands in the names by which the kernel and the image know it.
    part.kernel?.compatible ?? '',
    ...(part.boot ?? []).flatMap(need => need.kind === 'overlay' ? [need.name, ...Object.keys(need.params ?? {})] : []),
    ...part.signals.map(signal => signal.label), part.i2c?.address ?? '',
    ...(part.options ?? []).flatMap(option => option.values?.map(entry => entry.value) ?? []),
  ].map(spaced).filter(Boolean)
  texts.set(part, said)
  return said
}

/** What people call things, and the words that the files have for them. Common usage, from memory. */
const SYNONYMS: Readonly<Record<string, string>> = {
  screen: 'display panel matrix', monitor: 'panel screen', tft: 'colour screen', lcd: 'screen', eink: 'paper',
  epaper: 'paper',
  thermometer: 'temperature', heat: 'temperature', hygrometer: 'humidity', moisture: 'humidity soil',
  barometer: 'pressure',
  altitude: 'pressure', weather: 'humidity pressure temperature', gps: 'positioning', gnss: 'positioning',
  satellite: 'positioning',
  rtc: 'clock', time: 'clock', watch: 'clock', gyro: 'motion orientation', gyroscope: 'motion orientation',
  imu: 'motion orientation',
  accelerometer: 'acceleration motion', tilt: 'acceleration motion', compass: 'magnetic', magnetometer: 'magnetic',
  pir: 'passiveinfrared motion',
  rfid: 'card', nfc: 'card', badge: 'card', sonar: 'distance', ultrasonic: 'distance', range: 'distance',
  lidar: 'distance',
  adc: 'analog', dac: 'analog sound', voltmeter: 'voltage', ammeter: 'current', lux: 'light', brightness: 'light',
  rgb: 'colour strip',
  led: 'strip lamp light', neon: 'strip', lamps: 'strip lamp light', speaker: 'amplifier sound',
  loudspeaker: 'amplifier',
  mic: 'microphone',
  beeper: 'buzzer sounder', alarm: 'buzzer sounder', keyboard: 'keys', keypad: 'keys', knob: 'encoder',
  dial: 'encoder', button: 'push',
  switch: 'relay mosfet bus button', valve: 'relay mosfet', pump: 'relay mosfet motor', solenoid: 'relay mosfet',
  heater: 'relay',
  mains: 'relay', ventilator: 'fan', cooling: 'fan heatsink', housing: 'case', enclosure: 'case', shield: 'addon',
  gpio: 'expander', extender: 'expander', multiplexer: 'hub', mux: 'hub', radio: 'radio modem', wifi: 'radio',
  modem: 'modem',
  ethernet: 'network', lan: 'network', can: 'vehiclebus', barcode: 'code', weight: 'loadcell', scale: 'loadcell',
  eeprom: 'memory', flash: 'memory', sd: 'card', ups: 'battery', co2: 'carbon', smoke: 'gas',
  stepper: 'motor', robot: 'motor servo', tank: 'tank level flow', level: 'level tank', water: 'water flow tank',
  finger: 'fingerprint',
  ir: 'infrared',
  remote: 'infrared', trackpad: 'gesture', solar: 'battery',
}

/**
 * True when every word of the query is found somewhere in the part, or a word that means the same: in any order, as
 * beginnings or middles of words.
 */
export function answersTo(part: Part, query: string): boolean {
  const words = query.split(/\s+/).map(joined).filter(Boolean)
  const said = textOf(part)
  const has = (word: string) => said.some(text => text.includes(word) || text.replaceAll(' ', '').includes(word))
  return words.every(word => has(word) || (SYNONYMS[word]?.split(' ').some(has) ?? false))
}
