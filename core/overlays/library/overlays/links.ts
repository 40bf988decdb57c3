/** Overlays of network, radio and vehicle buses. From memory unless an overlay says otherwise. */
import type { OverlaySpec } from '../types'
import { at, choice, flag, line, number, onSpi, ORIGIN } from './build'

const can = [at('/sys/class/net/can0', 'the vehicle bus')]

/** Flags that say on which SPI bus and select a part lies. */
const seats = () => [0, 1].flatMap(bus => [0, 1, 2].slice(0, bus ? 3 : 2)
  .map(select => flag(`spi${bus}-${select}`, `the part is on SPI ${bus}, select ${select}`)))

const vehicleBus = (name: string, what: string, compatible: string, crystal: number,
  clockHz: number) => onSpi(name, what, compatible, {
  group: 'talking', bus: 'spi{spi}', select: '{select}', clockHz, crystal: 'oscillator',
  params: [
    ...seats(), number('oscillator', crystal, 4_000_000, 40_000_000, 'its crystal in Hz, as printed on it'),
    number('speed', clockHz, 100_000, 25_000_000, 'clock of SPI in Hz'), line('interrupt', 25, 'line of the interrupt'),
  ],
  properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 8>;\n', appears: can,
})

export const LINKS: OverlaySpec[] = [
  ...[0, 1].map(n => onSpi(
    `mcp2515-can${n}`, 'a vehicle bus controller on SPI', 'microchip,mcp2515',
    {
      group: 'talking', select: String(n), clockHz: 10_000_000, crystal: 'oscillator',
      params: [
        number('oscillator', 16_000_000, 4_000_000, 40_000_000, 'its crystal in Hz, as printed on it'),
        number('spimaxfrequency', 10_000_000, 100_000, 10_000_000, 'clock on the bus in Hz'),
        line('interrupt', 25, 'line of the interrupt'),
      ],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 8>;\n',
      appears: [at(`/sys/class/net/can${n}`, 'the bus')],
    },
  )),
  onSpi(
    'enc28j60', 'a wired network port on SPI', 'microchip,enc28j60',
    {
      group: 'talking', clockHz: 12_000_000,
      params: [line('int_pin', 25, 'line of the interrupt'),
        number('speed', 12_000_000, 100_000, 20_000_000, 'clock in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
      appears: [at('/sys/class/net/eth*', 'the port')],
    },
  ),
  onSpi(
    'w5500', 'a wired network port on SPI', 'wiznet,w5500',
    {
      group: 'talking', clockHz: 30_000_000,
      params: [
        line('int_pin', 25, 'line of the interrupt'), number('speed', 30_000_000, 100_000, 40_000_000, 'clock in Hz'),
        choice('cs', ['0', '1'], '0', 'its select'),
      ],
      select: '{cs}', properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 8>;\n',
      appears: [at('/sys/class/net/eth*', 'the port')],
    },
  ),
  onSpi(
    'at86rf233', 'a mesh radio on SPI', 'atmel,at86rf233',
    {
      group: 'talking', clockHz: 6_000_000,
      params: [
        line('interrupt', 23, 'line of the interrupt'), line('reset', 24, 'line of the reset'),
        line('sleep', 25, 'line that sends it to sleep'), number('speed', 3_000_000, 100_000, 6_000_000, 'clock in Hz'),
      ],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 4>;\n\t\treset-gpio = <&gpio {reset} '
        + '1>;\n\t\tsleep-gpio = <&gpio {sleep} 1>;\n',
      appears: [at('/sys/class/ieee802154', 'the radio')],
    },
  ),
  vehicleBus('mcp2515', 'a vehicle bus controller on SPI, wherever it lies', 'microchip,mcp2515', 16_000_000,
    10_000_000),
  vehicleBus('mcp251xfd', 'a vehicle bus controller for the flexible data rate, on SPI', 'microchip,mcp251xfd',
    40_000_000, 20_000_000),
  onSpi('qca7000', 'a network over the mains wires, on SPI', 'qca,qca7000', {
    group: 'talking', clockHz: 12_000_000,
    params: [line('int_pin', 23, 'line of the interrupt'),
      number('speed', 12_000_000, 1_000_000, 16_000_000, 'clock in Hz')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 1>;\n\t\tspi-cpha;\n\t\tspi-cpol;\n',
    appears: [at('/sys/class/net/eth1', 'the network')],
  }),
  onSpi('enc28j60-spi2', 'a wired network port on SPI 2', 'microchip,enc28j60', {
    group: 'talking', bus: 'spi2', clockHz: 12_000_000,
    params: [number('int_pin', 39, 0, 53, 'line of the interrupt'),
      number('speed', 12_000_000, 100_000, 20_000_000, 'clock in Hz')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
    appears: [at('/sys/class/net/eth*', 'the port')],
    caution: 'Only on boards that lead SPI 2 out.',
  }),
  onSpi('si446x-spi0', 'a radio on SPI', 'silabs,si446x', {
    group: 'talking', clockHz: 4_000_000,
    params: [number(
      'speed', 4_000_000, 100_000, 10_000_000, 'clock in Hz',
    ), line('int_pin', 17, 'line of the interrupt'), line('reset_pin', 27, 'line of the reset')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n\t\tsdn-gpios = <&gpio {reset_pin} 0>;\n',
    appears: [at('/sys/class/net/ham0', 'the radio')],
  }),
  {
    name: 'qca7000-uart0', what: 'a network over the mains wires, on serial port 0', group: 'talking', origin: ORIGIN,
    params: [number('baudrate', 115_200, 9600, 4_000_000, 'bits a second')], enables: ['uart0'],
    lines: { 14: 'transmit', 15: 'receive' },
    appears: [at('/sys/class/net/eth1', 'the network')],
    tree: '&uart0 {\n\tstatus = "okay";\n\n\tnetwork {\n\t\tcompatible = "qca,qca7000";\n\t\tcurrent-speed = <{baudrate}>;\n\t};\n};\n',
  },
]
