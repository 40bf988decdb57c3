/** The shapes of catalogue files. Unlike plans these are closed: a misspelt field is an error. */
import Joi from 'joi'

const id = Joi.string().pattern(/^[a-z0-9][a-z0-9-]*$/).required()
const origin = Joi.string().pattern(/^(memory|practice|published)(: .+)?$/).required()
const sourced = Joi.object({ value: Joi.number().required(), origin })
const ma = Joi.number().min(0).required()
const position = Joi.number().integer().min(1)
const when = Joi.object().pattern(Joi.string(), Joi.string())
const rail = Joi.string().valid('5V', '3V3')

const bootFields = { kind: Joi.string().valid('param', 'overlay', 'setting').required(), name: Joi.string().required(), value: Joi.string(), params: Joi.object().pattern(Joi.string(), Joi.string().allow('')) }
const boot = Joi.object(bootFields).when(Joi.object({ kind: 'overlay' }).unknown(), { then: Joi.object({ value: Joi.forbidden() }), otherwise: Joi.object({ value: Joi.required(), params: Joi.forbidden() }) })

export const boardSchema = Joi.object({
  id, name: Joi.string().required(), summary: Joi.string().required(), seen: Joi.array().items(Joi.string()).min(2).required(),
  bootPath: Joi.string().required(),
  sockets: Joi.object({ usb: Joi.number().integer().min(0).required(), video: Joi.number().integer().min(0).required() }).required(),
  draw: Joi.object({ idleMa: ma, typicalMa: ma, peakMa: ma, origin }).required(),
  advisedSupplyMa: sourced.required(),
  limits: Joi.object({ inputMaxV: sourced.required(), inputHighMinV: sourced.required(), outputHighV: sourced.required(), lineMaxMa: sourced.required(), linesTotalMaxMa: sourced.required(), rail3V3BudgetMa: sourced.required(), usbBudgetMa: sourced.required() }).required(),
  header: Joi.array().items(Joi.object({ position: position.required(), kind: Joi.string().valid('line', '5V', '3V3', 'ground').required(), line: Joi.number().integer().min(0), identity: Joi.boolean() })).unique('position').required(),
  lines: Joi.array().items(Joi.object({
    line: Joi.number().integer().min(0).required(), resetPull: Joi.string().valid('up', 'down').required(), fixedPullUpOhm: Joi.number().positive(),
    functions: Joi.array().items(Joi.object({ setting: Joi.string().required(), controller: Joi.string().required(), signal: Joi.string() })).required(),
  })).unique('line').required(),
  controllers: Joi.array().items(Joi.object({
    id: Joi.string().required(), kind: Joi.string().valid('i2c', 'spi', 'serial', 'pwm', 'i2s').required(), label: Joi.string().required(), isDefault: Joi.boolean().required(), device: Joi.string(),
    routes: Joi.array().items(Joi.object({ lines: Joi.object().pattern(Joi.string(), Joi.number().integer()).required(), boot: Joi.array().items(boot).required() })).min(1).required(),
  })).unique('id').required(),
})

const role = Joi.string().valid('line', 'onewire', 'pwm', 'strip', 'i2c.sda', 'i2c.scl', 'spi.clock', 'spi.mosi', 'spi.miso', 'spi.select', 'serial.tx', 'serial.rx', 'serial.rts', 'serial.cts', 'i2s.clock', 'i2s.frame', 'i2s.dataIn', 'i2s.dataOut')

export const partSchema = Joi.object({
  id, name: Joi.string().required(), summary: Joi.string().required(),
  group: Joi.string().valid('sensing', 'showing', 'switching', 'sounding', 'talking', 'timing', 'moving', 'lighting', 'input', 'expanding').required(),
  isAddOn: Joi.boolean(),
  options: Joi.array().items(Joi.object({
    id: Joi.string().required(), label: Joi.string().required(), kind: Joi.string().valid('choice', 'count').required(), meaning: Joi.string().valid('i2c-address', 'link', 'count', 'rotation'),
    values: Joi.array().items(Joi.object({ value: Joi.string().required(), label: Joi.string().required() })).min(2), min: Joi.number(), max: Joi.number(), default: Joi.string().required(),
  })).unique('id'),
  signals: Joi.array().items(Joi.object({
    id: Joi.string().required(), label: Joi.string().required(), role: role.required(), direction: Joi.string().valid('in', 'out', 'both').required(), when,
    drive: Joi.string().valid('push-pull', 'open-drain', 'contact'), outputHighV: sourced, inputHighMinV: sourced, inputMaxV: sourced, inputCurrentMa: sourced,
    load: Joi.string().valid('coil', 'motor', 'lamp'), idleLevel: Joi.string().valid('low', 'high'), slow: Joi.boolean(), optional: Joi.boolean(), claimsPosition: position,
  })).unique('id').required(),
  supplies: Joi.array().items(Joi.object({ id: Joi.string().required(), label: Joi.string().required(), rail: rail.required(), from: Joi.string().valid('header', 'usb').required(), when, idleMa: ma, typicalMa: ma, peakMa: ma, perOption: Joi.string(), origin, claimsPosition: position })).unique('id').required(),
  grounds: Joi.array().items(Joi.object({ id: Joi.string().required(), label: Joi.string().required(), when, claimsPosition: position })).unique('id').required(),
  plugs: Joi.array().items(Joi.object({ socket: Joi.string().valid('usb', 'video').required(), when })),
  i2c: Joi.object({ address: Joi.string().pattern(/^0x[0-7][0-9a-f]$/), addressOption: Joi.string(), maxClockHz: Joi.number().positive(), pullUpOhm: Joi.number().positive(), when }).xor('address', 'addressOption'),
  spi: Joi.object({ maxClockHz: Joi.number().positive().required(), mode: Joi.number().valid(0, 1, 2, 3).required() }),
  serial: Joi.object({ baud: Joi.number().positive().required(), frame: Joi.string().required(), when }),
  offers: Joi.array().items(Joi.object({ id: Joi.string().required(), kind: Joi.string().valid('line', 'i2c').required(), label: Joi.string().required(), terminals: Joi.object().pattern(Joi.string(), Joi.string()).required() })).unique('id'),
  contacts: Joi.object({ count: Joi.number().integer().min(1).required(), maxAcV: ma, maxAcA: ma, maxDcV: ma, maxDcA: ma, origin }),
  boot: Joi.array().items(Joi.object({ ...bootFields, when })),
  nodes: Joi.array().items(Joi.object({ path: Joi.string().required(), what: Joi.string().required(), when })),
  cautions: Joi.array().items(Joi.string()), leadM: Joi.number().positive(), price: Joi.number().min(0),
})

export const supplySchema = Joi.object({
  id, name: Joi.string().required(), summary: Joi.string().required(), kind: Joi.string().valid('adapter', 'power-bank', 'solar-battery', 'internal-usb', 'din-rail').required(),
  voltageV: Joi.number().positive().required(), currentMa: Joi.number().positive().required(), capacityMah: Joi.number().positive(), cellV: Joi.number().positive(), efficiency: Joi.number().min(0).max(1), origin,
  cautions: Joi.array().items(Joi.string()),
})
