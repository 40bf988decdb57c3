/** Further overlays that makers load: vehicle buses, cameras, security modules, serial for music, pulses on plain lines. From memory. */
import type { OverlaySpec } from '../types'
import { ORIGIN, at, choice, flag, line, number, onI2c, onLines, onSpi, text } from './build'

/** Flags that say on which SPI bus and select a part lies. */
const seats = () => [0, 1].flatMap(bus => [0, 1, 2].slice(0, bus ? 3 : 2)
  .map(select => flag(`spi${bus}-${select}`, `the part is on SPI ${bus}, select ${select}`)))

const can = [at('/sys/class/net/can0', 'the vehicle bus')]

const vehicleBus = (name: string, what: string, compatible: string, crystal: number, clockHz: number) => onSpi(name, what, compatible, {
  group: 'talking', bus: 'spi{spi}', select: '{select}', clockHz, crystal: 'oscillator',
  params: [
    ...seats(), number('oscillator', crystal, 4_000_000, 40_000_000, 'its crystal in Hz, as printed on it'),
    number('speed', clockHz, 100_000, 25_000_000, 'clock of SPI in Hz'), line('interrupt', 25, 'line of the interrupt'),
  ],
  properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 8>;\n', appears: can,
})

const CAMERAS: readonly [name: string, what: string][] = [
  ['imx477', 'a camera of twelve megapixels'], ['imx708', 'a camera that focuses by itself'], ['imx296', 'a camera with a global shutter'],
  ['imx290', 'a camera for little light'], ['imx519', 'a camera of sixteen megapixels'],
  ['ov9281', 'a monochrome camera with a global shutter'],
]
const CSI = '&{/csi} {\n\tstatus = "okay";\n};\n'

const camera = ([name, what]: typeof CAMERAS[number]): OverlaySpec => ({
  name, what: `${what}, on the camera connector`, group: 'sensing', origin: ORIGIN,
  params: [
    choice('rotation', ['0', '90', '180', '270'], '180', 'which way up'),
    choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'),
    flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
    ...name === 'imx708' ? [flag('vcm', 'with its focus motor')] : [],
    ...name === 'imx290' ? [number('clock-frequency', 37_125_000, 37_125_000, 74_250_000, 'its crystal in Hz')] : [],
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the camera')], tree: CSI,
})

const cameraSwitch = (ports: number): OverlaySpec => ({
  name: `camera-mux-${ports}port`, what: `a switch for ${ports} cameras on one connector`, group: 'sensing', origin: ORIGIN,
  params: [
    ...Array.from({ length: ports }, (_, i) => ['imx219', 'imx477', 'imx708', 'ov5647', 'ov9281']
      .map(sensor => flag(`cam${i}-${sensor}`, `a camera of that kind on port ${i}`))).flat(),
    flag('cam0', 'the switch is on the first connector'),
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the first camera')], tree: CSI,
})

/** The rate of 31 250 baud that music wants, on a port whose clock is changed so that 38 400 asks for it. */
const music = (n: number): OverlaySpec => ({
  name: `midi-uart${n}`, what: `serial port ${n} at the rate of music: 38400 asks for 31250`, group: 'serial', origin: ORIGIN, params: [],
  appears: [], holds: [`the clock of serial port ${n}`], tree: `&uart${n} {\n\tmidi-clock-note;\n};\n`,
})

export const MORE: OverlaySpec[] = [
  vehicleBus('mcp2515', 'a vehicle bus controller on SPI, wherever it lies', 'microchip,mcp2515', 16_000_000, 10_000_000),
  vehicleBus('mcp251xfd', 'a vehicle bus controller for the flexible data rate, on SPI', 'microchip,mcp251xfd', 40_000_000, 20_000_000),
  ...CAMERAS.map(camera), cameraSwitch(2), cameraSwitch(4),
  ...[0, 1, 2, 3, 4, 5].map(music),
  onI2c('mcp342x', 'an exact converter on I²C', {
    mcp3421: { compatible: 'microchip,mcp3421', address: '0x68', what: 'one input, 18 bit' },
    mcp3422: { compatible: 'microchip,mcp3422', address: '0x68', what: 'two inputs, 18 bit' },
    mcp3424: { compatible: 'microchip,mcp3424', address: '0x68', what: 'four inputs, 18 bit' },
    mcp3426: { compatible: 'microchip,mcp3426', address: '0x68', what: 'two inputs, 16 bit' },
    mcp3428: { compatible: 'microchip,mcp3428', address: '0x68', what: 'four inputs, 16 bit' },
  }, { group: 'sensing', appears: [at('/sys/bus/iio/devices/iio:device0', 'its readings')] }),
  onI2c('cap1106', 'six touch keys on I²C', { compatible: 'microchip,cap1106', address: '0x28', node: 'cap1106' }, {
    group: 'input', params: [line('int_pin', 23, 'line of the interrupt')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n\t\tlinux,keycodes = <103>, <106>, <108>, <105>, <109>, '
      + '<104>;\n',
    appears: [at('/dev/input/event*', 'the keys')],
  }),
  onI2c('tpm-slb9673', 'a security module on I²C', { compatible: 'infineon,slb9673', address: '0x2e', node: 'tpm' }, {
    group: 'system', appears: [at('/dev/tpm0', 'the security module')],
  }),
  onSpi('tpm-slb9670', 'a security module on SPI', 'infineon,slb9670', {
    group: 'system', select: '1', clockHz: 32_000_000, appears: [at('/dev/tpm0', 'the security module')],
  }),
  onSpi('qca7000', 'a network over the mains wires, on SPI', 'qca,qca7000', {
    group: 'talking', clockHz: 12_000_000,
    params: [line('int_pin', 23, 'line of the interrupt'), number('speed', 12_000_000, 1_000_000, 16_000_000, 'clock in Hz')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 1>;\n\t\tspi-cpha;\n\t\tspi-cpol;\n',
    appears: [at('/sys/class/net/eth1', 'the network')],
  }),
  onLines('pwm-gpio', 'pulses on a plain line, made by the processor', 'pwm@{gpio:hex}', {
    group: 'switching', params: [line('gpio', 4, 'line of the pulses')],
    properties: '\t\tcompatible = "pwm-gpio";\n\t\t#pwm-cells = <3>;\n\t\tgpios = <&gpio {gpio} 0>;\n',
    appears: [at('/sys/class/pwm/pwmchip*', 'the pulses')],
    caution: 'The processor makes the pulses: a servo trembles and a fan hums when it is busy.',
  }),
  {
    name: 'mmc', what: 'another driver for the card', group: 'storing', origin: ORIGIN,
    params: [number('overclock_50', 50, 25, 100, 'clock asked of a 50 MHz card, in MHz')], appears: [], holds: ['the driver of the card'],
    tree: '&{/mmc-card} {\n\tbrcm,overclock-50 = <{overclock_50}>;\n};\n', caution: 'Too fast a card clock costs data.',
  },
  {
    name: 'vc4-kms-dsi-generic', what: 'a panel on the display connector, with timing of one\'s own', group: 'showing', origin: ORIGIN,
    params: [
      number('clock-frequency', 30_000_000, 1_000_000, 400_000_000, 'pixels a second'), number('hactive', 800, 16, 4096, 'columns'),
      number('hfp', 24, 0, 1000, 'blank columns before the pulse'), number('hsync', 72, 1, 1000, 'columns of the pulse'),
      number('hbp', 96, 0, 1000, 'blank columns after it'), number('vactive', 480, 16, 4096, 'rows'),
      number('vfp', 3, 0, 1000, 'blank rows before the pulse'), number('vsync', 10, 1, 1000, 'rows of the pulse'),
      number('vbp', 7, 0, 1000, 'blank rows after it'), choice('num-lanes', ['1', '2', '3', '4'], '2', 'pairs of wires'),
      text('width-mm', null, 'width of the picture'), text('height-mm', null, 'height of the picture'),
      flag('dsi0', 'on the first display connector'),
    ],
    holds: ['the display connector'], appears: [at('/dev/dri/card0', 'the panel')],
    tree: '&{/dsi} {\n\tstatus = "okay";\n\n\tpanel {\n\t\tcompatible = "panel-dsi";\n\t\treg = <0>;\n\t};\n};\n',
  },
]
