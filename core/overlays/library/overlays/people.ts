/** Overlays of what people see, hear and press, and of what the board switches. */
import type { OverlaySpec, ParamSpec } from '../types'
import { ORIGIN, at, choice, flag, inputPin, line, number, onI2c, onLines, onSpi, outputPin, text } from './build'

const card = [at('/proc/asound/cards', 'the sound card')]
const events = (what: string) => [at('/dev/input/event*', what)]
const I2S = { 18: 'sound bit clock', 19: 'sound frame clock', 20: 'sound input', 21: 'sound output' }

/** A sound card on the sound bus. */
function sound(name: string, what: string, compatible: string, more: Partial<OverlaySpec> = {}): OverlaySpec {
  return {
    name, what, group: 'sounding', origin: ORIGIN, params: [], enables: ['i2s'], lines: I2S, holds: ['the sound bus'], appears: card,
    tree: `&i2s {\n\tstatus = "okay";\n};\n\n&{/} {\n\t{label}_codec: codec {\n\t\tcompatible = "${compatible}";\n\t\t#sound-dai-cells = `
      + `<0>;\n\t\tstatus = "okay";\n\t};\n\n\tsound {\n\t\tcompatible = "simple-audio-card";\n\t\tsimple-audio-card,name = `
      + `"${name}";\n\t\tsimple-audio-card,format = "i2s";\n\n\t\tsimple-audio-card,cpu {\n\t\t\tsound-dai = `
      + `<&i2s>;\n\t\t};\n\n\t\tsimple-audio-card,codec {\n\t\t\tsound-dai = <&{label}_codec>;\n\t\t};\n\t};\n};\n`,
    ...more,
  }
}

const rotate = choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture in degrees')
const touchTurns: ParamSpec[] = [
  flag('swapxy', 'swaps the axes of the touch'), flag('invx', 'mirrors left and right of the touch'),
  flag('invy', 'mirrors top and bottom of the touch'), number('sizex', null, 16, 4096, 'columns of the touch'),
  number('sizey', null, 16, 4096, 'rows of the touch'),
]

const TREE_DRM = (node: string) => `&{${node}} {\n\tstatus = "okay";\n};\n`
const kmsParams = [
  flag('audio', 'sound over the video cable'), flag('noaudio', 'no sound over the video cable'),
  flag('composite', 'picture on the analog socket'), flag('nohdmi', 'the video sockets stay dark'),
  flag('nohdmi0', 'the first video socket stays dark'), flag('nohdmi1', 'the second video socket stays dark'),
  ...[64, 96, 128, 192, 256, 320, 384, 448, 512].map(size => flag(`cma-${size}`, `${size} MB kept for pictures`)),
  flag('cma-default', 'the usual memory for pictures'), number('cma-size', null, 16_777_216, 536_870_912, 'bytes kept for pictures'),
  flag('upstream', 'the kernel\'s own driver'),
]

const PANEL_TIMING: ParamSpec[] = [
  number('clock-frequency', null, 1_000_000, 200_000_000, 'pixels a second'),
  ...['hactive', 'hfp', 'hsync', 'hbp', 'vactive', 'vfp', 'vsync', 'vbp'].map(name => number(name, null, 0, 4096, TIMING_WORDS(name))),
  flag('hsync-invert', 'the row pulse is low'), flag('vsync-invert', 'the picture pulse is low'),
  flag('de-invert', 'the enable level is low'), flag('pixclk-invert', 'data change on the other edge'),
  number('width-mm', null, 1, 2000, 'width of the glass'), number('height-mm', null, 1, 2000, 'height of the glass'),
  choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture'),
]

function TIMING_WORDS(name: string): string {
  const across = name.startsWith('h') ? 'columns' : 'rows'
  if (name.endsWith('active')) return `${across} shown`
  if (name.endsWith('fp')) return `${across} before the pulse`
  return name.endsWith('bp') ? `${across} after the pulse` : `${across} of the pulse`
}

const dpiLines = (bits: number): Record<number, string> => Object.fromEntries(Array.from({ length: bits + 4 }, (_, i) => [i, i < 4
  ? 'panel timing'
  : 'panel colour']))

export const PEOPLE: OverlaySpec[] = [
  sound('i2s-dac', 'a plain sound converter on the sound bus', 'ti,pcm5102a'),
  sound(
    'max98357a', 'a loudspeaker amplifier on the sound bus', 'maxim,max98357a',
    { params: [flag('no-sdmode', 'without the line that silences it'), line('sdmode-pin', 4, 'line that silences it')] },
  ),
  sound(
    'wm8960-soundcard', 'a sound board with inputs, on the sound bus and I²C', 'wlf,wm8960',
    { bus: 'i2c1', address: '0x1a', params: [text('alsaname', null, 'name of the card'), text('compatible', null, 'driver of the card')] },
  ),
  sound('adau7002-simple', 'microphones on the sound bus', 'adi,adau7002', { params: [text('card-name', null, 'name of the card')] }),
  sound('i2s-mems-mic', 'a microphone on the sound bus', 'invensense,ics43432'),
  {
    name: 'audremap', what: 'puts the board\'s own analog sound on two header lines', group: 'sounding', origin: ORIGIN,
    params: [
      flag('swap_lr', 'left and right change places'), flag('enable_jack', 'the socket stays on'), flag('pins_12_13', 'on lines 12 and 13'),
      flag('pins_18_19', 'on lines 18 and 19'),
    ],
    linesBy: { '': [18, 19], 'pins_12_13': [12, 13], 'pins_18_19': [18, 19] }, holds: ['the pulse circuit'],
    excludes: ['pwm', 'pwm-2chan'], appears: card,
    tree: '&audio_pins {\n\tbrcm,pins = <{lines}>;\n};\n',
  },
  onSpi('ads7846', 'a resistive touch controller on SPI', 'ti,ads7846', {
    group: 'input', select: '{cs}', clockHz: 2_000_000, appears: events('the touch'),
    params: [
      choice('cs', ['0', '1'], '1', 'its select'), number('speed', 2_000_000, 10_000, 2_500_000, 'clock in Hz'),
      line('penirq', 17, 'line that tells of a touch'), choice('penirq_pull', ['0', '1', '2'], '0', 'pull resistor: none, down, up'),
      flag('swapxy', 'swaps the axes'), number('xmin', 0, 0, 4095, 'left edge'), number('ymin', 0, 0, 4095, 'top edge'),
      number('xmax', 4095, 1, 4095, 'right edge'), number('ymax', 4095, 1, 4095, 'bottom edge'),
      number('pmin', 0, 0, 65535, 'lightest touch'), number('pmax', 65535, 1, 65535, 'firmest touch'),
      number('xohms', 400, 1, 10_000, 'resistance of the plate'), flag('keep_vref_on', 'the reference stays on between touches'),
    ],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{penirq} 2>;\n\t\tpendown-gpio = <&gpio {penirq} 1>;\n',
  }),
  onI2c(
    'goodix', 'a capacitive touch controller on I²C', { compatible: 'goodix,gt911', address: '0x14', node: 'goodix' },
    {
      group: 'input', params: [line('interrupt', 4, 'line of the interrupt'), line('reset', 17, 'line of the reset')],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 2>;\n\t\tirq-gpios = <&gpio {interrupt} '
        + '0>;\n\t\treset-gpios = <&gpio {reset} 0>;\n',
      appears: events('the touch'),
    },
  ),
  onI2c(
    'ilitek251x', 'a capacitive touch controller on I²C', { compatible: 'ilitek,ili251x', address: '0x41', node: 'ili251x' },
    {
      group: 'input', params: [line('interrupt', 4, 'line of the interrupt'), ...touchTurns.slice(3)],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 2>;\n', appears: events('the touch'),
    },
  ),
  onI2c(
    'edt-ft5406', 'a capacitive touch controller on I²C', { compatible: 'edt,edt-ft5506', address: '0x38', node: 'ft5x06' },
    {
      group: 'input', params: [line('interrupt', null, 'line of the interrupt'), line('reset', null, 'line of the reset'), ...touchTurns],
      appears: events('the touch'),
    },
  ),
  onSpi('mipi-dbi-spi', 'a colour screen on SPI, told by a file of start commands', '{compatible}", "panel-mipi-dbi-spi', {
    node: 'panel', group: 'showing', bus: 'spi{spi}', select: '{select}', clockHz: 32_000_000,
    appears: [at('/dev/dri/card*', 'the screen'), at('/dev/fb*', 'the screen')],
    params: [
      ...[0, 1].flatMap(bus => [0, 1].map(select => flag(`spi${bus}-${select}`, `the screen is on SPI ${bus}, select ${select}`))),
      number('speed', 32_000_000, 100_000, 125_000_000, 'clock in Hz'), text(
        'compatible', 'panel', 'name of the file of start commands, without .bin',
      ),
      number('width', 320, 16, 2000, 'columns'), number('height', 240, 16, 2000, 'rows'), line('reset-gpio', null, 'line of the reset'),
      line('dc-gpio', null, 'line that tells data from commands'), line('backlight-gpio', null, 'line of the backlight'),
      flag('write-only', 'nothing is read back'), flag('cpha', 'clock phase'), flag('cpol', 'clock polarity'),
      number('x-offset', 0, 0, 1000, 'first column'), number('y-offset', 0, 0, 1000, 'first row'),
      number('width-mm', 0, 0, 1000, 'width of the glass'), number('height-mm', 0, 0, 1000, 'height of the glass'),
    ],
    properties: '{gpio:reset-gpio:reset-gpios}{gpio:dc-gpio:dc-gpios}{gpio:backlight-gpio:backlight-gpios}'
      + '\t\twidth-mm = <{width-mm}>;\n\t\theight-mm = <{height-mm}>;\n\n\t\tpanel-timing {\n\t\t\thactive = <{width}>;\n'
      + '\t\t\tvactive = <{height}>;\n\t\t\thback-porch = <{x-offset}>;\n\t\t\tvback-porch = <{y-offset}>;\n\t\t\thfront-porch = <0>;\n'
      + '\t\t\tvfront-porch = <0>;\n\t\t\thsync-len = <0>;\n\t\t\tvsync-len = <0>;\n\t\t\tclock-frequency = <0>;\n\t\t};\n',
  }),
  onSpi('fbtft', 'a small screen on SPI, by the older frame buffer drivers', '{chosen_compatible}', {
    group: 'showing', bus: 'spi{spi}', select: '{select}', clockHz: 32_000_000, node: 'screen', appears: [at('/dev/fb1', 'the screen')],
    choices: {
      ili9341: { compatible: 'ilitek,ili9341', what: '240 × 320 in colour' },
      ili9486: { compatible: 'ilitek,ili9486', what: '320 × 480 in colour' },
      st7735r: { compatible: 'sitronix,st7735r', what: '128 × 160 in colour' },
      st7789v: { compatible: 'sitronix,st7789v', what: '240 × 320 in colour' },
      ssd1351: { compatible: 'solomon,ssd1351', what: '128 × 128 in colour' },
      hx8357d: { compatible: 'himax,hx8357d', what: '320 × 480 in colour' },
    },
    params: [
      ...['ili9341', 'ili9486', 'st7735r', 'st7789v', 'ssd1351', 'hx8357d'].map(name => flag(name, 'the screen\'s controller')),
      ...[0, 1].flatMap(bus => [0, 1].map(select => flag(`spi${bus}-${select}`, `the screen is on SPI ${bus}, select ${select}`))),
      number('speed', 32_000_000, 100_000, 125_000_000, 'clock in Hz'), rotate, number('fps', 30, 1, 120, 'pictures a second at most'),
      flag('bgr', 'blue and red change places'), line('reset_pin', 25, 'line of the reset'),
      line('dc_pin', 24, 'line that tells data from commands'), line('led_pin', null, 'line of the backlight'),
      number('width', null, 16, 1000, 'columns'), number('height', null, 16, 1000, 'rows'), number('debug', 0, 0, 7, 'how much it tells'),
    ],
    properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n{gpio:led_pin:led-gpios}\t\trotate = '
      + '<{rotate}>;\n\t\tfps = <{fps}>;\n\t\tbuswidth = <8>;\n',
  }),
  ...['ssd1306', 'ssd1331', 'ssd1351'].map(chip => onSpi(
    `${chip}-spi`, 'a small lit display on SPI', `solomon,${chip}`,
    {
      group: 'showing', clockHz: 4_500_000,
      params: [
        number('speed', 4_500_000, 100_000, 20_000_000, 'clock in Hz'), line('dc_pin', 24, 'line that tells data from commands'),
        line('reset_pin', 25, 'line of the reset'), number('fps', 25, 1, 120, 'pictures a second at most'),
        flag('inverted', 'dark on light'),
      ],
      properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n\t\tbuswidth = <8>;\n',
      appears: [at('/dev/fb1', 'the display')],
    },
  )),
  {
    name: 'vc4-kms-v3d', what: 'the full display driver: the kernel sets screen modes itself', group: 'showing', origin: ORIGIN,
    params: kmsParams, holds: ['the display driver'], excludes: ['vc4-fkms-v3d'], appears: [at('/dev/dri/card0', 'screens')],
    tree: TREE_DRM('/display'),
  },
  {
    name: 'vc4-fkms-v3d', what: 'the firmware display driver: the firmware sets screen modes for the kernel', group: 'showing',
    origin: ORIGIN, params: kmsParams.slice(6, 16), holds: ['the display driver'], excludes: ['vc4-kms-v3d'],
    appears: [at('/dev/dri/card0', 'screens')], tree: TREE_DRM('/display'), caution: 'Newer images have only the full driver.',
  },
  {
    name: 'vc4-kms-dsi-7inch', what: 'a seven-inch panel on the display connector', group: 'showing', origin: ORIGIN,
    params: [...touchTurns.slice(0, 3), flag('disable_touch', 'without its touch'), flag('dsi0', 'on the first display connector')],
    holds: ['the display connector'], appears: [at('/dev/dri/card0', 'the panel'), ...events('its touch')],
    tree: '&{/dsi} {\n\tstatus = "okay";\n\n\tpanel {\n\t\tcompatible = "panel-dsi-7inch";\n\t\treg = <0>;\n\t};\n};\n',
  },
  {
    name: 'vc4-kms-dpi-generic', what: 'a parallel panel with timing of one\'s own', group: 'showing', origin: ORIGIN,
    params: [
      ...PANEL_TIMING, flag('rgb565', '16 bit a pixel'), flag('rgb666', '18 bit a pixel'), flag('rgb666-padhi', '18 bit on the wide lines'),
      flag('rgb888', '24 bit a pixel'),
    ],
    lines: dpiLines(18), holds: ['the parallel panel port'], appears: [at('/dev/dri/card0', 'the panel')],
    tree: '&dpi {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&dpi_pins>;\n};\n',
  },
  {
    name: 'dpi24', what: 'all lines of a parallel panel, 24 bit', group: 'showing', origin: ORIGIN, params: [], lines: dpiLines(24),
    holds: ['the parallel panel port'], excludes: ['dpi18'], appears: [],
    tree: '&dpi {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&dpi_pins>;\n};\n',
  },
  {
    name: 'dpi18', what: 'the lines of a parallel panel, 18 bit', group: 'showing', origin: ORIGIN, params: [], lines: dpiLines(18),
    holds: ['the parallel panel port'], excludes: ['dpi24'], appears: [],
    tree: '&dpi {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&dpi_pins>;\n};\n',
  },
  onLines(
    'gpio-key', 'a button that sends a key', 'button@{gpio:hex}',
    {
      group: 'input',
      params: [
        line('gpio', 3, 'line of the button'), choice('active_low', ['0', '1'], '1', '1: pressed is low'),
        choice('gpio_pull', ['up', 'down', 'off'], 'up', 'pull resistor'), text('label', 'GPIO-KEY', 'name of the button'),
        number('keycode', 116, 1, 767, 'number of the key; 116 is the power key'),
        number('debounce', 50, 0, 1000, 'milliseconds it must be steady'),
      ],
      properties: '\t\tcompatible = "gpio-keys";\n\n\t\tkey {\n\t\t\tgpios = <&gpio {gpio} 1>;\n\t\t\tlinux,code = <{keycode}>;\n\t\t};\n',
      appears: events('the button'),
    },
  ),
  onLines(
    'gpio-shutdown', 'a button that shuts the board down', 'shutdown_button',
    {
      group: 'input',
      params: [
        line('gpio_pin', 3, 'line of the button'), choice('active_low', ['0', '1'], '1', '1: pressed is low'),
        choice('gpio_pull', ['up', 'down', 'off'], 'up', 'pull resistor'),
        number('debounce', 100, 0, 1000, 'milliseconds it must be steady'),
      ],
      properties: '\t\tcompatible = "gpio-keys";\n\n\t\tbutton {\n\t\t\tgpios = <&gpio {gpio_pin} {active_low}>;\n\t\t\tlinux,code = '
        + '<116>;\n\t\t};\n',
      pins: inputPin('{gpio_pin}', '2'), appears: events('the button'),
    },
  ),
  onLines(
    'gpio-poweroff', 'a line that tells the supply that the board is down', 'power_ctrl',
    {
      group: 'switching',
      params: [
        line('gpiopin', 26, 'the line'), flag('active_low', 'the line goes low'), flag('input', 'the line is an input before'),
        flag('export', 'programs see it'), number('timeout_ms', 3000, 0, 60_000, 'milliseconds the kernel waits for the power to go'),
        number('active_delay_ms', 100, 0, 60_000, 'milliseconds it is held'),
        number('inactive_delay_ms', 100, 0, 60_000, 'milliseconds before it is held again'),
      ],
      properties: '\t\tcompatible = "gpio-poweroff";\n\t\tgpios = <&gpio {gpiopin} {active_low:bit}>;\n', pins: outputPin('{gpiopin}'),
    },
  ),
  onLines(
    'gpio-fan', 'a fan that is switched by temperature', 'gpio_fan',
    {
      group: 'switching',
      params: [
        line('gpiopin', 12, 'line of the fan\'s switch'),
        number('temp', 55_000, 30_000, 110_000, 'where it starts, in thousandths of a degree'),
        number('hyst', 10_000, 0, 50_000, 'how much cooler it gets before it stops'),
      ],
      properties: '\t\tcompatible = "gpio-fan";\n\t\tgpios = <&gpio {gpiopin} 0>;\n\t\tgpio-fan,speed-map = <0 0>, <5000 1>;\n'
        + '\t\t#cooling-cells = <2>;\n',
      pins: outputPin('{gpiopin}'), trips: [{ temperature: '{temp}', hysteresis: '{hyst}', level: 1 }],
      appears: [at('/sys/class/thermal/cooling_device0', 'the fan')],
    },
  ),
  onLines(
    'pwm-gpio-fan', 'a fan at several speeds on a plain line', 'pwm_fan',
    {
      group: 'switching',
      params: [
        line('fan_gpio', 18, 'line of the fan'),
        ...[0, 1, 2, 3].flatMap(i => [
          number(`fan_temp${i}`, 50_000 + 5_000 * i, 20_000, 110_000, 'step of temperature, in thousandths of a degree'),
          number(`fan_temp${i}_hyst`, 5000, 0, 30_000, 'how much cooler'),
          number(`fan_temp${i}_speed`, [75, 125, 175, 250][i]!, 0, 255, 'speed'),
        ]),
      ],
      properties: '\t\tcompatible = "pwm-fan";\n\t\tpwms = <&{label}_pwm 0 20000000 0>;\n\t\t#cooling-cells = <2>;\n'
        + '\t\tcooling-levels = <0 {fan_temp0_speed} {fan_temp1_speed} {fan_temp2_speed} {fan_temp3_speed}>;\n\t};\n\n'
        + '\t{label}_pwm: {label}-pwm {\n\t\tcompatible = "pwm-gpio";\n\t\t#pwm-cells = <3>;\n\t\tgpios = <&gpio {fan_gpio} 0>;\n',
      trips: [0, 1, 2, 3].map(i => ({ temperature: `{fan_temp${i}}`, hysteresis: `{fan_temp${i}_hyst}`, level: i + 1 })),
      appears: [at('/sys/class/thermal/cooling_device0', 'the fan')],
    },
  ),
  onLines(
    'gpio-led', 'a lamp that the kernel blinks', 'leds@{gpio:hex}',
    {
      group: 'switching',
      params: [
        line('gpio', 19, 'line of the lamp'), text('label', 'gpio-led', 'name of the lamp'), text('trigger', 'none', 'what it shows'),
        flag('active_low', 'low is lit'),
      ],
      properties: '\t\tcompatible = "gpio-leds";\n\n\t\tled {\n\t\t\tlabel = "{label_text}";\n\t\t\tgpios = <&gpio {gpio} 0>;\n\t\t};\n',
      appears: [at('/sys/class/leds/{label_text}', 'the lamp')],
    },
  ),
  {
    name: 'gpio-hog', what: 'holds a line at a level from the start', group: 'switching', origin: ORIGIN,
    params: [line('gpio', 26, 'the line'), flag('active_low', 'holds it low')], appears: [],
    tree: '&gpio {\n\thog@{gpio:hex} {\n\t\tgpio-hog;\n\t\tgpios = <{gpio} 0>;\n\t\toutput-high;\n\t};\n};\n',
  },
  onLines(
    'gpio-ir', 'an infrared receiver', 'ir-receiver@{gpio_pin:hex}',
    {
      group: 'input',
      params: [
        line('gpio_pin', 18, 'line of the receiver'), choice('gpio_pull', ['up', 'down', 'off'], 'up', 'pull resistor'),
        flag('invert', 'the level is turned round'), text('rc-map-name', 'rc-rc6-mce', 'table of keys'),
      ],
      properties: '\t\tcompatible = "gpio-ir-receiver";\n\t\tgpios = <&gpio {gpio_pin} 1>;\n', pins: inputPin('{gpio_pin}', '2'),
      appears: [at('/dev/lirc0', 'the receiver'), ...events('the remote control')],
    },
  ),
  onLines(
    'gpio-ir-tx', 'an infrared sender', 'gpio-ir-transmitter@{gpio_pin:hex}',
    {
      group: 'switching', params: [line('gpio_pin', 18, 'line of the sender'), flag('invert', 'low is lit')],
      properties: '\t\tcompatible = "gpio-ir-tx";\n\t\tgpios = <&gpio {gpio_pin} 0>;\n', pins: outputPin('{gpio_pin}'),
      appears: [at('/dev/lirc*', 'the sender')],
    },
  ),
  {
    name: 'pwm-ir-tx', what: 'an infrared sender timed by the pulse circuit', group: 'switching', origin: ORIGIN,
    params: [line('gpio_pin', 18, 'line of the sender'), number('func', 2, 1, 7, 'multiplexer setting')], enables: ['pwm'],
    holds: ['the pulse circuit'], excludes: ['pwm', 'pwm-2chan'], appears: [at('/dev/lirc*', 'the sender')],
    tree: '&pwm {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&pwm_pins>;\n};\n\n&pwm_pins {\n\tbrcm,pins = '
      + '<{gpio_pin}>;\n\tbrcm,function = <{func}>;\n};\n\n&{/} {\n\tpwm-ir-transmitter {\n\t\tcompatible = "pwm-ir-tx";\n\t\tpwms = '
      + '<&pwm 0 100 0>;\n\t};\n};\n',
  },
  onLines(
    'rotary-encoder', 'a knob that turns without end', 'rotary@{pin_a:hex}',
    {
      group: 'input',
      params: [
        line('pin_a', 4, 'first contact'), line('pin_b', 17, 'second contact'),
        choice('relative_axis', ['0', '1'], '0', '1: tells steps, not a position'), number('linux_axis', 0, 0, 63, 'number of the axis'),
        flag('rollover', 'starts over at the end'), number('steps-per-period', 1, 1, 4, 'steps between two stops'),
        number('steps', 24, 1, 1000, 'steps of a turn'), flag('wakeup', 'may wake the board'),
        choice('encoding', ['gray', 'binary'], 'gray', 'code of the contacts'),
      ],
      properties: '\t\tcompatible = "rotary-encoder";\n\t\tgpios = <&gpio {pin_a} 0>, <&gpio {pin_b} 0>;\n', appears: events('the knob'),
    },
  ),
  onLines(
    'gpio-charger', 'tells the kernel that the outer supply is there', 'charger',
    {
      group: 'input',
      params: [
        line('gpio', 4, 'the line'), choice('active_low', ['0', '1'], '0', '1: there is low'),
        choice('gpio_pull', ['up', 'down', 'off'], 'down', 'pull resistor'),
        choice('type', ['mains', 'battery', 'usb-sdp'], 'mains', 'kind of supply'),
      ],
      properties: '\t\tcompatible = "gpio-charger";\n\t\tgpios = <&gpio {gpio} 0>;\n\t\tcharger-type = "{type}";\n',
      appears: [at('/sys/class/power_supply', 'the supply')],
    },
  ),
  onLines(
    'hd44780-lcd', 'a text display on six lines', 'auxdisplay',
    {
      group: 'showing',
      params: [
        line('pin_d4', 6, 'data 4'), line('pin_d5', 13, 'data 5'), line('pin_d6', 19, 'data 6'), line('pin_d7', 26, 'data 7'),
        line('pin_en', 21, 'enable'), line('pin_rs', 20, 'data or command'), number('display_height', 2, 1, 4, 'rows'),
        number('display_width', 16, 8, 40, 'letters in a row'),
      ],
      properties: '\t\tcompatible = "hit,hd44780";\n\t\tdata-gpios = <&gpio {pin_d4} 0>, <&gpio {pin_d5} 0>, <&gpio {pin_d6} 0>, <&gpio '
        + '{pin_d7} 0>;\n\t\tenable-gpios = <&gpio {pin_en} 0>;\n\t\trs-gpios = <&gpio {pin_rs} 0>;\n',
      appears: [at('/dev/lcd', 'the text display')],
    },
  ),
  {
    name: 'gpio-no-irq', what: 'switches line interrupts off', group: 'system', origin: ORIGIN, params: [], appears: [],
    tree: '&gpio {\n\t/delete-property/ interrupts;\n};\n', caution: 'Every part that tells the board of something is dead with it.',
  },
]
