/** Overlays of parts that measure, keep time, widen the board or talk. */
import type { OverlaySpec, ParamSpec } from '../types'
import { MORE_CLOCKS, MORE_EXPANDERS, MORE_SENSORS, MORE_SWITCHES } from './chips'
import { ORIGIN, at, choice, flag, inputPin, line, number, onI2c, onLines, onSpi, text } from './build'

const iio = [at('/sys/bus/iio/devices/iio:device*', 'the readings')]
const hwmon = [at('/sys/class/hwmon/hwmon*', 'the readings')]

const presentOn = (prefix: string, buses: number[]): ParamSpec[] => buses.flatMap(bus => [0, 1, 2].slice(0, bus ? 3 : 2)
  .map(select => flag(`${prefix}spi${bus}-${select}-present`, `the part is on SPI ${bus}, select ${select}`)))

export const PARTS: OverlaySpec[] = [
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
      flag('wakeup-source', 'may wake the board'), choice('trickle-diode-disable', ['on', 'off'], null, 'the charging diode'),
      number('trickle-resistor-ohms', null, 0, 100_000, 'charging resistor; only for cells that may be charged'),
      number('trickle-voltage-mv', null, 0, 5000, 'charging voltage in thousandths of a volt'),
      choice('aux-voltage-chargeable', ['0', '1'], null, 'the second cell may be charged'),
      choice('backup-switchover-mode', ['0', '1', '2', '3'], null, 'when it changes over to its cell'),
    ],
    appears: [at('/dev/rtc0', 'the clock')],
  }),
  onI2c('i2c-sensor', 'a measuring part on I²C', {
    sht3x: { compatible: 'sensirion,sht3x', address: '0x44', what: 'humidity and temperature', appears: hwmon },
    sht4x: { compatible: 'sensirion,sht4x', address: '0x44', what: 'humidity and temperature', appears: hwmon },
    bme280: { compatible: 'bosch,bme280', address: '0x76', what: 'pressure, humidity and temperature' },
    bmp280: { compatible: 'bosch,bmp280', address: '0x76', what: 'pressure and temperature' },
    bmp180: { compatible: 'bosch,bmp180', address: '0x77', what: 'pressure and temperature' },
    bmp085: { compatible: 'bosch,bmp085', address: '0x77', what: 'pressure and temperature' },
    bme680: { compatible: 'bosch,bme680', address: '0x76', what: 'air quality, pressure and humidity' },
    htu21: { compatible: 'meas,htu21', address: '0x40', what: 'humidity and temperature' },
    si7020: { compatible: 'silabs,si7020', address: '0x40', what: 'humidity and temperature' },
    lm75: { compatible: 'national,lm75', address: '0x48', what: 'temperature', appears: hwmon },
    tmp102: { compatible: 'ti,tmp102', address: '0x48', what: 'temperature', appears: hwmon },
    mcp980x: { compatible: 'maxim,mcp980x', address: '0x18', what: 'temperature', appears: hwmon },
    tsl4531: { compatible: 'amstaos,tsl4531', address: '0x29', what: 'light' },
    tsl2591: { compatible: 'amstaos,tsl2591', address: '0x29', what: 'light' },
    veml6070: { compatible: 'vishay,veml6070', address: '0x38', what: 'ultraviolet' },
    bh1750: { compatible: 'rohm,bh1750', address: '0x23', what: 'light' },
    ina219: { compatible: 'ti,ina219', address: '0x40', what: 'current and voltage', appears: hwmon },
    max17040: {
      compatible: 'maxim,max17040', address: '0x36', what: 'charge of a cell', appears: [at('/sys/class/power_supply', 'the cell')],
    },
    sgp30: { compatible: 'sensirion,sgp30', address: '0x58', what: 'air quality' },
    sps30: { compatible: 'sensirion,sps30', address: '0x69', what: 'dust' },
    scd4x: { compatible: 'sensirion,scd41', address: '0x62', what: 'carbon dioxide' },
    ccs811: { compatible: 'ams,ccs811', address: '0x5b', what: 'air quality' },
    mlx90640: { compatible: 'melexis,mlx90640', address: '0x33', what: 'a picture of heat' },
    ...MORE_SENSORS,
  }, {
    group: 'sensing', appears: iio, alike: [['^bm[ep]68[08]$', 'bme680']],
    params: [
      line('int_pin', null, 'line of the interrupt'),
      flag('no_timeout', 'the part does not let go of a bus that stands still'), line('reset_pin', null, 'line of the reset'),
    ],
  }),
  onI2c('i2c-mux', 'a bus switch on I²C: each channel is a bus of its own', {
    pca9542: { compatible: 'nxp,pca9542', address: '0x70', what: 'two channels' },
    pca9545: { compatible: 'nxp,pca9545', address: '0x70', what: 'four channels' },
    pca9548: { compatible: 'nxp,pca9548', address: '0x70', what: 'eight channels' },
    ...MORE_SWITCHES,
  }, {
    group: 'bus',
    params: [
      number('base', null, 0, 255, 'number of the first channel\'s bus'), flag('disconnect_on_idle', 'channels are off between uses'),
    ],
    appears: [at('/dev/i2c-*', 'one bus for each channel')],
  }),
  onI2c('i2c-eeprom', 'a memory on I²C', {
    '24c02': { compatible: 'atmel,24c02', address: '0x50', what: '256 bytes' },
    '24c32': { compatible: 'atmel,24c32', address: '0x50', what: '4 kB' },
    '24c64': { compatible: 'atmel,24c64', address: '0x50', what: '8 kB' },
    '24c256': { compatible: 'atmel,24c256', address: '0x50', what: '32 kB' },
  }, { group: 'storing', appears: [at('/sys/bus/i2c/devices/{busnumber}-00{addr:hex}/eeprom', 'the memory')] }),
  onI2c(
    'i2c-pwm-pca9685a', 'sixteen pulse outputs on I²C', { compatible: 'nxp,pca9685-pwm', address: '0x40', node: 'pca' },
    { group: 'switching', properties: '\t\t#pwm-cells = <2>;\n', appears: [at('/sys/class/pwm/pwmchip*', 'sixteen channels')] },
  ),
  onI2c(
    'i2c-fan', 'a fan controller on I²C', { emc2301: { compatible: 'microchip,emc2301', address: '0x2f', what: 'one fan' } },
    {
      group: 'switching',
      params: [
        number('minpwm', 0, 0, 255, 'slowest speed'), number('maxpwm', 255, 0, 255, 'fastest speed'),
        number('midtemp', 45_000, 0, 120_000, 'where it starts, in thousandths of a degree'),
        number('maxtemp', 65_000, 0, 120_000, 'where it is at full speed'),
      ],
      appears: hwmon,
    },
  ),
  onI2c(
    'ads1115', 'a four-input converter on I²C, 16 bit', { compatible: 'ti,ads1115', address: '0x48', node: 'ads1115' },
    {
      group: 'sensing',
      params: ['cha', 'chb', 'chc', 'chd'].flatMap(name => [
        flag(`${name}_enable`, `channel ${name[2]} is read`), number(`${name}_gain`, 1, 0, 7, 'range of the channel'),
        number(`${name}_datarate`, 4, 0, 7, 'rate of the channel'),
      ]),
      appears: iio,
    },
  ),
  onI2c(
    'ads1015', 'a four-input converter on I²C, 12 bit', { compatible: 'ti,ads1015', address: '0x48', node: 'ads1015' },
    {
      group: 'sensing',
      params: ['cha', 'chb', 'chc', 'chd'].flatMap(name => [
        flag(`${name}_enable`, `channel ${name[2]} is read`), number(`${name}_gain`, 1, 0, 7, 'range of the channel'),
        number(`${name}_datarate`, 4, 0, 7, 'rate of the channel'),
      ]),
      appears: iio,
    },
  ),
  onI2c(
    'apds9960', 'light, colour and gestures on I²C', { compatible: 'avago,apds9960', address: '0x39', node: 'apds9960' },
    {
      group: 'sensing', params: [line('gpiopin', 4, 'line of the interrupt'), flag('noints', 'without the interrupt')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{gpiopin} 2>;\n', appears: iio,
    },
  ),
  onI2c(
    'mpu6050', 'motion in six axes on I²C', { compatible: 'invensense,mpu6050', address: '0x68', node: 'mpu6050' },
    {
      group: 'sensing', params: [line('interrupt', 4, 'line of the interrupt')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 1>;\n', appears: iio,
    },
  ),
  onI2c(
    'mpu9250', 'motion in nine axes on I²C', { compatible: 'invensense,mpu9250', address: '0x68', node: 'mpu9250' },
    {
      group: 'sensing', params: [line('interrupt', 4, 'line of the interrupt')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 1>;\n', appears: iio,
    },
  ),
  onI2c(
    'mcp23017', 'sixteen more lines on I²C', { compatible: 'microchip,mcp23017', address: '0x20', node: 'mcp' },
    {
      group: 'bus',
      params: [
        line('gpiopin', 4, 'line of the interrupt'), flag('mcp23008', 'the part with eight lines'), flag('noints', 'without the interrupt'),
      ],
      properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n', appears: [at('/dev/gpiochip*', 'more lines')],
    },
  ),
  onI2c('pcf857x', 'eight or sixteen more lines on I²C', {
    pcf8574: { compatible: 'nxp,pcf8574', address: '0x20', what: 'eight lines' },
    pcf8574a: { compatible: 'nxp,pcf8574a', address: '0x38', what: 'eight lines from 0x38' },
    pcf8575: { compatible: 'nxp,pcf8575', address: '0x20', what: 'sixteen lines' },
    pca8574: { compatible: 'nxp,pca8574', address: '0x20', what: 'eight lines' },
  }, { group: 'bus', properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n', appears: [at('/dev/gpiochip*', 'more lines')] }),
  onI2c('pca953x', 'more lines on I²C', {
    tca6416: { compatible: 'ti,tca6416', address: '0x20', what: 'sixteen lines' },
    pca9535: { compatible: 'nxp,pca9535', address: '0x20', what: 'sixteen lines' },
    pca9534: { compatible: 'nxp,pca9534', address: '0x20', what: 'eight lines' },
    tca9555: { compatible: 'ti,tca9555', address: '0x20', what: 'sixteen lines' },
    ...MORE_EXPANDERS,
  }, { group: 'bus', properties: '\t\tgpio-controller;\n\t\t#gpio-cells = <2>;\n', appears: [at('/dev/gpiochip*', 'more lines')] }),
  onI2c(
    'sc16is750-i2c', 'a serial port on I²C', { compatible: 'nxp,sc16is750', address: '0x48', node: 'sc16is750' },
    {
      group: 'serial', crystal: 'xtal',
      params: [line('int_pin', 24, 'line of the interrupt'), number('xtal', 14_745_600, 1_000_000, 24_000_000, 'its crystal in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n', appears: [at('/dev/ttySC0', 'the port')],
    },
  ),
  onI2c(
    'sc16is752-i2c', 'two serial ports on I²C', { compatible: 'nxp,sc16is752', address: '0x48', node: 'sc16is752' },
    {
      group: 'serial', crystal: 'xtal',
      params: [line('int_pin', 24, 'line of the interrupt'), number('xtal', 14_745_600, 1_000_000, 24_000_000, 'its crystal in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
      appears: [at('/dev/ttySC0', 'the first port'), at('/dev/ttySC1', 'the second port')],
    },
  ),
  onI2c(
    'hd44780-i2c-lcd', 'a text display behind an expander on I²C', { compatible: 'hit,hd44780', address: '0x27', node: 'lcd' },
    {
      group: 'showing', params: [number('display_height', 2, 1, 4, 'rows'), number('display_width', 16, 8, 40, 'letters in a row')],
      appears: [at('/dev/lcd', 'the text display')],
    },
  ),
  onI2c(
    'ssd1306', 'a small picture display on I²C', { compatible: 'solomon,ssd1306fb-i2c', address: '0x3c', node: 'oled' },
    {
      group: 'showing',
      params: [
        number('width', 128, 8, 256, 'columns'), number('height', 64, 8, 128, 'rows'), number('offset', 0, 0, 64, 'first row'),
        flag('inverted', 'dark on light'), flag('sequential', 'its rows follow each other'), flag('normal', 'light on dark'),
        text('address', '0x3c', 'its address'),
      ],
      appears: [at('/dev/fb1', 'the display')],
    },
  ),
  onSpi(
    'mcp3008', 'an eight-input converter on SPI', 'microchip,mcp3008',
    {
      group: 'sensing', bus: 'spi{spi}', select: '{select}', clockHz: 1_600_000,
      params: [
        ...presentOn('', [0, 1]),
        ...[0, 1].flatMap(bus => [0, 1].map(select => number(`spi${bus}-${select}-speed`, 1_600_000, 10_000, 10_000_000, 'clock in Hz'))),
      ],
      properties: '\t\tvref-supply = <&vdd_3v3_reg>;\n', appears: iio,
    },
  ),
  onSpi(
    'mcp3202', 'a two-input converter on SPI', 'microchip,mcp3202',
    {
      group: 'sensing', bus: 'spi{spi}', select: '{select}', clockHz: 1_600_000, params: presentOn('', [0, 1]),
      properties: '\t\tvref-supply = <&vdd_3v3_reg>;\n', appears: iio,
    },
  ),
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
    'maxtherm', 'a thermocouple converter on SPI', '{chosen_compatible}',
    {
      group: 'sensing', bus: 'spi{spi}', select: '{select}', node: 'maxtherm', clockHz: 500_000,
      choices: {
        max6675: { compatible: 'maxim,max6675', what: 'without fault detection' },
        max31855: { compatible: 'maxim,max31855', what: 'with fault detection' },
        max31855k: { compatible: 'maxim,max31855k', what: 'for type K' },
      },
      params: [
        ...[0, 1].flatMap(bus => [0, 1, 2].slice(0, bus ? 3 : 2)
          .map(select => flag(`spi${bus}-${select}`, `the part is on SPI ${bus}, select ${select}`))),
        flag('max6675', 'without fault detection'), flag('max31855', 'with fault detection'), flag('max31855k', 'for type K'),
      ],
      appears: iio,
    },
  ),
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
      params: [line('int_pin', 25, 'line of the interrupt'), number('speed', 12_000_000, 100_000, 20_000_000, 'clock in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n', appears: [at('/sys/class/net/eth*', 'the port')],
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
  onSpi(
    'jedec-spi-nor', 'a flash memory on SPI', 'jedec,spi-nor',
    {
      group: 'storing', bus: 'spi{spi}', select: '{select}', clockHz: 25_000_000,
      params: [
        ...[0, 1].flatMap(bus => [0, 1].map(select => flag(`spi${bus}-${select}`, `the memory is on SPI ${bus}, select ${select}`))),
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
      params: [flag('ds3232', 'temperature-compensated'), flag('ds3234', 'temperature-compensated'), flag('pcf2123', 'low power')],
      appears: [at('/dev/rtc0', 'the clock')],
    },
  ),
  onSpi(
    'anyspi', 'any part on SPI by its compatible string', '{dev}',
    {
      group: 'bus', bus: 'spi{spi}', select: '{select}', node: 'anyspi',
      params: [
        ...[0, 1].flatMap(bus => [0, 1].map(select => flag(`spi${bus}-${select}`, `the part is on SPI ${bus}, select ${select}`))),
        text('dev', null, 'the part\'s compatible string'), number('speed', 500_000, 1000, 125_000_000, 'clock in Hz'),
        flag('cpha', 'clock phase'), flag('cpol', 'clock polarity'),
      ],
    },
  ),
  onSpi(
    'sc16is752-spi1', 'two serial ports on SPI 1', 'nxp,sc16is752',
    {
      group: 'serial', bus: 'spi1', enables: ['spi1'], clockHz: 4_000_000,
      crystal: 'xtal', lines: { 18: 'select', 19: 'SPI input', 20: 'SPI output', 21: 'SPI clock' },
      params: [line('int_pin', 24, 'line of the interrupt'), number('xtal', 14_745_600, 1_000_000, 24_000_000, 'its crystal in Hz')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n',
      appears: [at('/dev/ttySC0', 'the first port'), at('/dev/ttySC1', 'the second port')],
    },
  ),
  onLines(
    'dht11', 'a humidity sensor on one line', 'dht11@{gpiopin:hex}',
    {
      group: 'sensing', params: [line('gpiopin', 4, 'line of the sensor')],
      properties: '\t\tcompatible = "dht11";\n\t\tgpios = <&gpio {gpiopin} 0>;\n', pins: inputPin('{gpiopin}'), appears: iio,
    },
  ),
  onLines(
    'srf04', 'an echo distance sensor on two lines', 'srf04',
    {
      group: 'sensing', params: [line('trigger', 23, 'line that starts it'), line('echo', 24, 'line of the echo')],
      properties: '\t\tcompatible = "devantech,srf04";\n\t\ttrig-gpios = <&gpio {trigger} 0>;\n\t\techo-gpios = <&gpio {echo} 0>;\n',
      appears: iio,
    },
  ),
  onLines(
    'pps-gpio', 'a pulse each second on a line', 'pps@{gpiopin:hex}',
    {
      group: 'sensing',
      params: [
        line('gpiopin', 18, 'line of the pulse'), flag('assert_falling_edge', 'the falling edge counts'),
        flag('capture_clear', 'both edges are told'), choice('pull', ['off', 'down', 'up'], 'off', 'pull resistor'),
      ],
      properties: '\t\tcompatible = "pps-gpio";\n\t\tgpios = <&gpio {gpiopin} 0>;\n', pins: inputPin('{gpiopin}'),
      appears: [at('/dev/pps0', 'the pulse')],
    },
  ),
  {
    name: 'hx711', what: 'a scale converter on two lines', group: 'sensing', origin: ORIGIN,
    params: [line('dout', 5, 'data line'), line('sck', 6, 'clock line')], appears: iio,
    tree: '&{/} {\n\thx711 {\n\t\tcompatible = "avia,hx711";\n\t\tdout-gpios = <&gpio {dout} 0>;\n\t\tsck-gpios = <&gpio {sck} '
      + '0>;\n\t\tavdd-supply = <&vdd_3v3_reg>;\n\t};\n};\n',
  },
]
