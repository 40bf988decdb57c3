/** Overlays of serial ports, of the board and behind bridges. From memory unless an overlay says otherwise. */
import type { OverlaySpec } from '../types'
import { at, flag, line, number, onI2c, onSpi, ORIGIN } from './build'

/** The rate of 31 250 baud that music wants, on a port whose clock is changed so that 38 400 asks for it. */
const music = (n: number): OverlaySpec => ({
  name: `midi-uart${n}`, what: `serial port ${n} at the rate of music: 38400 asks for 31250`, group: 'serial',
  origin: ORIGIN, params: [],
  appears: [], holds: [`the clock of serial port ${n}`], tree: `&uart${n} {\n\tmidi-clock-note;\n};\n`,
})

function uart(n: number, tx: number): OverlaySpec {
  return {
    name: `uart${n}`, what: `switches serial port ${n} on`, group: 'serial', origin: ORIGIN,
    params: [flag('ctsrts', 'with flow control on the two lines behind')],
    enables: [`uart${n}`], linesBy: { '': [tx, tx + 1], 'ctsrts': [tx, tx + 1, tx + 2, tx + 3] },
    appears: [at(`/dev/ttyAMA${n}`, 'the port')],
    tree: `&uart${n} {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&uart${n}_pins>;\n};\n\n&uart${n}_pins `
      + `{\n\tbrcm,pins = <{lines}>;\n};\n`,
  }
}

export const SERIAL_PORTS: OverlaySpec[] = [
  {
    name: 'uart0', what: 'puts serial port 0 on other lines, or brings it back to the header', group: 'serial',
    origin: ORIGIN,
    params: [
      line('txd0_pin', 14, 'transmit line'), line('rxd0_pin', 15, 'receive line'),
      number('pin_func', 4, 0, 7, 'multiplexer setting'),
      flag('ctsrts', 'with flow control on lines 16 and 17'),
    ],
    enables: ['uart0'], linesBy: { ctsrts: [16, 17] }, appears: [at('/dev/ttyAMA0', 'the port')],
    tree: '&uart0 {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&uart0_pins>;\n};\n\n&uart0_pins {\n\tbrcm,pins = '
      + '<{txd0_pin} {rxd0_pin}>;\n\tbrcm,function = <{pin_func}>;\n};\n',
  },
  {
    name: 'uart1', what: 'puts the small serial port on the header', group: 'serial', origin: ORIGIN,
    params: [line('txd1_pin', 14, 'transmit line'), line('rxd1_pin', 15, 'receive line')],
    enables: ['uart1'], appears: [at('/dev/ttyS0', 'the port')],
    tree: '&uart1 {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&uart1_pins>;\n};\n\n&uart1_pins {\n\tbrcm,pins = '
      + '<{txd1_pin} {rxd1_pin}>;\n\tbrcm,function = <2>;\n};\n',
  },
  uart(2, 0),
  uart(3, 4),
  uart(4, 8),
  uart(5, 12),
  {
    name: 'miniuart-bt', what: 'gives the radio the small serial port, so that the full one comes out on the header',
    group: 'serial',
    origin: ORIGIN,
    params: [], holds: ['the radio\'s serial port'], excludes: ['disable-bt'],
    appears: [at('/dev/ttyAMA0', 'the full port on lines 14 and 15')],
    tree: '&uart0 {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&uart0_pins>;\n};\n\n&uart0_pins {\n\tbrcm,pins = '
      + '<14 15>;\n\tbrcm,function = <4>;\n};\n',
    enables: ['uart0'], lines: { 14: 'transmit', 15: 'receive' },
  },
  {
    name: 'disable-bt', what: 'switches the radio\'s short-range part off and gives its serial port to the header',
    group: 'serial',
    origin: ORIGIN,
    params: [], holds: ['the radio\'s serial port'], excludes: ['miniuart-bt'],
    appears: [at('/dev/ttyAMA0', 'the full port on lines 14 and 15')],
    tree: '&uart0 {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&uart0_pins>;\n};\n\n&uart0_pins {\n\tbrcm,pins = '
      + '<14 15>;\n\tbrcm,function = <4>;\n};\n\n&uart1 {\n\tstatus = "disabled";\n};\n',
    enables: ['uart0'], lines: { 14: 'transmit', 15: 'receive' },
  },
  onI2c(
    'sc16is750-i2c', 'a serial port on I²C', { compatible: 'nxp,sc16is750', address: '0x48', node: 'sc16is750' },
    {
      group: 'serial', crystal: 'xtal',
      params: [line('int_pin', 24, 'line of the interrupt'),
        number('xtal', 14_745_600, 1_000_000, 24_000_000, 'its crystal in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
      appears: [at('/dev/ttySC0', 'the port')],
    },
  ),
  onI2c(
    'sc16is752-i2c', 'two serial ports on I²C', { compatible: 'nxp,sc16is752', address: '0x48', node: 'sc16is752' },
    {
      group: 'serial', crystal: 'xtal',
      params: [line('int_pin', 24, 'line of the interrupt'),
        number('xtal', 14_745_600, 1_000_000, 24_000_000, 'its crystal in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
      appears: [at('/dev/ttySC0', 'the first port'), at('/dev/ttySC1', 'the second port')],
    },
  ),
  onSpi(
    'sc16is752-spi1', 'two serial ports on SPI 1', 'nxp,sc16is752',
    {
      group: 'serial', bus: 'spi1', enables: ['spi1'], clockHz: 4_000_000,
      crystal: 'xtal', lines: { 18: 'select', 19: 'SPI input', 20: 'SPI output', 21: 'SPI clock' },
      params: [line('int_pin', 24, 'line of the interrupt'),
        number('xtal', 14_745_600, 1_000_000, 24_000_000, 'its crystal in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
      appears: [at('/dev/ttySC0', 'the first port'), at('/dev/ttySC1', 'the second port')],
    },
  ),
  ...[0, 1, 2, 3, 4, 5].map(music),
]
