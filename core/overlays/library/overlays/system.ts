/** Overlays that change the board itself. */
import type { OverlaySpec } from '../types'
import { ORIGIN, at, choice, flag, line, number, text } from './build'

export const SYSTEM: OverlaySpec[] = [
  {
    name: 'disable-wifi', what: 'switches the radio\'s network part off', group: 'system', origin: ORIGIN, params: [], appears: [],
    tree: '&{/mmc-radio} {\n\tstatus = "disabled";\n};\n',
  },
  {
    name: 'dwc2', what: 'the USB socket can be host or gadget', group: 'system', origin: ORIGIN,
    params: [
      choice('dr_mode', ['host', 'peripheral', 'otg'], 'otg', 'what the socket is'),
      number('g-rx-fifo-size', 558, 16, 4096, 'receive buffer'), number('g-np-tx-fifo-size', 32, 16, 4096, 'send buffer'),
    ],
    holds: ['the USB circuit'], appears: [at('/sys/class/udc', 'the gadget, when it is one')],
    tree: '&usb {\n\tcompatible = "brcm,bcm2835-usb";\n\tdr_mode = "{dr_mode}";\n\tstatus = "okay";\n};\n',
  },
  {
    name: 'act-led', what: 'puts the activity lamp on a line', group: 'switching', origin: ORIGIN,
    params: [line('gpio', null, 'line of the lamp'), flag('activelow', 'low is lit')], appears: [at('/sys/class/leds/ACT', 'the lamp')],
    tree: '&{/leds/act} {\n{gpio:gpio:gpios}};\n',
  },
  {
    name: 'sdio', what: 'a second card reader or radio on six lines', group: 'storing', origin: ORIGIN,
    params: [
      number('sdio_overclock', null, 25, 100, 'clock in MHz'), flag('poll_once', 'looks for a card only at the start'),
      choice('bus_width', ['1', '4'], '4', 'data lines'),
    ],
    lines: { 22: 'card clock', 23: 'card command', 24: 'card data', 25: 'card data', 26: 'card data', 27: 'card data' }, enables: ['emmc'],
    appears: [at('/dev/mmcblk1', 'the card')],
    tree: '&emmc {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&emmc_pins>;\n\tbus-width = <{bus_width}>;\n};\n',
  },
  {
    name: 'sdtweak', what: 'changes how the card is driven', group: 'storing', origin: ORIGIN,
    params: [
      number('overclock_50', 50, 25, 100, 'clock asked of a 50 MHz card, in MHz'), flag('force_pio', 'without direct memory access'),
      flag('poll_once', 'looks for the card only at the start'),
    ],
    appears: [], tree: '&{/mmc-card} {\n\tbrcm,overclock-50 = <{overclock_50}>;\n};\n', caution: 'Too fast a card clock costs data.',
  },
  {
    name: 'cma', what: 'memory kept for pictures', group: 'system', origin: ORIGIN,
    params: [
      number('cma-size', null, 16_777_216, 536_870_912, 'bytes'),
      ...[64, 96, 128, 192, 256, 320, 384, 448, 512].map(size => flag(`cma-${size}`, `${size} MB`)), flag('cma-default', 'the usual size'),
    ],
    holds: ['the picture memory'], appears: [], tree: '&{/chosen} {\n\tcma-note;\n};\n',
  },
  {
    name: 'gpio-no-bank0-irq', what: 'switches the interrupts of lines 0 to 27 off', group: 'system', origin: ORIGIN, params: [],
    appears: [], tree: '&{/chosen} {\n\tbank0-note;\n};\n', caution: 'Every part that tells the board of something is dead with it.',
  },
  {
    name: 'imx219', what: 'a camera on the camera connector', group: 'sensing', origin: ORIGIN,
    params: [
      choice('rotation', ['0', '180'], '180', 'which way up'), choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'),
      flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
    ],
    holds: ['the camera connector'], appears: [at('/dev/video0', 'the camera')], tree: '&{/csi} {\n\tstatus = "okay";\n};\n',
  },
  {
    name: 'ov5647', what: 'a camera on the camera connector', group: 'sensing', origin: ORIGIN,
    params: [
      choice('rotation', ['0', '180'], '0', 'which way up'), choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'),
      flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
    ],
    holds: ['the camera connector'], excludes: ['imx219'], appears: [at('/dev/video0', 'the camera')],
    tree: '&{/csi} {\n\tstatus = "okay";\n};\n',
  },
  {
    name: 'ramoops', what: 'keeps the kernel\'s last words over a restart', group: 'system', origin: ORIGIN,
    params: [
      text('base-addr', '0x0b000000', 'where in memory'), number('total-size', 65536, 4096, 16_777_216, 'bytes'),
      number('record-size', 16384, 4096, 1_048_576, 'bytes of a record'), number('console-size', 0, 0, 1_048_576, 'bytes of console'),
    ],
    appears: [at('/sys/fs/pstore', 'the last words')],
    tree: '&{/} {\n\tramoops {\n\t\tcompatible = "ramoops";\n\t\trecord-size = <{record-size}>;\n\t};\n};\n',
  },
]
