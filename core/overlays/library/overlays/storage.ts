/** Overlays of clocks, memories and cards. From memory unless an overlay says otherwise. */
import type { OverlaySpec } from '../types'
import { at, choice, flag, number, onI2c, onSpi, ORIGIN, small } from './build'
import { MORE_CLOCKS } from './chips'

export const STORAGE: OverlaySpec[] = [
  onI2c('i2c-rtc', 'a clock chip on I²C', {
    ds3231: { compatible: 'maxim,ds3231', address: '0x68', what: 'a temperature-compensated clock' },
    ds1307: { compatible: 'dallas,ds1307', address: '0x68', what: 'a plain clock' },
    ds1339: { compatible: 'dallas,ds1339', address: '0x68', what: 'a clock with alarms' },
    pcf8523: { compatible: 'nxp,pcf8523', address: '0x68', what: 'a low-power clock' },
    pcf8563: { compatible: 'nxp,pcf8563', address: '0x51', what: 'a low-power clock at 0x51' },
    pcf85063: { compatible: 'nxp,pcf85063', address: '0x51', what: 'a small clock' },
    rv3028: { compatible: 'microcrystal,rv3028', address: '0x52', what: 'a clock of very low draw' },
    mcp7940x: { compatible: 'microchip,mcp7940x', address: '0x6f', what: 'a clock with memory' },
    abx80x: { compatible: 'abracon,abx80x', address: '0x69', what: 'a clock that charges its cell' },
    ...MORE_CLOCKS,
  }, {
    group: 'storing',
    params: [
      flag('wakeup-source', 'may wake the board'),
      choice('trickle-diode-disable', ['on', 'off'], null, 'the charging diode'),
      number('trickle-resistor-ohms', null, 0, 100_000, 'charging resistor; only for cells that may be charged'),
      number('trickle-voltage-mv', null, 0, 5000, 'charging voltage in thousandths of a volt'),
      choice('aux-voltage-chargeable', ['0', '1'], null, 'the second cell may be charged'),
      choice('backup-switchover-mode', ['0', '1', '2', '3'], null, 'when it changes over to its cell'),
    ],
    appears: [at('/dev/rtc0', 'the clock')],
  }),
  onI2c('i2c-eeprom', 'a memory on I²C', {
    '24c02': { compatible: 'atmel,24c02', address: '0x50', what: '256 bytes' },
    '24c32': { compatible: 'atmel,24c32', address: '0x50', what: '4 kB' },
    '24c64': { compatible: 'atmel,24c64', address: '0x50', what: '8 kB' },
    '24c256': { compatible: 'atmel,24c256', address: '0x50', what: '32 kB' },
  }, { group: 'storing', appears: [at('/sys/bus/i2c/devices/{busnumber}-00{addr:hex}/eeprom', 'the memory')] }),
  onSpi(
    'jedec-spi-nor', 'a flash memory on SPI', 'jedec,spi-nor',
    {
      group: 'storing', bus: 'spi{spi}', select: '{select}', clockHz: 25_000_000,
      params: [
        ...[0, 1].flatMap(bus =>
          [0, 1].map(select => flag(`spi${bus}-${select}`, `the memory is on SPI ${bus}, select ${select}`))),
        flag('fastr', 'with fast reads'), number('speed', 25_000_000, 100_000, 100_000_000, 'clock in Hz'),
      ],
      appears: [at('/dev/mtd0', 'the memory')],
    },
  ),
  onSpi(
    'spi-rtc', 'a clock chip on SPI', '{chosen_compatible}',
    {
      group: 'storing', node: 'rtc',
      choices: {
        ds3232: { compatible: 'dallas,ds3232', what: 'temperature-compensated' },
        ds3234: { compatible: 'dallas,ds3234', what: 'temperature-compensated' },
        pcf2123: { compatible: 'nxp,rtc-pcf2123', what: 'low power' },
      },
      params: [flag('ds3232', 'temperature-compensated'), flag('ds3234', 'temperature-compensated'),
        flag('pcf2123', 'low power')],
      appears: [at('/dev/rtc0', 'the clock')],
    },
  ),
  {
    name: 'sdio', what: 'a second card reader or radio on six lines', group: 'storing', origin: ORIGIN,
    params: [
      number('sdio_overclock', null, 25, 100, 'clock in MHz'), flag('poll_once', 'looks for a card only at the start'),
      choice('bus_width', ['1', '4'], '4', 'data lines'),
    ],
    lines: { 22: 'card clock', 23: 'card command', 24: 'card data', 25: 'card data', 26: 'card data',
      27: 'card data' }, enables: ['emmc'],
    appears: [at('/dev/mmcblk1', 'the card')],
    tree: '&emmc {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&emmc_pins>;\n\tbus-width = <{bus_width}>;\n};\n',
  },
  {
    name: 'sdtweak', what: 'changes how the card is driven', group: 'storing', origin: ORIGIN,
    params: [
      number('overclock_50', 50, 25, 100, 'clock asked of a 50 MHz card, in MHz'),
      flag('force_pio', 'without direct memory access'),
      flag('poll_once', 'looks for the card only at the start'),
    ],
    appears: [], tree: '&{/mmc-card} {\n\tbrcm,overclock-50 = <{overclock_50}>;\n};\n',
    caution: 'Too fast a card clock costs data.',
  },
  {
    name: 'mmc', what: 'another driver for the card', group: 'storing', origin: ORIGIN,
    params: [number('overclock_50', 50, 25, 100, 'clock asked of a 50 MHz card, in MHz')], appears: [],
    holds: ['the driver of the card'],
    tree: '&{/mmc-card} {\n\tbrcm,overclock-50 = <{overclock_50}>;\n};\n', caution: 'Too fast a card clock costs data.',
  },
  small('sdhost', 'drives the card by the older circuit', 'sdhost', {
    params: [
      number('overclock_50', 50, 25, 100, 'clock asked of a 50 MHz card, in MHz'),
      flag('force_pio', 'without direct memory access'),
    ],
    holds: ['the driver of the card'], group: 'storing',
  }),
]
