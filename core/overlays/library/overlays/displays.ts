/** Overlays of screens and panels. From memory unless an overlay says otherwise. */
import type { OverlaySpec, ParamSpec } from '../types'
import { at, choice, events, flag, line, number, onI2c, onLines, onSpi, ORIGIN, text, touchTurns } from './build'

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

const lit = (chip: string, what: string) => onSpi(`${chip}-spi`, what, `solomon,${chip}`, {
  group: 'showing', clockHz: 4_500_000,
  params: [
    number('speed', 4_500_000, 100_000, 20_000_000, 'clock in Hz'),
    line('dc_pin', 24, 'line that tells data from commands'),
    line('reset_pin', 25, 'line of the reset'), number('fps', 25, 1, 120, 'pictures a second at most'),
    choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture'), flag('inverted', 'dark on light'),
  ],
  properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n\t\tbuswidth = <8>;\n',
  appears: [at('/dev/fb1', 'the display')],
})

const dpiLines = (bits: number): Record<number, string> => Object.fromEntries(Array.from({ length: bits + 4 },
  (_, i) => [i, i < 4
    ? 'panel timing'
    : 'panel colour']))

function TIMING_WORDS(name: string): string {
  const across = name.startsWith('h') ? 'columns' : 'rows'
  if (name.endsWith('active')) return `${across} shown`
  if (name.endsWith('fp')) return `${across} before the pulse`
  return name.endsWith('bp') ? `${across} after the pulse` : `${across} of the pulse`
}

const PANEL_TIMING: ParamSpec[] = [
  number('clock-frequency', null, 1_000_000, 200_000_000, 'pixels a second'),
  ...['hactive', 'hfp', 'hsync', 'hbp', 'vactive', 'vfp', 'vsync', 'vbp'].map(name =>
    number(name, null, 0, 4096, TIMING_WORDS(name))),
  flag('hsync-invert', 'the row pulse is low'), flag('vsync-invert', 'the picture pulse is low'),
  flag('de-invert', 'the enable level is low'), flag('pixclk-invert', 'data change on the other edge'),
  number('width-mm', null, 1, 2000, 'width of the glass'), number('height-mm', null, 1, 2000, 'height of the glass'),
  choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture'),
]

const TREE_DRM = (node: string) => `&{${node}} {\n\tstatus = "okay";\n};\n`

const kmsParams = [
  flag('audio', 'sound over the video cable'), flag('noaudio', 'no sound over the video cable'),
  flag('composite', 'picture on the analog socket'), flag('nohdmi', 'the video sockets stay dark'),
  flag('nohdmi0', 'the first video socket stays dark'), flag('nohdmi1', 'the second video socket stays dark'),
  ...[64, 96, 128, 192, 256, 320, 384, 448, 512].map(size => flag(`cma-${size}`, `${size} MB kept for pictures`)),
  flag('cma-default', 'the usual memory for pictures'),
  number('cma-size', null, 16_777_216, 536_870_912, 'bytes kept for pictures'),
  flag('upstream', 'the kernel\'s own driver'),
]

const rotate = choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture in degrees')

export const DISPLAYS: OverlaySpec[] = [
  onI2c(
    'hd44780-i2c-lcd', 'a text display behind an expander on I²C',
    { compatible: 'hit,hd44780', address: '0x27', node: 'lcd' },
    {
      group: 'showing', params: [number('display_height', 2, 1, 4, 'rows'),
        number('display_width', 16, 8, 40, 'letters in a row')],
      appears: [at('/dev/lcd', 'the text display')],
    },
  ),
  onI2c(
    'ssd1306', 'a small picture display on I²C', { compatible: 'solomon,ssd1306fb-i2c', address: '0x3c', node: 'oled' },
    {
      group: 'showing',
      params: [
        number('width', 128, 8, 256, 'columns'), number('height', 64, 8, 128, 'rows'),
        number('offset', 0, 0, 64, 'first row'),
        flag('inverted', 'dark on light'), flag('sequential', 'its rows follow each other'),
        flag('normal', 'light on dark'),
        text('address', '0x3c', 'its address'),
      ],
      appears: [at('/dev/fb1', 'the display')],
    },
  ),
  onSpi('mipi-dbi-spi', 'a colour screen on SPI, told by a file of start commands',
    '{compatible}", "panel-mipi-dbi-spi', {
      node: 'panel', group: 'showing', bus: 'spi{spi}', select: '{select}', clockHz: 32_000_000,
      appears: [at('/dev/dri/card*', 'the screen'), at('/dev/fb*', 'the screen')],
      params: [
        ...[0, 1].flatMap(bus =>
          [0, 1].map(select => flag(`spi${bus}-${select}`, `the screen is on SPI ${bus}, select ${select}`))),
        number('speed', 32_000_000, 100_000, 125_000_000, 'clock in Hz'), text(
          'compatible', 'panel', 'name of the file of start commands, without .bin',
        ),
        number('width', 320, 16, 2000, 'columns'), number('height', 240, 16, 2000, 'rows'),
        line('reset-gpio', null, 'line of the reset'),
        line('dc-gpio', null, 'line that tells data from commands'),
        line('backlight-gpio', null, 'line of the backlight'),
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
    group: 'showing', bus: 'spi{spi}', select: '{select}', clockHz: 32_000_000, node: 'screen',
    appears: [at('/dev/fb1', 'the screen')],
    choices: {
      ili9341: { compatible: 'ilitek,ili9341', what: '240 × 320 in colour' },
      ili9486: { compatible: 'ilitek,ili9486', what: '320 × 480 in colour' },
      st7735r: { compatible: 'sitronix,st7735r', what: '128 × 160 in colour' },
      st7789v: { compatible: 'sitronix,st7789v', what: '240 × 320 in colour' },
      ssd1351: { compatible: 'solomon,ssd1351', what: '128 × 128 in colour' },
      hx8357d: { compatible: 'himax,hx8357d', what: '320 × 480 in colour' },
    },
    params: [
      ...['ili9341', 'ili9486', 'st7735r', 'st7789v', 'ssd1351', 'hx8357d'].map(name =>
        flag(name, 'the screen\'s controller')),
      ...[0, 1].flatMap(bus =>
        [0, 1].map(select => flag(`spi${bus}-${select}`, `the screen is on SPI ${bus}, select ${select}`))),
      number('speed', 32_000_000, 100_000, 125_000_000, 'clock in Hz'), rotate,
      number('fps', 30, 1, 120, 'pictures a second at most'),
      flag('bgr', 'blue and red change places'), line('reset_pin', 25, 'line of the reset'),
      line('dc_pin', 24, 'line that tells data from commands'), line('led_pin', null, 'line of the backlight'),
      number('width', null, 16, 1000, 'columns'), number('height', null, 16, 1000, 'rows'),
      number('debug', 0, 0, 7, 'how much it tells'),
    ],
    properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n{gpio:led_pin:led-gpios}\t\trotate = '
      + '<{rotate}>;\n\t\tfps = <{fps}>;\n\t\tbuswidth = <8>;\n',
  }),
  ...['ssd1306', 'ssd1331', 'ssd1351'].map(chip => onSpi(
    `${chip}-spi`, 'a small lit display on SPI', `solomon,${chip}`,
    {
      group: 'showing', clockHz: 4_500_000,
      params: [
        number('speed', 4_500_000, 100_000, 20_000_000, 'clock in Hz'),
        line('dc_pin', 24, 'line that tells data from commands'),
        line('reset_pin', 25, 'line of the reset'), number('fps', 25, 1, 120, 'pictures a second at most'),
        flag('inverted', 'dark on light'),
      ],
      properties: '\t\treset-gpios = <&gpio {reset_pin} 1>;\n\t\tdc-gpios = <&gpio {dc_pin} 0>;\n\t\tbuswidth = <8>;\n',
      appears: [at('/dev/fb1', 'the display')],
    },
  )),
  {
    name: 'vc4-kms-v3d', what: 'the full display driver: the kernel sets screen modes itself', group: 'showing',
    origin: ORIGIN,
    params: kmsParams, holds: ['the display driver'], excludes: ['vc4-fkms-v3d'],
    appears: [at('/dev/dri/card0', 'screens')],
    tree: TREE_DRM('/display'),
  },
  {
    name: 'vc4-fkms-v3d', what: 'the firmware display driver: the firmware sets screen modes for the kernel',
    group: 'showing',
    origin: ORIGIN, params: kmsParams.slice(6, 16), holds: ['the display driver'], excludes: ['vc4-kms-v3d'],
    appears: [at('/dev/dri/card0', 'screens')], tree: TREE_DRM('/display'),
    caution: 'Newer images have only the full driver.',
  },
  {
    name: 'vc4-kms-dsi-7inch', what: 'a seven-inch panel on the display connector', group: 'showing', origin: ORIGIN,
    params: [...touchTurns.slice(0, 3), flag('disable_touch', 'without its touch'),
      flag('dsi0', 'on the first display connector')],
    holds: ['the display connector'], appears: [at('/dev/dri/card0', 'the panel'), ...events('its touch')],
    tree: '&{/dsi} {\n\tstatus = "okay";\n\n\tpanel {\n\t\tcompatible = "panel-dsi-7inch";\n\t\treg = <0>;\n\t};\n};\n',
  },
  {
    name: 'vc4-kms-dpi-generic', what: 'a parallel panel with timing of one\'s own', group: 'showing', origin: ORIGIN,
    params: [
      ...PANEL_TIMING, flag('rgb565', '16 bit a pixel'), flag('rgb666', '18 bit a pixel'),
      flag('rgb666-padhi', '18 bit on the wide lines'),
      flag('rgb888', '24 bit a pixel'),
    ],
    lines: dpiLines(18), holds: ['the parallel panel port'], appears: [at('/dev/dri/card0', 'the panel')],
    tree: '&dpi {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&dpi_pins>;\n};\n',
  },
  {
    name: 'dpi24', what: 'all lines of a parallel panel, 24 bit', group: 'showing', origin: ORIGIN, params: [],
    lines: dpiLines(24),
    holds: ['the parallel panel port'], excludes: ['dpi18'], appears: [],
    tree: '&dpi {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&dpi_pins>;\n};\n',
  },
  {
    name: 'dpi18', what: 'the lines of a parallel panel, 18 bit', group: 'showing', origin: ORIGIN, params: [],
    lines: dpiLines(18),
    holds: ['the parallel panel port'], excludes: ['dpi24'], appears: [],
    tree: '&dpi {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&dpi_pins>;\n};\n',
  },
  onLines(
    'hd44780-lcd', 'a text display on six lines', 'auxdisplay',
    {
      group: 'showing',
      params: [
        line('pin_d4', 6, 'data 4'), line('pin_d5', 13, 'data 5'), line('pin_d6', 19, 'data 6'),
        line('pin_d7', 26, 'data 7'),
        line('pin_en', 21, 'enable'), line('pin_rs', 20, 'data or command'), number('display_height', 2, 1, 4, 'rows'),
        number('display_width', 16, 8, 40, 'letters in a row'),
      ],
      properties: '\t\tcompatible = "hit,hd44780";\n\t\tdata-gpios = <&gpio {pin_d4} 0>, <&gpio {pin_d5} 0>, <&gpio {pin_d6} 0>, <&gpio '
        + '{pin_d7} 0>;\n\t\tenable-gpios = <&gpio {pin_en} 0>;\n\t\trs-gpios = <&gpio {pin_rs} 0>;\n',
      appears: [at('/dev/lcd', 'the text display')],
    },
  ),
  {
    name: 'vc4-kms-dsi-generic', what: 'a panel on the display connector, with timing of one\'s own', group: 'showing',
    origin: ORIGIN,
    params: [
      number('clock-frequency', 30_000_000, 1_000_000, 400_000_000, 'pixels a second'),
      number('hactive', 800, 16, 4096, 'columns'),
      number('hfp', 24, 0, 1000, 'blank columns before the pulse'),
      number('hsync', 72, 1, 1000, 'columns of the pulse'),
      number('hbp', 96, 0, 1000, 'blank columns after it'), number('vactive', 480, 16, 4096, 'rows'),
      number('vfp', 3, 0, 1000, 'blank rows before the pulse'), number('vsync', 10, 1, 1000, 'rows of the pulse'),
      number('vbp', 7, 0, 1000, 'blank rows after it'),
      choice('num-lanes', ['1', '2', '3', '4'], '2', 'pairs of wires'),
      text('width-mm', null, 'width of the picture'), text('height-mm', null, 'height of the picture'),
      flag('dsi0', 'on the first display connector'),
    ],
    holds: ['the display connector'], appears: [at('/dev/dri/card0', 'the panel')],
    tree: '&{/dsi} {\n\tstatus = "okay";\n\n\tpanel {\n\t\tcompatible = "panel-dsi";\n\t\treg = <0>;\n\t};\n};\n',
  },
  lit('ssd1327', 'a grey lit display on SPI'),
  onSpi('sh1106-spi', 'a small lit display on SPI', 'sinowealth,sh1106', {
    group: 'showing', clockHz: 4_000_000,
    params: [
      number('speed', 4_000_000, 100_000, 20_000_000, 'clock in Hz'),
      line('dc_pin', 24, 'line that tells data from commands'),
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
      flag('at056tn53v1', 'a panel of 640 × 480'),
      choice('rotate', ['0', '90', '180', '270'], '0', 'rotation of the picture'),
    ],
    lines: Object.fromEntries(Array.from({ length: 22 }, (_, i) => [i, i < 4 ? 'panel timing' : 'panel colour'])),
    holds: ['the parallel panel port'], appears: [at('/dev/dri/card0', 'the panel')],
    tree: '&dpi {\n\tstatus = "okay";\n};\n',
  },
  {
    name: 'vga666', what: 'an analog picture from eighteen lines and resistors', group: 'showing', origin: ORIGIN,
    params: [flag('mode6', 'as the panel port\'s sixth format')],
    lines: Object.fromEntries(Array.from({ length: 20 },
      (_, i) => [i + 2, i < 2 ? 'picture timing' : 'picture colour'])),
    holds: ['the parallel panel port'], appears: [], tree: '&dpi {\n\tstatus = "okay";\n};\n',
    caution: 'It takes nearly every line of the header: no bus is left.',
  },
]
