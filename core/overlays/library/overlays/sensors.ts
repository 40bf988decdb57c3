/** Overlays of parts that measure. From memory unless an overlay says otherwise. */
import type { OverlaySpec, ParamSpec } from '../types'
import { at, choice, flag, hwmon, inputPin, line, number, onI2c, onLines, onSpi, ORIGIN } from './build'
import { MORE_SENSORS } from './chips'

const presentOn = (prefix: string, buses: number[]): ParamSpec[] => buses.flatMap(bus => [0, 1, 2].slice(0, bus ? 3 : 2)
  .map(select => flag(`${prefix}spi${bus}-${select}-present`, `the part is on SPI ${bus}, select ${select}`)))

const iio = [at('/sys/bus/iio/devices/iio:device*', 'the readings')]

export const SENSORS: OverlaySpec[] = [
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
      compatible: 'maxim,max17040', address: '0x36', what: 'charge of a cell',
      appears: [at('/sys/class/power_supply', 'the cell')],
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
      flag('no_timeout', 'the part does not let go of a bus that stands still'),
      line('reset_pin', null, 'line of the reset'),
    ],
  }),
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
    'apds9960', 'light, colour and gestures on I²C',
    { compatible: 'avago,apds9960', address: '0x39', node: 'apds9960' },
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
  onSpi(
    'mcp3008', 'an eight-input converter on SPI', 'microchip,mcp3008',
    {
      group: 'sensing', bus: 'spi{spi}', select: '{select}', clockHz: 1_600_000,
      params: [
        ...presentOn('', [0, 1]),
        ...[0, 1].flatMap(bus =>
          [0, 1].map(select => number(`spi${bus}-${select}-speed`, 1_600_000, 10_000, 10_000_000, 'clock in Hz'))),
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
        flag('max6675', 'without fault detection'), flag('max31855', 'with fault detection'),
        flag('max31855k', 'for type K'),
      ],
      appears: iio,
    },
  ),
  onLines(
    'dht11', 'a humidity sensor on one line', 'dht11@{gpiopin:hex}',
    {
      group: 'sensing', params: [line('gpiopin', 4, 'line of the sensor')],
      properties: '\t\tcompatible = "dht11";\n\t\tgpios = <&gpio {gpiopin} 0>;\n', pins: inputPin('{gpiopin}'),
      appears: iio,
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
  onI2c('mcp342x', 'an exact converter on I²C', {
    mcp3421: { compatible: 'microchip,mcp3421', address: '0x68', what: 'one input, 18 bit' },
    mcp3422: { compatible: 'microchip,mcp3422', address: '0x68', what: 'two inputs, 18 bit' },
    mcp3424: { compatible: 'microchip,mcp3424', address: '0x68', what: 'four inputs, 18 bit' },
    mcp3426: { compatible: 'microchip,mcp3426', address: '0x68', what: 'two inputs, 16 bit' },
    mcp3428: { compatible: 'microchip,mcp3428', address: '0x68', what: 'four inputs, 16 bit' },
  }, { group: 'sensing', appears: [at('/sys/bus/iio/devices/iio:device0', 'its readings')] }),
  onI2c('mlx90640', 'a thermal camera of 32 × 24 points on I²C',
    { compatible: 'melexis,mlx90640', address: '0x33', node: 'mlx90640' }, {
      group: 'sensing', appears: [at('/dev/video*', 'the thermal picture')],
    }),
  onI2c('ltc294x', 'a meter of charge on I²C', {
    ltc2941: { compatible: 'lltc,ltc2941', address: '0x64', what: 'charge' },
    ltc2942: { compatible: 'lltc,ltc2942', address: '0x64', what: 'charge, voltage and temperature' },
    ltc2943: { compatible: 'lltc,ltc2943', address: '0x64', what: 'charge, voltage, current and temperature' },
    ltc2944: { compatible: 'lltc,ltc2944', address: '0x64', what: 'as before, up to 60 V' },
  }, {
    group: 'sensing', properties: '\t\tlltc,resistor-sense = <{resistor-sense}>;\n\t\tlltc,prescaler-exponent = <{prescaler-exponent}>;\n',
    params: [
      number(
        'resistor-sense', 50, 1, 1000, 'its resistor in thousandths of an ohm',
      ), number('prescaler-exponent', 6, 0, 12, 'how finely it counts'),
    ],
    appears: [at('/sys/class/power_supply', 'the meter')],
  }),
  onI2c('bmp085_i2c-sensor', 'an older pressure sensor on I²C',
    { compatible: 'bosch,bmp085', address: '0x77', node: 'bmp085' }, {
      group: 'sensing', appears: iio, caution: 'Newer images have i2c-sensor,bmp085 for it.',
    }),
  {
    name: 'i2c-rtc-gpio', what: 'a clock part on an I²C bus of two plain lines', group: 'sensing', origin: ORIGIN,
    params: [
      ...['ds1307', 'ds1339', 'ds3231', 'mcp7940x', 'pcf2127', 'pcf8523', 'pcf8563', 'pcf85063', 'pcf85063a', 'rv3028', 'rv1805', 'abx80x']
        .map(name => flag(name, 'the clock part')),
      line('i2c_gpio_sda', 23, 'data line'), line('i2c_gpio_scl', 24, 'clock line'),
      number('i2c_gpio_delay_us', 2, 1, 1000, 'half a clock in microseconds'),
      flag('wakeup-source', 'it wakes the board'),
    ],
    appears: [at('/dev/rtc0', 'the clock')],
    tree: '&{/} {\n\ti2c@0 {\n\t\tcompatible = "i2c-gpio";\n\t\treg = <0>;\n\t\tgpios = <&gpio {i2c_gpio_sda} 6>, <&gpio {i2c_gpio_scl} '
      + '6>;\n'
      + '\t\ti2c-gpio,delay-us = <{i2c_gpio_delay_us}>;\n\t\t#address-cells = <1>;\n\t\t#size-cells = <0>;\n\t};\n};\n',
  },
]
