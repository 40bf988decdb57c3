/** The shapes of supply files, power item files and the power fields of a board file. */
import Joi from 'joi'
import { id, ma, origin, text } from './common'

const positive = Joi.number().positive()
const share = Joi.number().min(0).max(1)
const needed = positive.required()
const law = Joi.string().valid('power', 'current', 'resistance')

export const supplySchema = Joi.object({
  id, name: text.required(), summary: text.required(),
  kind: Joi.string().valid('adapter', 'usb-port', 'internal-usb', 'bench', 'din-rail', 'transformer', 'lithium', 'lead', 'solar-panel', 'power-bank', 'solar-battery').required(),
  voltageV: needed, currentMa: needed, ohm: Joi.number().min(0), limitsCurrent: Joi.boolean(), takesBack: Joi.boolean(), fixed: Joi.boolean(), advertisesMa: positive, hz: positive,
  cable: Joi.object({ awg: Joi.number().min(0).max(40).required(), lengthM: needed, contactOhm: Joi.number().min(0).required(), plug: Joi.string().valid('micro-usb', 'usb-c', 'round', 'screw').required() }),
  capacityMah: positive, cellV: positive, efficiency: share, chemistry: Joi.string().valid('lithium', 'lead'), usableShare: share, emptyV: positive, fullV: positive,
  selfUseMa: Joi.number().min(0), lowLoadMa: positive, lowLoadS: positive, panelW: positive, origin, price: Joi.number().min(0), cautions: Joi.array().items(text),
})

export const powerItemSchema = Joi.object({
  id, name: text.required(), summary: text.required(),
  kind: Joi.string().valid('cable', 'connector', 'fuse', 'fuse-resettable', 'diode', 'ideal-diode', 'switch', 'latch', 'linear', 'step-down', 'step-up', 'rectifier', 'capacitor', 'hub', 'load').required(),
  figures: Joi.object().pattern(Joi.string(), Joi.number()).required(),
  efficiency: Joi.array().items(Joi.object({ currentMa: needed, efficiency: share.required() })).min(2), law, origin, price: Joi.number().min(0), cautions: Joi.array().items(text),
})

export const boardPowerSchema = Joi.object({
  socketOhm: needed, socketRatedMa: needed, fused: Joi.boolean().required(), leastSupplyMa: needed, signV: needed, leastV: needed, usbOhm: needed,
  usbSmallSupply: Joi.object({ belowMa: needed, budgetMa: needed, origin }),
  rail3V3: Joi.string().valid('linear', 'step-down').required(), rail3V3Efficiency: share.required(), rail3V3HeadroomV: Joi.number().min(0).required(),
  positionOhm: needed, positionRatedMa: needed, inrushMa: ma, shutdownS: needed, origin,
})

export const heatSchema = Joi.object({ bareKw: needed, storeJk: needed, chipShare: share.required(), slowsC: needed, stopsC: needed, origin })

export const clockingSchema = Joi.object({ coreMhz: needed, leastMhz: needed, coreV: needed, dynamicShare: share.required(), stepsLeast: Joi.number().integer().max(0).required(), origin })
