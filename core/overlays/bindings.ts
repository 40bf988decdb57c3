/**
 * Kernel bindings of the catalogue's parts: node, `compatible`, and which property takes which of the part's signals. Published: Linux 6.1,
 * `Documentation/devicetree/bindings`, the file named with each, or the driver itself where it has no binding; the reference tests hold
 * what is written by them against those files. A part of the maker's own brings its binding in its file, under `kernel`.
 */
import { tableOf } from '../table'
import type { KernelBinding } from '../catalogue/types'
import type { ResolvedPart } from '../facts/types'

const kernel = (file: string) => file.endsWith('.c') ? `published: Linux 6.1, ${file}` : `published: Linux 6.1, bindings/${file}`
const i2c = (node: string, compatible: string, file: string, more: Partial<KernelBinding> = {}): KernelBinding => ({
  node, compatible, on: 'i2c', origin: kernel(file), ...more,
})
const spi = (node: string, compatible: string, file: string, more: Partial<KernelBinding> = {}): KernelBinding => ({
  node, compatible, on: 'spi', origin: kernel(file), ...more,
})
const lines = (node: string, compatible: string, file: string, more: Partial<KernelBinding> = {}): KernelBinding => ({
  node, compatible, on: 'lines', origin: kernel(file), ...more,
})

/** Rising, falling, high, low. Published: bindings/interrupt-controller. */
const RISING = 1, FALLING = 2, LOW = 8
const at = (signal: string, type: NonNullable<KernelBinding['interrupt']>['type'], pull?: 'up' | 'down') => ({
  interrupt: { signal, type, ...(pull && { pull }) },
})
const vdd = (property = 'vdd-supply') => ({ supplies: { [property]: '3V3' as const } })

/** Keys by their kernel numbers. Published: linux/input-event-codes.h. */
const KEY = { enter: 28, up: 103, left: 105, right: 106, down: 108, power: 116, one: 2 }
const key = (signal: string, code: number, label: string) => ({
  name: `key-${signal}`, signal, property: 'gpios', low: true, pull: 'up' as const,
  properties: [`label = "${label}";`, `linux,code = <${code}>;`, 'debounce-interval = <10>;'],
})
const lamp = (signal: string, label: string) => ({
  name: `led-${signal}`, signal, property: 'gpios', properties: [`label = "${label}";`, 'default-state = "off";'],
})

/** A screen on SPI that is told by a file of start commands, `core/overlays/start-files.ts`; its driver wants size and timing. */
const screen = (): KernelBinding => spi('display', '{start-file}', 'display/panel/panel-mipi-dbi-spi.yaml', {
  generic: 'panel-mipi-dbi-spi',
  gpios: [{ property: 'dc-gpios', signal: 'dc' }, { property: 'reset-gpios', signal: 'reset' }],
  properties: ['width-mm = <{display:mm-wide}>;', 'height-mm = <{display:mm-high}>;', 'write-only;'],
  children: [{
    name: 'panel-timing',
    properties: [
      'hactive = <{display:columns}>;', 'vactive = <{display:rows}>;',
      ...[
        'hback-porch', 'hfront-porch', 'hsync-len', 'vback-porch', 'vfront-porch', 'vsync-len', 'clock-frequency',
      ].map(name => `${name} = <0>;`),
    ],
  }],
})

export const BINDINGS = tableOf<KernelBinding>({
  'acceleration-i2c': i2c(
    'accelerometer', 'st,lis3dh-accel', 'iio/st,st-sensors.yaml',
    { ...vdd(), ...at('int', RISING), properties: ['st,drdy-int-pin = <1>;'] },
  ),
  'air-quality-i2c': i2c('gas', 'sensirion,sgp30', 'trivial-devices.yaml'),
  'analog-4-i2c': i2c(
    'adc', 'ti,ads1115', 'iio/adc/ti,ads1015.yaml',
    {
      properties: ['#address-cells = <1>;', '#size-cells = <0>;'],
      children: [0, 1, 2, 3].map(n => ({ name: `channel@${n + 4}`, properties: [`reg = <${n + 4}>;`] })),
    },
  ),
  'analog-8-spi': spi('adc', 'microchip,mcp3008', 'iio/adc/microchip,mcp3201.yaml', { ...vdd('vref-supply') }),
  'analog-out-i2c': i2c('dac', 'microchip,mcp4725', 'iio/dac/microchip,mcp4725.yaml', { ...vdd() }),
  'bus-vehicle-spi': spi(
    'can', 'microchip,mcp2515', 'net/can/microchip,mcp251x.txt',
    { ...at('int', LOW), clock: { hz: 8_000_000 }, supplies: { 'vdd-supply': '5V', 'xceiver-supply': '5V' } },
  ),
  'buttons-4': lines(
    'buttons', 'gpio-keys', 'input/gpio-keys.yaml', { children: [1, 2, 3, 4].map(n => key(`b${n}`, KEY.one + n - 1, `Button ${n}`)) },
  ),
  'buzzer-active': lines('sounder', 'gpio-beeper', 'input/gpio-beeper.txt', { gpios: [{ property: 'gpios', signal: 'in' }] }),
  'carbon-dioxide-i2c': i2c('co2', 'sensirion,scd41', 'iio/chemical/sensirion,scd4x.yaml', { ...vdd() }),
  'clock-add-on': i2c('rtc', 'maxim,ds3231', 'rtc/rtc-ds1307.yaml'),
  'clock-cell-i2c': i2c('rtc', 'maxim,ds3231', 'rtc/rtc-ds1307.yaml'),
  'clock-plain-i2c': i2c('rtc', 'dallas,ds1307', 'rtc/rtc-ds1307.yaml'),
  'current-meter-i2c': i2c('power-sensor', 'ti,ina219', 'hwmon/ti,ina2xx.yaml', { properties: ['shunt-resistor = <100000>;'] }),
  'distance-echo-5v': lines(
    'distance', 'devantech,srf04', 'iio/proximity/devantech-srf04.yaml',
    { gpios: [{ property: 'trig-gpios', signal: 'trig' }, { property: 'echo-gpios', signal: 'echo' }] },
  ),
  'distance-light-i2c': i2c(
    'distance', 'st,vl53l0x', 'iio/proximity/st,vl53l0x.yaml',
    { ...vdd(), ...at('int', FALLING), gpios: [{ property: 'reset-gpios', signal: 'shut', low: true }] },
  ),
  'encoder-rotary': lines(
    'knob', 'rotary-encoder', 'input/rotary-encoder.txt',
    {
      gpioList: { property: 'gpios', signals: ['a', 'b'], pull: 'up' },
      properties: ['rotary-encoder,relative-axis;', 'linux,axis = <7>;', 'rotary-encoder,encoding = "gray";'],
    },
  ),
  'expander-16-i2c': i2c(
    'gpio', 'microchip,mcp23017', 'pinctrl/pinctrl-mcp23s08.txt',
    {
      ...at('int', LOW, 'up'),
      properties: [
        'gpio-controller;', '#gpio-cells = <2>;', 'interrupt-controller;', '#interrupt-cells = <2>;', '#address-cells = <0>;',
        'microchip,irq-mirror;',
      ],
    },
  ),
  'expander-16-spi': spi(
    'gpio', 'microchip,mcp23s17', 'pinctrl/pinctrl-mcp23s08.txt',
    {
      ...at('int', LOW, 'up'),
      properties: [
        'gpio-controller;', '#gpio-cells = <2>;', 'interrupt-controller;', '#interrupt-cells = <2>;', '#address-cells = <0>;',
        'microchip,spi-present-mask = <0x01>;',
      ],
    },
  ),
  'expander-8-i2c': i2c('gpio', 'nxp,pcf8574', 'gpio/nxp,pcf8575.yaml', { properties: ['gpio-controller;', '#gpio-cells = <2>;'] }),
  'fan-5v': lines(
    'fan', 'gpio-fan', 'hwmon/gpio-fan.txt',
    { gpios: [{ property: 'gpios', signal: 'drive' }], properties: [
      'gpio-fan,speed-map = <0 0>, <5000 1>;', '#cooling-cells = <2>;',
    ], must: ['drive'], cools: true },
  ),
  'gesture-i2c': i2c('gesture', 'avago,apds9960', 'iio/light/avago,apds9960.yaml', { ...at('int', FALLING, 'up') }),
  'hub-2-i2c': i2c(
    'i2c-mux', 'nxp,pca9542', 'i2c/i2c-mux-pca954x.yaml',
    {
      properties: ['#address-cells = <1>;', '#size-cells = <0>;'],
      children: [0, 1].map(n => ({ name: `i2c@${n}`, properties: [`reg = <${n}>;`, '#address-cells = <1>;', '#size-cells = <0>;'] })),
    },
  ),
  'hub-8-i2c': i2c(
    'i2c-mux', 'nxp,pca9548', 'i2c/i2c-mux-pca954x.yaml',
    {
      properties: ['#address-cells = <1>;', '#size-cells = <0>;'],
      children: [0, 1, 2, 3, 4, 5, 6, 7].map(n => ({
        name: `i2c@${n}`, properties: [`reg = <${n}>;`, '#address-cells = <1>;', '#size-cells = <0>;'],
      })),
    },
  ),
  'humidity-i2c': i2c('humidity', 'sensirion,sht3x', 'drivers/hwmon/sht3x.c'),
  'infrared-receiver': lines(
    'ir-receiver', 'gpio-ir-receiver', 'media/gpio-ir-receiver.yaml',
    {
      unit: 'out', gpios: [{ property: 'gpios', signal: 'out', low: true }], properties: ['linux,rc-map-name = "rc-rc6-mce";'],
    },
  ),
  'infrared-sender': lines('ir-sender', 'gpio-ir-tx', 'leds/irled/gpio-ir-tx.txt', { gpios: [{ property: 'gpios', signal: 'in' }] }),
  'joystick-contacts': lines(
    'joystick', 'gpio-keys', 'input/gpio-keys.yaml',
    {
      children: [
        key('up', KEY.up, 'Up'), key('down', KEY.down, 'Down'), key('left', KEY.left, 'Left'), key('right', KEY.right, 'Right'),
        key('fire', KEY.enter, 'Fire'),
      ],
    },
  ),
  'keypad-matrix': lines(
    'keypad', 'gpio-matrix-keypad', 'input/gpio-matrix-keypad.txt',
    // The flags of the lines count from Linux 6.12 on, the property before.
    {
      gpioRows: { rows: 'row', columns: 'col' },
      properties: ['gpio-activelow;', 'debounce-delay-ms = <5>;', 'col-scan-delay-us = <2>;'],
    },
  ),
  'lamps-add-on-3': lines(
    'lamps', 'gpio-leds', 'leds/leds-gpio.yaml', { children: [lamp('l1', 'lamp-1'), lamp('l2', 'lamp-2'), lamp('l3', 'lamp-3')] },
  ),
  'led-plain': lines('lamp', 'gpio-leds', 'leds/leds-gpio.yaml', { children: [lamp('a', 'lamp')] }),
  // Its binding has no interrupt: the driver of 6.1 takes none from the tree.
  'light-i2c': i2c('light', 'amstaos,tsl2561', 'iio/light/amstaos,tsl2563.yaml'),
  'colour-i2c': i2c('colour', 'amstaos,tcs3472', 'drivers/iio/light/tcs3472.c', { ...at('int', FALLING, 'up') }),
  'magnetic-i2c': i2c('magnetometer', 'honeywell,hmc5883l', 'iio/magnetometer/honeywell,hmc5843.yaml', { ...at('drdy', RISING) }),
  'memory-i2c': i2c('eeprom', 'atmel,24c256', 'eeprom/at24.yaml', { properties: ['pagesize = <64>;'] }),
  'motion-i2c': i2c('imu', 'invensense,mpu6050', 'iio/imu/invensense,mpu6050.yaml', { ...vdd(), ...at('int', RISING) }),
  'network-spi': spi('ethernet', 'microchip,enc28j60', 'net/microchip,enc28j60.txt', { ...at('int', FALLING) }),
  'oled-i2c': i2c(
    'oled', 'solomon,ssd1306fb-i2c', 'display/solomon,ssd1307fb.yaml',
    { properties: ['solomon,width = <128>;', 'solomon,height = <64>;', 'solomon,page-offset = <0>;', 'solomon,com-invdir;'] },
  ),
  'orientation-i2c': i2c('imu', 'bosch,bno055', 'iio/imu/bosch,bno055.yaml'),
  'power-add-on-battery': i2c(
    'fuel-gauge', 'maxim,max17040', 'power/supply/maxim,max17040.yaml',
    { properties: ['maxim,alert-low-soc-level = <10>;'], ...at('alert', FALLING, 'up') },
  ),
  'pressure-spi': spi('pressure', 'bosch,bmp280', 'iio/pressure/bmp085.yaml', { supplies: { 'vdda-supply': '3V3', 'vddd-supply': '3V3' } }),
  'pulse-per-second': lines('pps', 'pps-gpio', 'pps/pps-gpio.txt', { gpios: [{ property: 'gpios', signal: 'pps' }] }),
  // Its words go by the serial port, without a node; the pulse has one, where it is wired.
  'positioning-serial': lines('pps', 'pps-gpio', 'pps/pps-gpio.txt', { gpios: [{ property: 'gpios', signal: 'pps' }], must: ['pps'] }),
  'scale-two-wire': lines(
    'scale', 'avia,hx711', 'iio/adc/avia-hx711.yaml',
    { gpios: [{ property: 'dout-gpios', signal: 'dout' }, { property: 'sck-gpios', signal: 'sck' }], supplies: { 'avdd-supply': '3V3' } },
  ),
  'sensor-add-on-10': i2c(
    'pressure', 'bosch,bmp280', 'iio/pressure/bmp085.yaml', { supplies: { 'vdda-supply': '3V3', 'vddd-supply': '3V3' } },
  ),
  'pressure-humidity-i2c': i2c(
    'pressure', 'bosch,bme280', 'iio/pressure/bmp085.yaml', { supplies: { 'vdda-supply': '3V3', 'vddd-supply': '3V3' } },
  ),
  'serial-2-i2c': i2c(
    'serial', 'nxp,sc16is752', 'serial/nxp,sc16is7xx.txt',
    { ...at('irq', FALLING, 'up'), clock: { hz: 14_745_600 }, properties: ['gpio-controller;', '#gpio-cells = <2>;'] },
  ),
  'servo-16-i2c': i2c('pwm', 'nxp,pca9685-pwm', 'pwm/nxp,pca9685-pwm.txt', { properties: ['#pwm-cells = <2>;'] }),
  'text-display-i2c': i2c('gpio', 'nxp,pcf8574', 'gpio/nxp,pcf8575.yaml', { properties: ['gpio-controller;', '#gpio-cells = <2>;'] }),
  'thermal-array-i2c': i2c('video', 'panasonic,amg88xx', 'media/i2c/panasonic,amg88xx.txt'),
  'thermocouple-spi': spi('temperature', 'maxim,max31855k', 'iio/temperature/maxim,max31855k.yaml'),
  'thermometer-distance-i2c': i2c('temperature', 'melexis,mlx90614', 'iio/temperature/melexis,mlx90614.yaml'),
  'touch-12-i2c': i2c(
    'touchkey', 'fsl,mpr121-touchkey', 'input/fsl,mpr121-touchkey.yaml',
    {
      ...vdd(),
      interrupt: { signal: 'irq', type: FALLING, pull: 'up', otherwise: ['poll-interval = <20>;'] },
      properties: ['linux,keycodes = <2>, <3>, <4>, <5>, <6>, <7>, <8>, <9>, <10>, <11>, <30>, <48>;'],
    },
  ),
  'ultraviolet-i2c': i2c('uv', 'vishay,veml6070', 'drivers/iio/light/veml6070.c'),
  'screen-spi-24': screen(),
  'screen-spi-13': screen(),
  'probe-onewire': lines('onewire', 'w1-gpio', 'w1/w1-gpio.yaml', { gpios: [{ property: 'gpios', signal: 'dq' }] }),
  'power-latch': lines(
    'power-off', 'gpio-poweroff', 'power/reset/gpio-poweroff.yaml', { gpios: [{ property: 'gpios', signal: 'hold', low: true }] },
  ),
  'radio-spi': spi(
    'radio', 'semtech,sx1276', 'trivial (out of the kernel\'s tree)',
    { origin: 'memory', ...at('dio0', RISING), gpios: [{ property: 'reset-gpios', signal: 'reset', low: true }] },
  ),
})

/** The part's binding: its own, or the one that ships. */
export const bindingOf = ({ part }: Pick<ResolvedPart, 'part'>): KernelBinding | null => part.kernel ?? BINDINGS[part.id] ?? null
