/** Chips that one overlay serves among many of their kind: clocks, sensors, bus switches, expanders. From memory. */
import type { Choice } from '../types'

/** `name: [compatible, address, what]` → choices. */
type ChipRow = readonly [compatible: string, address: string, what: string]
const choices = (rows: Record<string, ChipRow>): Record<string, Choice> =>
  Object.fromEntries(Object.entries(rows)
    .map(([name, [compatible, address, what]]) => [name, { compatible, address, what }]))

export const MORE_CLOCKS = choices({
  bq32000: ['ti,bq32000', '0x68', 'a clock that charges its cell'],
  ds1340: ['dallas,ds1340', '0x68', 'a clock that charges its cell'],
  isl1208: ['isil,isl1208', '0x6f', 'a small clock'], m41t62: ['st,m41t62', '0x68', 'a clock with alarms'],
  mcp7941x: ['microchip,mcp7941x', '0x6f', 'a clock with memory'],
  pcf2127: ['nxp,pcf2127', '0x51', 'a temperature-compensated clock'],
  pcf2129: [
    'nxp,pcf2129', '0x51', 'a temperature-compensated clock',
  ], pcf85063a: ['nxp,pcf85063a', '0x51', 'a small clock with an alarm'],
  pcf85363: ['nxp,pcf85363', '0x51', 'a small clock with memory'], rv1805: [
    'microcrystal,rv1805', '0x69', 'a clock that charges its cell',
  ],
  rv3032: [
    'microcrystal,rv3032', '0x51', 'a temperature-compensated clock',
  ], rv8803: ['microcrystal,rv8803', '0x32', 'a clock of high accuracy'],
  s35390a: ['sii,s35390a', '0x30', 'a small clock'], sd3078: ['whwave,sd3078', '0x32', 'a clock with a charger'],
})

export const MORE_SENSORS = choices({
  adt7410: ['adi,adt7410', '0x48', 'temperature'], aht10: ['aosong,aht10', '0x38', 'humidity and temperature'],
  bmp380: ['bosch,bmp380', '0x76', 'pressure and temperature'],
  bno055: ['bosch,bno055', '0x29', 'how it lies in space'],
  ds1621: ['dallas,ds1621', '0x48', 'temperature'], hdc100x: ['ti,hdc1000', '0x40', 'humidity and temperature'],
  hdc3020: ['ti,hdc3020', '0x44', 'humidity and temperature'],
  hts221: ['st,hts221', '0x5f', 'humidity and temperature'],
  htu31: [
    'meas,htu31', '0x40', 'humidity and temperature',
  ], jc42: ['jedec,jc-42.4-temp', '0x18', 'temperature'], max30102: ['maxim,max30102', '0x57', 'pulse by light'],
  ms5637: ['meas,ms5637', '0x76', 'pressure and temperature'], ms5803: ['meas,ms5803', '0x76', 'pressure under water'],
  ms5805: ['meas,ms5805', '0x76', 'pressure and temperature'], ms5837: ['meas,ms5837', '0x76', 'pressure under water'],
  ms8607: [
    'meas,ms8607-temppressure', '0x76', 'pressure, humidity and temperature',
  ],
  shtc3: ['sensirion,shtc3', '0x70', 'humidity and temperature'], veml6075: ['vishay,veml6075', '0x10', 'ultraviolet'],
})

export const MORE_SWITCHES = choices({
  pca9540: ['nxp,pca9540', '0x70', 'two channels'], pca9543: ['nxp,pca9543', '0x70', 'two channels with interrupts'],
  pca9544: ['nxp,pca9544', '0x70', 'four channels'], pca9546: ['nxp,pca9546', '0x70', 'four channels'],
  pca9547: ['nxp,pca9547', '0x70', 'eight channels'],
})

export const MORE_EXPANDERS = choices({
  pca6416: ['nxp,pca6416', '0x20', 'sixteen lines'], pca6408: ['nxp,pca6408', '0x20', 'eight lines'],
  pca9505: ['nxp,pca9505', '0x20', 'forty lines'], pca9536: ['nxp,pca9536', '0x41', 'four lines'],
  pca9538: ['nxp,pca9538', '0x70', 'eight lines'], pca9539: ['nxp,pca9539', '0x74', 'sixteen lines'],
  pca9554: ['nxp,pca9554', '0x20', 'eight lines'], pca9555: ['nxp,pca9555', '0x20', 'sixteen lines'],
  pca9557: ['nxp,pca9557', '0x18', 'eight lines'], pca9574: ['nxp,pca9574', '0x20', 'eight lines'],
  pca9575: ['nxp,pca9575', '0x20', 'sixteen lines'], max7310: ['maxim,max7310', '0x18', 'eight lines'],
  max7312: ['maxim,max7312', '0x20', 'sixteen lines'], pca9698: ['nxp,pca9698', '0x20', 'forty lines'],
  tca6408: ['ti,tca6408', '0x20', 'eight lines'], tca6424: ['ti,tca6424', '0x22', 'twenty-four lines'],
  tca9539: ['ti,tca9539', '0x74', 'sixteen lines'], tca9554: ['ti,tca9554', '0x20', 'eight lines'],
})
