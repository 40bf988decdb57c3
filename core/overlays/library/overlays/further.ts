/** Further overlays: sensors, displays, sound, lines and links that makers use now and then. */
import type { OverlaySpec } from '../types'
import { ORIGIN, at, choice, flag, line, number, onI2c, onLines, onSpi, text } from './build'

const iio = [at('/sys/bus/iio/devices/iio:device0', 'its readings')]
const card = [at('/proc/asound/cards', 'the sound card')]
const I2S = { 18: 'sound bit clock', 19: 'sound frame clock', 20: 'sound input', 21: 'sound output' }

/** A sound card with a codec that is set up over I²C. */
const codec = (name: string, what: string, compatible: string, address: string): OverlaySpec => ({
  name, what, group: 'sounding', origin: ORIGIN, params: [], enables: ['i2s'], lines: I2S, holds: ['the sound bus'], appears: card,
  bus: 'i2c1', address,
  tree: `&i2s {\n\tstatus = "okay";\n};\n\n&i2c1 {\n\tstatus = "okay";\n\t#address-cells = <1>;\n\t#size-cells = <0>;\n\n`
    + `\t{label}_codec: codec@${address.slice(2)} {\n\t\tcompatible = "${compatible}";\n\t\treg = <${address}>;\n\t\t#sound-dai-cells = `
    + `<0>;\n\t};\n};\n\n`
    + `&{/} {\n\tsound {\n\t\tcompatible = "simple-audio-card";\n\t\tsimple-audio-card,name = "${name}";\n`
    + '\t\tsimple-audio-card,format = "i2s";\n\n\t\tsimple-audio-card,cpu {\n\t\t\tsound-dai = <&i2s>;\n\t\t};\n\n'
    + '\t\tsimple-audio-card,codec {\n\t\t\tsound-dai = <&{label}_codec>;\n\t\t};\n\t};\n};\n',
})

/** A bus of SPI that the kernel makes on plain lines. */
const softSpi = (first: number, last: number, caution: string): OverlaySpec => ({
  name: `spi-gpio${first}-${last}`, what: `an SPI bus on lines ${first} to ${last}, timed by the processor`, group: 'bus', origin: ORIGIN,
  params: [], appears: [at('/dev/spidev*', 'the bus')], caution,
  tree: `&{/} {\n\tspi-soft {\n\t\tcompatible = "spi-gpio";\n\t\t#address-cells = <1>;\n\t\t#size-cells = <0>;\n\t\tsck-gpios = <&gpio `
    + `${last} 0>;\n`
    + `\t\tmosi-gpios = <&gpio ${last - 1} 0>;\n\t\tmiso-gpios = <&gpio ${last - 2} 0>;\n\t\tcs-gpios = <&gpio ${first} 1>;\n`
    + '\t\tnum-chipselects = <1>;\n\t};\n};\n',
})

const camera = (name: string, what: string): OverlaySpec => ({
  name, what: `${what}, on the camera connector`, group: 'sensing', origin: ORIGIN,
  params: [
    choice('rotation', ['0', '90', '180', '270'], '180', 'which way up'),
    choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'), flag('media-controller', 'programs set up the path'),
    flag('cam0', 'on the first connector'),
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the camera')], tree: '&{/csi} {\n\tstatus = "okay";\n};\n',
})

const lit = (chip: string, what: string) => onSpi(`${chip}-spi`, what, `solomon,${chip}`, {
  group: 'showing', clockHz: 4_500_000,
  params: [
    number('speed', 4_500_000, 100_000, 20_000_000, 'clock in Hz'), line('dc_pin', 24, 'line that tells data from commands'),
    line('reset_pin', 25, 'line of the reset'), number('fps', 25, 1, 120, 'pictures a second at most'),
    choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture'), flag('inverted', 'dark on light'),
  ],
  properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n\t\tbuswidth = <8>;\n',
  appears: [at('/dev/fb1', 'the display')],
})

/** A bridge from video to the camera connector. */
const videoIn: OverlaySpec = {
  name: 'tc358743', what: 'a video input on the camera connector', group: 'sensing', origin: ORIGIN,
  params: [
    flag('4lane', 'four pairs of wires'), number('link-frequency', 486_000_000, 297_000_000, 486_000_000, 'clock of the pairs in Hz'),
    flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the video input')], tree: '&{/csi} {\n\tstatus = "okay";\n};\n',
}

const small = (name: string, what: string, note: string, more: Partial<OverlaySpec> = {}): OverlaySpec => ({
  name, what, group: 'system', origin: ORIGIN, params: [], appears: [], tree: `&{/chosen} {\n\t${note}-note;\n};\n`, ...more,
})

const dsi = (name: string, what: string): OverlaySpec => ({
  name, what, group: 'showing', origin: ORIGIN,
  params: [
    flag('dsi0', 'on the first display connector'), flag('invx', 'mirrors left and right of the touch'),
    flag('invy', 'mirrors top and bottom of the touch'), flag('swapxy', 'swaps the axes of the touch'),
    flag('disable_touch', 'without its touch'),
    choice('rotation', ['0', '90', '180', '270'], '0', 'rotation of the picture'),
  ],
  holds: ['the display connector'], appears: [at('/dev/dri/card0', 'the panel'), at('/dev/input/event*', 'its touch')],
  tree: '&{/dsi} {\n\tstatus = "okay";\n\n\tpanel {\n\t\tcompatible = "panel-dsi";\n\t\treg = <0>;\n\t};\n};\n',
})

export const FURTHER: OverlaySpec[] = [
  // Sensing
  onI2c('mlx90640', 'a thermal camera of 32 × 24 points on I²C', { compatible: 'melexis,mlx90640', address: '0x33', node: 'mlx90640' }, {
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
  onI2c('bmp085_i2c-sensor', 'an older pressure sensor on I²C', { compatible: 'bosch,bmp085', address: '0x77', node: 'bmp085' }, {
    group: 'sensing', appears: iio, caution: 'Newer images have i2c-sensor,bmp085 for it.',
  }),
  onI2c('iqs550', 'a touch pad on I²C', { compatible: 'azoteq,iqs550', address: '0x74', node: 'iqs550' }, {
    group: 'input',
    params: [
      line('interrupt', 4, 'line of the interrupt'), line('reset', null, 'line of the reset'), flag('invx', 'mirrors left and right'),
      flag('invy', 'mirrors top and bottom'), flag('swapxy', 'swaps the axes'),
    ],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 4>;\n{gpio:reset:reset-gpios}',
    appears: [at('/dev/input/event*', 'the touch pad')],
  }),
  onI2c('exc3000', 'a large touch panel on I²C', { compatible: 'eeti,exc3000', address: '0x2a', node: 'exc3000' }, {
    group: 'input',
    params: [
      line('interrupt', 4, 'line of the interrupt'), number(
        'sizex', 4096, 16, 16_384, 'steps across',
      ), number('sizey', 4096, 16, 16_384, 'steps down'),
      flag('invx', 'mirrors left and right'), flag('invy', 'mirrors top and bottom'), flag('swapxy', 'swaps the axes'),
    ],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 8>;\n\t\ttouchscreen-size-x = <{sizex}>;\n'
      + '\t\ttouchscreen-size-y = <{sizey}>;\n',
    appears: [at('/dev/input/event*', 'the touch')],
  }),
  ...[
    ['imx258', 'a camera of thirteen megapixels'], ['imx327', 'a camera for little light'], ['imx378', 'a camera of twelve megapixels'],
    ['imx462', 'a camera for very little light'], ['ov7251', 'a small monochrome camera with a global shutter'],
    ['ov2311', 'a monochrome camera of two megapixels with a global shutter'], ['ov64a40', 'a camera of 64 megapixels'],
    ['irs1125', 'a camera that measures distance'],
  ].map(([name, what]) => camera(name!, what!)),
  videoIn,
  {
    ...videoIn, name: 'tc358743-audio', what: 'the sound of the video input, on the sound bus', group: 'sounding', params: [],
    enables: ['i2s'], lines: I2S, holds: ['the sound bus'], appears: card, tree: '&i2s {\n\tstatus = "okay";\n};\n',
  },
  // Showing
  lit('ssd1327', 'a grey lit display on SPI'),
  onSpi('sh1106-spi', 'a small lit display on SPI', 'sinowealth,sh1106', {
    group: 'showing', clockHz: 4_000_000,
    params: [
      number('speed', 4_000_000, 100_000, 20_000_000, 'clock in Hz'), line('dc_pin', 24, 'line that tells data from commands'),
      line('reset_pin', 25, 'line of the reset'), number('height', 64, 32, 128, 'rows'), number(
        'fps', 25, 1, 120, 'pictures a second at most',
      ),
      choice('rotate', ['0', '180'], '0', 'rotation of the picture'),
    ],
    properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n\t\tbuswidth = <8>;\n',
    appears: [at('/dev/fb1', 'the display')],
  }),
  dsi('vc4-kms-dsi-ili9881-5inch', 'a panel of five inches on the display connector'),
  dsi('vc4-kms-dsi-ili9881-7inch', 'a panel of seven inches on the display connector'),
  {
    name: 'vc4-kms-dpi-panel', what: 'a parallel panel of a known kind', group: 'showing', origin: ORIGIN,
    params: [
      flag('at056tn53v1', 'a panel of 640 × 480'), choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture'),
    ],
    lines: Object.fromEntries(Array.from({ length: 22 }, (_, i) => [i, i < 4 ? 'panel timing' : 'panel colour'])),
    holds: ['the parallel panel port'], appears: [at('/dev/dri/card0', 'the panel')], tree: '&dpi {\n\tstatus = "okay";\n};\n',
  },
  {
    name: 'vga666', what: 'an analog picture from eighteen lines and resistors', group: 'showing', origin: ORIGIN,
    params: [flag('mode6', 'as the panel port\'s sixth format')],
    lines: Object.fromEntries(Array.from({ length: 20 }, (_, i) => [i + 2, i < 2 ? 'picture timing' : 'picture colour'])),
    holds: ['the parallel panel port'], appears: [], tree: '&dpi {\n\tstatus = "okay";\n};\n',
    caution: 'It takes nearly every line of the header: no bus is left.',
  },
  // Sounding
  codec('proto-codec', 'a sound board with its codec on I²C', 'wlf,wm8731', '0x1a'),
  codec('adau1977-adc', 'four microphone inputs, set up over I²C', 'adi,adau1977', '0x11'),
  codec('cirrus-wm5102', 'a sound board with its codec on I²C', 'wlf,wm5102', '0x1a'),
  {
    name: 'i2s-gpio28-31', what: 'the sound bus on lines 28 to 31, away from the header', group: 'sounding', origin: ORIGIN, params: [],
    appears: [], tree: '&i2s_pins {\n\tbrcm,pins = <28 29 30 31>;\n};\n',
    caution: 'No header of forty positions has those lines.',
  },
  {
    name: 'i2s-master-dac', what: 'a sound converter that makes the clocks itself', group: 'sounding', origin: ORIGIN, params: [],
    enables: ['i2s'], lines: I2S, holds: ['the sound bus'], appears: card, tree: '&i2s {\n\tstatus = "okay";\n};\n',
  },
  // Buses and lines
  softSpi(35, 39, 'Only on boards that lead these lines out: no header of forty positions does.'),
  softSpi(40, 45, 'Only on boards that lead these lines out: no header of forty positions does.'),
  {
    name: 'i2c-rtc-gpio', what: 'a clock part on an I²C bus of two plain lines', group: 'sensing', origin: ORIGIN,
    params: [
      ...['ds1307', 'ds1339', 'ds3231', 'mcp7940x', 'pcf2127', 'pcf8523', 'pcf8563', 'pcf85063', 'pcf85063a', 'rv3028', 'rv1805', 'abx80x']
        .map(name => flag(name, 'the clock part')),
      line('i2c_gpio_sda', 23, 'data line'), line('i2c_gpio_scl', 24, 'clock line'),
      number('i2c_gpio_delay_us', 2, 1, 1000, 'half a clock in microseconds'), flag('wakeup-source', 'it wakes the board'),
    ],
    appears: [at('/dev/rtc0', 'the clock')],
    tree: '&{/} {\n\ti2c@0 {\n\t\tcompatible = "i2c-gpio";\n\t\treg = <0>;\n\t\tgpios = <&gpio {i2c_gpio_sda} 6>, <&gpio {i2c_gpio_scl} '
      + '6>;\n'
      + '\t\ti2c-gpio,delay-us = <{i2c_gpio_delay_us}>;\n\t\t#address-cells = <1>;\n\t\t#size-cells = <0>;\n\t};\n};\n',
  },
  onLines('pwm-pio', 'pulses on any line of the newest family, made by a circuit', 'pwm@{gpio:hex}', {
    group: 'switching', params: [line('gpio', 4, 'line of the pulses')],
    properties: '\t\tcompatible = "voltaris,pwm-pio";\n\t\t#pwm-cells = <3>;\n\t\tgpios = <&gpio {gpio} 0>;\n',
    appears: [at('/sys/class/pwm/pwmchip*', 'the pulses')], caution: 'The newest family alone has the circuit.',
  }),
  onLines('ws2812-pio', 'a strip of addressable lamps on any line of the newest family', 'strip@{gpio:hex}', {
    group: 'switching',
    params: [
      line('gpio', 4, 'line of the strip'), number('num_leds', 60, 1, 16_000, 'lamps'), number(
        'brightness', 255, 0, 255, 'brightness at most',
      ),
      text('dev_name', 'leds', 'name of its device'), flag('rgbw', 'with white lamps of their own'),
    ],
    properties: '\t\tcompatible = "voltaris,ws2812-pio";\n\t\tgpios = <&gpio {gpio} 0>;\n', appears: [at('/dev/leds0', 'the strip')],
    caution: 'The newest family alone has the circuit.',
  }),
  {
    name: 'pwm1', what: 'the second pulse circuit, on lines 40 and 41 away from the header', group: 'switching', origin: ORIGIN,
    params: [
      number('clock', 100_000_000, 1_000_000, 500_000_000, 'clock of the circuit in Hz'),
    ], appears: [at('/sys/class/pwm/pwmchip*', 'the pulses')],
    tree: '&pwm {\n\tstatus = "okay";\n};\n',
  },
  // Talking
  onSpi('enc28j60-spi2', 'a wired network port on SPI 2', 'microchip,enc28j60', {
    group: 'talking', bus: 'spi2', clockHz: 12_000_000,
    params: [number('int_pin', 39, 0, 53, 'line of the interrupt'), number('speed', 12_000_000, 100_000, 20_000_000, 'clock in Hz')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n', appears: [at('/sys/class/net/eth*', 'the port')],
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
    params: [number('baudrate', 115_200, 9600, 4_000_000, 'bits a second')], enables: ['uart0'], lines: { 14: 'transmit', 15: 'receive' },
    appears: [at('/sys/class/net/eth1', 'the network')],
    tree: '&uart0 {\n\tstatus = "okay";\n\n\tnetwork {\n\t\tcompatible = "qca,qca7000";\n\t\tcurrent-speed = <{baudrate}>;\n\t};\n};\n',
  },
  // The board itself
  small('disable-emmc2', 'switches the fast card reader off', 'emmc2'),
  small('sdhost', 'drives the card by the older circuit', 'sdhost', {
    params: [
      number('overclock_50', 50, 25, 100, 'clock asked of a 50 MHz card, in MHz'), flag('force_pio', 'without direct memory access'),
    ],
    holds: ['the driver of the card'], group: 'storing',
  }),
  small('pcie-32bit-dma', 'keeps what the expansion port reads and writes within 4 GB', 'pcie-dma'),
  small('rpivid-v4l2', 'decodes video in hardware', 'rpivid', { appears: [at('/dev/video19', 'the decoder')] }),
  small('dwc-otg', 'the older driver of the USB socket', 'dwc-otg', { holds: ['the USB circuit'] }),
  small('highperi', 'puts the circuits into the high part of the memory', 'highperi', {
    caution: 'The firmware has to do the same (arm_peri_high=1): without it the board does not start.',
  }),
  small('vl805', 'the USB controller on the expansion port of a module', 'vl805'),
]
