/** Overlays that change the board itself. From memory unless an overlay says otherwise. */
import type { OverlaySpec } from '../types'
import { at, choice, flag, number, onI2c, onSpi, ORIGIN, small, text } from './build'

export const SYSTEM: OverlaySpec[] = [
  {
    name: 'gpio-no-irq', what: 'switches line interrupts off', group: 'system', origin: ORIGIN, params: [], appears: [],
    tree: '&gpio {\n\t/delete-property/ interrupts;\n};\n',
    caution: 'Every part that tells the board of something is dead with it.',
  },
  {
    name: 'disable-wifi', what: 'switches the radio\'s network part off', group: 'system', origin: ORIGIN, params: [],
    appears: [],
    tree: '&{/mmc-radio} {\n\tstatus = "disabled";\n};\n',
  },
  {
    name: 'dwc2', what: 'the USB socket can be host or gadget', group: 'system', origin: ORIGIN,
    params: [
      choice('dr_mode', ['host', 'peripheral', 'otg'], 'otg', 'what the socket is'),
      number('g-rx-fifo-size', 558, 16, 4096, 'receive buffer'),
      number('g-np-tx-fifo-size', 32, 16, 4096, 'send buffer'),
    ],
    holds: ['the USB circuit'], appears: [at('/sys/class/udc', 'the gadget, when it is one')],
    tree: '&usb {\n\tcompatible = "brcm,bcm2835-usb";\n\tdr_mode = "{dr_mode}";\n\tstatus = "okay";\n};\n',
  },
  {
    name: 'cma', what: 'memory kept for pictures', group: 'system', origin: ORIGIN,
    params: [
      number('cma-size', null, 16_777_216, 536_870_912, 'bytes'),
      ...[64, 96, 128, 192, 256, 320, 384, 448, 512].map(size => flag(`cma-${size}`, `${size} MB`)),
      flag('cma-default', 'the usual size'),
    ],
    holds: ['the picture memory'], appears: [], tree: '&{/chosen} {\n\tcma-note;\n};\n',
  },
  {
    name: 'gpio-no-bank0-irq', what: 'switches the interrupts of lines 0 to 27 off', group: 'system', origin: ORIGIN,
    params: [],
    appears: [], tree: '&{/chosen} {\n\tbank0-note;\n};\n',
    caution: 'Every part that tells the board of something is dead with it.',
  },
  {
    name: 'ramoops', what: 'keeps the kernel\'s last words over a restart', group: 'system', origin: ORIGIN,
    params: [
      text('base-addr', '0x0b000000', 'where in memory'), number('total-size', 65536, 4096, 16_777_216, 'bytes'),
      number('record-size', 16384, 4096, 1_048_576, 'bytes of a record'),
      number('console-size', 0, 0, 1_048_576, 'bytes of console'),
    ],
    appears: [at('/sys/fs/pstore', 'the last words')],
    tree: '&{/} {\n\tramoops {\n\t\tcompatible = "ramoops";\n\t\trecord-size = <{record-size}>;\n\t};\n};\n',
  },
  onI2c('tpm-slb9673', 'a security module on I²C', { compatible: 'infineon,slb9673', address: '0x2e', node: 'tpm' }, {
    group: 'system', appears: [at('/dev/tpm0', 'the security module')],
  }),
  onSpi('tpm-slb9670', 'a security module on SPI', 'infineon,slb9670', {
    group: 'system', select: '1', clockHz: 32_000_000, appears: [at('/dev/tpm0', 'the security module')],
  }),
  // The board itself
  small('disable-emmc2', 'switches the fast card reader off', 'emmc2'),
  small('pcie-32bit-dma', 'keeps what the expansion port reads and writes within 4 GB', 'pcie-dma'),
  small('rpivid-v4l2', 'decodes video in hardware', 'rpivid', { appears: [at('/dev/video19', 'the decoder')] }),
  small('dwc-otg', 'the older driver of the USB socket', 'dwc-otg', { holds: ['the USB circuit'] }),
  small('highperi', 'puts the circuits into the high part of the memory', 'highperi', {
    caution: 'The firmware has to do the same (arm_peri_high=1): without it the board does not start.',
  }),
  small('vl805', 'the USB controller on the expansion port of a module', 'vl805'),
]
