/** The shape of a part file. */
import Joi from 'joi'
import { bootFields, feedRail, id, ma, origin, position, rail, sourced, text, when } from './common'

const role = Joi.string().valid('line', 'onewire', 'pwm', 'strip', 'i2c.sda', 'i2c.scl', 'spi.clock', 'spi.mosi', 'spi.miso', 'spi.select', 'serial.tx', 'serial.rx', 'serial.rts', 'serial.cts', 'i2s.clock', 'i2s.frame', 'i2s.dataIn', 'i2s.dataOut')
const terminalId = Joi.string().pattern(/^[A-Za-z0-9_-]{1,36}$/, 'letters, digits, dashes and underscores').required()
const positive = Joi.number().positive()

const option = Joi.object({
  id: Joi.string().required(), label: text.required(), kind: Joi.string().valid('choice', 'count').required(), meaning: Joi.string().valid('i2c-address', 'link', 'count', 'rotation', 'rate', 'seat'),
  values: Joi.array().items(Joi.object({ value: Joi.string().required(), label: text.required() })).min(2), min: Joi.number(), max: Joi.number(), default: Joi.string().required(),
}).when(Joi.object({ kind: 'choice' }).unknown(), { then: Joi.object({ values: Joi.required() }), otherwise: Joi.object({ min: Joi.required(), max: Joi.required() }) })

const signal = Joi.object({
  id: terminalId, label: text.required(), role: role.required(), direction: Joi.string().valid('in', 'out', 'both').required(), when,
  drive: Joi.string().valid('push-pull', 'open-drain', 'contact'), outputHighV: sourced, outputLowV: sourced, analog: Joi.boolean(), inputHighMinV: sourced, inputMaxV: sourced, inputCurrentMa: sourced,
  load: Joi.string().valid('coil', 'motor', 'lamp'), pull: Joi.object({ to: Joi.string().valid('up', 'down').required(), ohm: sourced.required() }),
  idleLevel: Joi.string().valid('low', 'high'), still: Joi.boolean(), tells: Joi.string().valid('interrupt', 'wake'), slow: Joi.boolean(), optional: Joi.boolean(), claimsPosition: position, repeat: Joi.string(),
  pwm: Joi.object({ frequencyHz: positive.required(), minHz: positive.required(), maxHz: positive.required(), steps: positive, pulseMinUs: positive, pulseMaxUs: positive, origin }),
})

const signalParams = Joi.object().pattern(Joi.string(), Joi.object().pattern(Joi.string(), Joi.string().allow('')))
const word = Joi.string().pattern(/^[A-Za-z0-9,._+?#-]{1,80}$/, 'a name of the device tree')
const source = Joi.array().items(Joi.string().max(300)).max(100)
const pull = Joi.string().valid('up', 'down')
const kernel = Joi.object({
  node: word.required(), compatible: word.required(), on: Joi.string().valid('i2c', 'spi', 'lines').required(), origin,
  gpios: Joi.array().items(Joi.object({ property: word.required(), signal: terminalId, low: Joi.boolean(), pull })).max(64),
  gpioList: Joi.object({ property: word.required(), signals: Joi.array().items(terminalId).max(64).required(), pull }),
  gpioRows: Joi.object({ rows: terminalId, columns: terminalId }),
  interrupt: Joi.object({ signal: terminalId, type: Joi.number().valid(1, 2, 3, 4, 8).required(), pull }),
  supplies: Joi.object().pattern(word, rail), clock: Joi.object({ hz: positive.max(1e9).required() }), properties: source,
  children: Joi.array().items(Joi.object({ name: Joi.string().pattern(/^[A-Za-z0-9,._+@-]{1,60}$/).required(), signal: Joi.string().max(36), property: word, low: Joi.boolean(), pull, properties: source.required() })).max(64),
})

export const partSchema = Joi.object({
  id, name: text.required(), summary: text.required(),
  group: Joi.string().valid('sensing', 'showing', 'switching', 'sounding', 'talking', 'timing', 'moving', 'lighting', 'input', 'expanding').required(),
  isAddOn: Joi.boolean(), kernel,
  options: Joi.array().items(option).unique('id'),
  signals: Joi.array().items(signal).unique('id').required(),
  supplies: Joi.array().items(Joi.object({ id: terminalId, label: text.required(), rail: Joi.when('from', { is: 'header', then: rail.required(), otherwise: feedRail.required() }), from: Joi.string().valid('header', 'usb', 'own').required(), when, idleMa: ma, typicalMa: ma, peakMa: ma, perOption: Joi.string(), surgeMa: Joi.number().min(0), law: Joi.string().valid('power', 'current', 'resistance'), leastV: positive, mostV: positive, socket: Joi.boolean(), gives: Joi.boolean(), origin, claimsPosition: position })).unique('id').required(),
  grounds: Joi.array().items(Joi.object({ id: terminalId, label: text.required(), when, claimsPosition: position })).unique('id').required(),
  plugs: Joi.array().items(Joi.object({ socket: Joi.string().valid('usb', 'video', 'fan', 'display').required(), wide: Joi.boolean(), when })),
  i2c: Joi.object({
    address: Joi.string().pattern(/^0x[0-7][0-9a-f]$/, '0x and two hex digits'), addressOption: Joi.string(), maxClockHz: positive, pullUpOhm: positive, capacitancePf: positive,
    stretchesClock: Joi.boolean(), poll: Joi.object({ hz: positive.required(), bytes: positive.required() }), when,
  }).xor('address', 'addressOption'),
  spi: Joi.object({ maxClockHz: positive.required(), mode: Joi.number().valid(0, 1, 2, 3).required(), bytesPerS: positive }),
  serial: Joi.object({
    baud: positive.required(), baudOption: Joi.string(), frame: Joi.string().pattern(/^[5-8][NEO][12]$/, 'data bits, parity, stop bits').required(), levels: Joi.string().valid('logic', 'rs232'),
    clock: Joi.object({ sourceHz: positive.required(), divider: Joi.string().valid('sixteenth', 'eighth').required(), origin }), sendsBytesPerS: positive, wantsFlowControl: Joi.boolean(), directionSignal: Joi.string(), when,
  }),
  strip: Joi.object({ bitsPerPixel: positive.required(), bitUs: positive.required(), pauseUs: Joi.number().min(0).required(), pixelsOption: Joi.string().required(), clocked: Joi.boolean(), origin }),
  i2s: Joi.object({ rates: Joi.array().items(positive).min(1).required(), bits: positive.required(), origin }),
  matrix: Joi.object({ rowsOption: Joi.string().required(), columnsOption: Joi.string().required(), diodesOption: Joi.string().required() }),
  display: Joi.object({
    sizeInch: positive.required(), width: positive.required(), height: positive.required(), bitsPerPixel: positive.required(), touch: Joi.string().valid('none', 'resistive', 'capacitive').required(),
    picture: Joi.string().valid('SPI', 'I²C', 'video', 'flat cable').required(), touchBy: Joi.string().valid('none', 'SPI', 'I²C', 'USB', 'flat cable').required(), backlight: Joi.string().valid('none', 'line', 'PWM', 'button').required(),
    driver: Joi.string().valid('overlay', 'own program', 'none needed', 'ready image').required(), maxHz: positive,
  }),
  offers: Joi.array().items(Joi.object({ id: Joi.string().required(), kind: Joi.string().valid('line', 'i2c', 'analog').required(), label: text.required(), inputMaxV: sourced, terminals: Joi.object().pattern(Joi.string(), Joi.string()).required() })).unique('id'),
  contacts: Joi.object({ count: Joi.number().integer().min(1).required(), maxAcV: ma, maxAcA: ma, maxDcV: ma, maxDcA: ma, origin }),
  seat: Joi.object({ from: position.required(), to: position.required(), passes: Joi.boolean().required(), passesOption: Joi.string(), shiftOption: Joi.string(), identity: Joi.boolean(), wants: Joi.string().valid('lowest', 'topmost') }),
  boot: Joi.array().items(Joi.object({ ...bootFields, when, whenPlaced: signalParams, whenOpen: signalParams })),
  nodes: Joi.array().items(Joi.object({ path: Joi.string().required(), what: text.required(), when })),
  cautions: Joi.array().items(text), leadM: positive, price: Joi.number().min(0),
})
