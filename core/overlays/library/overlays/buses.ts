/**
 * Overlays that switch buses on, or widen them: expanders and switches of buses. From memory unless an
 * overlay says otherwise.
 */
import type { OverlaySpec } from '../types'
import { at, choice, flag, line, number, onI2c, onSpi, ORIGIN, text } from './build'
import { MORE_EXPANDERS, MORE_SWITCHES } from './chips'

/** A bus of SPI that the kernel makes on plain lines. */
const softSpi = (first: number, last: number, caution: string): OverlaySpec => ({
  name: `spi-gpio${first}-${last}`, what: `an SPI bus on lines ${first} to ${last}, timed by the processor`,
  group: 'bus', origin: ORIGIN,
  params: [], appears: [at('/dev/spidev*', 'the bus')], caution,
  tree: `&{/} {\n\tspi-soft {\n\t\tcompatible = "spi-gpio";\n\t\t#address-cells = <1>;\n\t\t#size-cells = <0>;\n\t\tsck-gpios = <&gpio `
    + `${last} 0>;\n`
    + `\t\tmosi-gpios = <&gpio ${last - 1} 0>;\n\t\tmiso-gpios = <&gpio ${last - 2} 0>;\n\t\tcs-gpios = <&gpio ${first} 1>;\n`
    + '\t\tnum-chipselects = <1>;\n\t};\n};\n',
})

function spiBus(n: number, selects: number, standard: number[], pins: number[]): OverlaySpec {
  return {
    name: `spi${n}-${selects}cs`,
    what: `switches SPI ${n} on with ${selects === 1 ? 'one select' : `${selects} selects`}`, group: 'bus',
    origin: ORIGIN,
    params: [
      ...standard.slice(0, selects)
        .flatMap((pin, i) => [line(`cs${i}_pin`, pin, `line of select ${i}`), ...n
          ? [choice(`cs${i}_spidev`, ['on', 'off', 'disabled', 'okay'], 'on', `a device for programs on select ${i}`)]
          : []]),
      flag('no_miso', 'leaves the input line free'),
    ],
    enables: [`spi${n}`], linesBy: { '': pins, 'no_miso': pins.slice(1) },
    appears: standard.slice(0, selects).map((_, i) => at(`/dev/spidev${n}.${i}`, `select ${i}`)),
    tree: `&spi${n} {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&spi${n}_pins &spi${n}_cs_pins>;\n`
      + `\tcs-gpios = ${standard.slice(0, selects)
        .map((_, i) => `<&gpio {cs${i}_pin} 1>`)
        .join(', ')};\n${n
        ? standard.slice(0, selects)
            .map((_, i) =>
              `\n\tspidev${n}_${i}: spidev@${i} {\n\t\tcompatible = "spidev";\n\t\treg = <${i}>;\n\t\tspi-max-frequency = `
              + `<125000000>;\n\t\tstatus = "{cs${i}_spidev:status}";\n\t};\n`)
            .join('')
        : ''}};\n\n&spi${n}_cs_pins {\n\tbrcm,pins = <${standard.slice(0, selects)
        .map((_, i) => `{cs${i}_pin}`)
        .join(' ')}>;\n\tbrcm,function = <1>;\n};\n`
        + `\n&spi${n}_pins {\n\tbrcm,pins = <{lines}>;\n};\n`
        + (n === 0 && selects === 1 ? '\n&spidev0_1 {\n\tstatus = "disabled";\n};\n' : ''),
  }
}

function pairs(entries: [sda: number, scl: number, setting: keyof typeof ALT][]) {
  return Object.fromEntries(entries.map(([sda, scl]) => [`pins_${sda}_${scl}`, [sda, scl]]))
}

/** Settings of the multiplexer by their number in the tree. */
const ALT = { alt0: 4, alt1: 5, alt2: 6, alt3: 7, alt4: 3, alt5: 2 }

function i2cBus(n: number, entries: [number, number, keyof typeof ALT][]): OverlaySpec {
  const [first] = entries
  const linesBy = pairs(entries)
  return {
    name: `i2c${n}`, what: `switches I²C ${n} on and says which lines it comes out on`, group: 'bus', origin: ORIGIN,
    params: [
      ...entries.map(([sda, scl]) => flag(`pins_${sda}_${scl}`, `on lines ${sda} and ${scl}`)),
      number('baudrate', 100_000, 10_000, 1_000_000, 'clock of the bus in Hz'),
    ],
    enables: [`i2c${n}`], linesBy: { ...linesBy, '': [first![0], first![1]] },
    appears: [at(`/dev/i2c-${n}`, 'the bus')],
    tree: `&i2c${n} {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&i2c${n}_pins>;\n\tclock-frequency = `
      + `<{baudrate}>;\n};\n\n&i2c${n}_pins {\n\tbrcm,pins = <{lines}>;\n\tbrcm,function = <${ALT[first![2]]}>;\n};\n`,
  }
}

export const BUSES: OverlaySpec[] = [
  { ...i2cBus(0, [[0, 1, 'alt0'], [8, 9, 'alt3']]),
    caution: 'Lines 0 and 1 are kept for an add-on board\'s identity memory.' },
  i2cBus(1, [[2, 3, 'alt0'], [10, 11, 'alt3']]),
  i2cBus(2, [[4, 5, 'alt3'], [12, 13, 'alt3'], [0, 1, 'alt3']]),
  i2cBus(3, [[4, 5, 'alt5'], [2, 3, 'alt5'], [6, 7, 'alt3'], [14, 15, 'alt3'], [22, 23, 'alt3']]),
  i2cBus(4, [[8, 9, 'alt5'], [6, 7, 'alt5']]),
  i2cBus(5, [[12, 13, 'alt5'], [10, 11, 'alt5']]),
  i2cBus(6, [[22, 23, 'alt5'], [0, 1, 'alt5']]),
  {
    name: 'i2c-gpio', what: 'makes an I²C bus on two plain lines, timed by the processor', group: 'bus', origin: ORIGIN,
    params: [
      line('i2c_gpio_sda', 23, 'data line'), line('i2c_gpio_scl', 24, 'clock line'),
      number('i2c_gpio_delay_us', 2, 1, 1000, 'half a clock in microseconds'),
      number('bus', null, 0, 255, 'number of the bus; the kernel chooses where nothing is said'),
    ],
    appears: [at('/dev/i2c-{bus}', 'the bus')],
    tree: '&{/} {\n\ti2c_gpio: i2c@{bus:unit} {\n\t\tcompatible = "i2c-gpio";\n\t\treg = <0x{bus:unit}>;\n\t\tgpios = <&gpio '
      + '{i2c_gpio_sda} 6>, <&gpio {i2c_gpio_scl} 6>;\n\t\ti2c-gpio,delay-us = <{i2c_gpio_delay_us}>;\n\t\t#address-cells = '
      + '<1>;\n\t\t#size-cells = <0>;\n\t};\n};\n',
  },
  spiBus(0, 1, [8], [9, 10, 11]),
  spiBus(0, 2, [8, 7], [9, 10, 11]),
  {
    name: 'spi0-0cs', what: 'SPI 0 without selects: they are free lines, and a program moves them', group: 'bus',
    origin: ORIGIN,
    params: [flag('no_miso', 'leaves the input line free')], enables: ['spi0'],
    linesBy: { '': [9, 10, 11], 'no_miso': [10, 11] },
    appears: [at('/dev/spidev0.0', 'the bus')],
    tree: '&spi0 {\n\tstatus = "okay";\n};\n\n&spi0_cs_pins {\n\tbrcm,pins = <>;\n};\n\n&spi0_pins {\n\tbrcm,pins = '
      + '<{lines}>;\n};\n\n&spidev0_1 {\n\tstatus = "disabled";\n};\n',
  },
  ...[1, 2, 3].map(selects => spiBus(1, selects, [18, 17, 16], [19, 20, 21])),
  ...[1, 2].map(selects => spiBus(3, selects, [0, 24], [1, 2, 3])),
  ...[1, 2].map(selects => spiBus(4, selects, [4, 25], [5, 6, 7])),
  ...[1, 2].map(selects => spiBus(5, selects, [12, 26], [13, 14, 15])),
  ...[1, 2].map(selects => spiBus(6, selects, [18, 27], [19, 20, 21])),
  ...[1, 2].map(selects => ({
    ...spiBus(2, selects, [0, 24], [1, 2, 3]), caution: 'Brought out on the header by the newest family only.',
  })),
  {
    name: 'pwm', what: 'one hardware pulse channel on a line', group: 'bus', origin: ORIGIN,
    params: [
      line('pin', 18, 'line it comes out on'),
      number('func', 2, 1, 7, 'multiplexer setting: 4 on lines 12 and 13, 2 on 18 and 19'),
      number('clock', null, 1000, 500_000_000, 'clock of the circuit in Hz'),
    ],
    enables: ['pwm'], holds: ['the pulse circuit'], excludes: ['pwm-2chan', 'audremap'],
    appears: [at('/sys/class/pwm/pwmchip0', 'the channels')],
    tree: '&pwm {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&pwm_pins>;\n};\n\n&pwm_pins {\n\tbrcm,pins = '
      + '<{pin}>;\n\tbrcm,function = <{func}>;\n};\n',
  },
  {
    name: 'pwm-2chan', what: 'both hardware pulse channels', group: 'bus', origin: ORIGIN,
    params: [
      line('pin', 18, 'line of channel 0'), line('pin2', 19, 'line of channel 1'),
      number('func', 2, 1, 7, 'multiplexer setting of the first line'),
      number('func2', 2, 1, 7, 'multiplexer setting of the second line'),
      number('clock', null, 1000, 500_000_000, 'clock of the circuit in Hz'),
    ],
    enables: ['pwm'], holds: ['the pulse circuit'], excludes: ['pwm', 'audremap'],
    appears: [at('/sys/class/pwm/pwmchip0', 'the channels')],
    tree: '&pwm {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&pwm_pins>;\n};\n\n&pwm_pins {\n\tbrcm,pins = <{pin} '
      + '{pin2}>;\n\tbrcm,function = <{func} {func2}>;\n};\n',
  },
  {
    name: 'w1-gpio', what: '1-Wire bus on a line', group: 'bus', origin: ORIGIN,
    params: [line('gpiopin', 4, 'line of the bus'),
      flag('pullup', 'has no effect any more: the pull-up is a resistor')],
    appears: [at('/sys/bus/w1/devices/28-*', 'one folder for each probe')],
    tree: '&{/} {\n\tonewire@{gpiopin:hex} {\n\t\tcompatible = "w1-gpio";\n\t\tgpios = <&gpio {gpiopin} 0>;\n\t\tpinctrl-names = '
      + '"default";\n\t\tpinctrl-0 = <&w1_pins_{gpiopin}>;\n\t};\n};\n\n&gpio {\n\tw1_pins_{gpiopin}: w1_pins@{gpiopin:hex} '
      + '{\n\t\tbrcm,pins = <{gpiopin}>;\n\t\tbrcm,function = <0>;\n\t\tbrcm,pull = <0>;\n\t};\n};\n',
  },
  {
    name: 'w1-gpio-pullup', what: '1-Wire bus with a second line that drives the strong pull-up', group: 'bus',
    origin: ORIGIN,
    params: [line('gpiopin', 4, 'line of the bus'), line('extpullup', 5, 'line that drives the pull-up')],
    appears: [at('/sys/bus/w1/devices/28-*', 'one folder for each probe')], excludes: ['w1-gpio'],
    tree: '&{/} {\n\tonewire@{gpiopin:hex} {\n\t\tcompatible = "w1-gpio";\n\t\tgpios = <&gpio {gpiopin} 0>, <&gpio {extpullup} '
      + '1>;\n\t\tpinctrl-names = "default";\n\t\tpinctrl-0 = <&w1_pins_{gpiopin}>;\n\t};\n};\n\n&gpio {\n\tw1_pins_{gpiopin}: '
      + 'w1_pins@{gpiopin:hex} {\n\t\tbrcm,pins = <{gpiopin} {extpullup}>;\n\t\tbrcm,function = <0 1>;\n\t\tbrcm,pull = <0 '
      + '0>;\n\t};\n};\n',
  },
  onI2c('i2c-mux', 'a bus switch on I²C: each channel is a bus of its own', {
    pca9542: { compatible: 'nxp,pca9542', address: '0x70', what: 'two channels' },
    pca9545: { compatible: 'nxp,pca9545', address: '0x70', what: 'four channels' },
    pca9548: { compatible: 'nxp,pca9548', address: '0x70', what: 'eight channels' },
    ...MORE_SWITCHES,
  }, {
    group: 'bus',
    params: [
      number('base', null, 0, 255, 'number of the first channel\'s bus'),
      flag('disconnect_on_idle', 'channels are off between uses'),
    ],
    appears: [at('/dev/i2c-*', 'one bus for each channel')],
  }),
  onI2c(
    'mcp23017', 'sixteen more lines on I²C', { compatible: 'microchip,mcp23017', address: '0x20', node: 'mcp' },
    {
      group: 'bus',
      params: [
        line('gpiopin', 4, 'line of the interrupt'), flag('mcp23008', 'the part with eight lines'),
        flag('noints', 'without the interrupt'),
      ],
      properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n', appears: [at('/dev/gpiochip*', 'more lines')],
    },
  ),
  onI2c('pcf857x', 'eight or sixteen more lines on I²C', {
    pcf8574: { compatible: 'nxp,pcf8574', address: '0x20', what: 'eight lines' },
    pcf8574a: { compatible: 'nxp,pcf8574a', address: '0x38', what: 'eight lines from 0x38' },
    pcf8575: { compatible: 'nxp,pcf8575', address: '0x20', what: 'sixteen lines' },
    pca8574: { compatible: 'nxp,pca8574', address: '0x20', what: 'eight lines' },
  }, { group: 'bus', properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n',
    appears: [at('/dev/gpiochip*', 'more lines')] }),
  onI2c('pca953x', 'more lines on I²C', {
    tca6416: { compatible: 'ti,tca6416', address: '0x20', what: 'sixteen lines' },
    pca9535: { compatible: 'nxp,pca9535', address: '0x20', what: 'sixteen lines' },
    pca9534: { compatible: 'nxp,pca9534', address: '0x20', what: 'eight lines' },
    tca9555: { compatible: 'ti,tca9555', address: '0x20', what: 'sixteen lines' },
    ...MORE_EXPANDERS,
  }, { group: 'bus', properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n',
    appears: [at('/dev/gpiochip*', 'more lines')] }),
  onSpi(
    'mcp23s17', 'sixteen more lines on SPI', 'microchip,mcp23s17',
    {
      group: 'bus', bus: 'spi{spi}', select: '{select}', clockHz: 500_000,
      params: [...[0, 1].flatMap(bus => [0, 1, 2].slice(0, bus ? 3 : 2)
        .flatMap(select => ['s08', 's17'].map(size => ({
          name: `${size}-spi${bus}-${select}-present`, kind: 'number' as const, min: 1, max: 255,
          what: `which of the eight chips on SPI ${bus}, select ${select} are there, a bit each`,
        }))))],
      properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n\t\tmicrochip,spi-present-mask = <1>;\n',
      appears: [at('/dev/gpiochip*', 'sixteen more lines')],
    },
  ),
  onSpi(
    'anyspi', 'any part on SPI by its compatible string', '{dev}',
    {
      group: 'bus', bus: 'spi{spi}', select: '{select}', node: 'anyspi',
      params: [
        ...[0, 1].flatMap(bus =>
          [0, 1].map(select => flag(`spi${bus}-${select}`, `the part is on SPI ${bus}, select ${select}`))),
        text('dev', null, 'the part\'s compatible string'), number('speed', 500_000, 1000, 125_000_000, 'clock in Hz'),
        flag('cpha', 'clock phase'), flag('cpol', 'clock polarity'),
      ],
    },
  ),
  // Buses and lines
  softSpi(35, 39, 'Only on boards that lead these lines out: no header of forty positions does.'),
  softSpi(40, 45, 'Only on boards that lead these lines out: no header of forty positions does.'),
]
