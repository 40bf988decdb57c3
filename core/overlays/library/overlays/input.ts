/** Overlays of touch, keys, encoders and infrared receivers. From memory unless an overlay says otherwise. */
import type { OverlaySpec } from '../types'
import { at, choice, events, flag, inputPin, line, number, onI2c, onLines, onSpi, text, touchTurns } from './build'

export const INPUT: OverlaySpec[] = [
  onSpi('ads7846', 'a resistive touch controller on SPI', 'ti,ads7846', {
    group: 'input', select: '{cs}', clockHz: 2_000_000, appears: events('the touch'),
    params: [
      choice('cs', ['0', '1'], '1', 'its select'), number('speed', 2_000_000, 10_000, 2_500_000, 'clock in Hz'),
      line('penirq', 17, 'line that tells of a touch'),
      choice('penirq_pull', ['0', '1', '2'], '0', 'pull resistor: none, down, up'),
      flag('swapxy', 'swaps the axes'), number('xmin', 0, 0, 4095, 'left edge'), number('ymin', 0, 0, 4095, 'top edge'),
      number('xmax', 4095, 1, 4095, 'right edge'), number('ymax', 4095, 1, 4095, 'bottom edge'),
      number('pmin', 0, 0, 65535, 'lightest touch'), number('pmax', 65535, 1, 65535, 'firmest touch'),
      number('xohms', 400, 1, 10_000, 'resistance of the plate'),
      flag('keep_vref_on', 'the reference stays on between touches'),
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
    'ilitek251x', 'a capacitive touch controller on I²C',
    { compatible: 'ilitek,ili251x', address: '0x41', node: 'ili251x' },
    {
      group: 'input', params: [line('interrupt', 4, 'line of the interrupt'), ...touchTurns.slice(3)],
      properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{interrupt} 2>;\n', appears: events('the touch'),
    },
  ),
  onI2c(
    'edt-ft5406', 'a capacitive touch controller on I²C',
    { compatible: 'edt,edt-ft5506', address: '0x38', node: 'ft5x06' },
    {
      group: 'input', params: [line('interrupt', null, 'line of the interrupt'),
        line('reset', null, 'line of the reset'), ...touchTurns],
      appears: events('the touch'),
    },
  ),
  onLines(
    'gpio-key', 'a button that sends a key', 'button@{gpio:hex}',
    {
      group: 'input',
      params: [
        line('gpio', 3, 'line of the button'), choice('active_low', ['0', '1'], '1', '1: pressed is low'),
        choice('gpio_pull', ['up', 'down', 'off'], 'up', 'pull resistor'),
        text('label', 'GPIO-KEY', 'name of the button'),
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
    'gpio-ir', 'an infrared receiver', 'ir-receiver@{gpio_pin:hex}',
    {
      group: 'input',
      params: [
        line('gpio_pin', 18, 'line of the receiver'), choice('gpio_pull', ['up', 'down', 'off'], 'up', 'pull resistor'),
        flag('invert', 'the level is turned round'), text('rc-map-name', 'rc-rc6-mce', 'table of keys'),
      ],
      properties: '\t\tcompatible = "gpio-ir-receiver";\n\t\tgpios = <&gpio {gpio_pin} 1>;\n',
      pins: inputPin('{gpio_pin}', '2'),
      appears: [at('/dev/lirc0', 'the receiver'), ...events('the remote control')],
    },
  ),
  onLines(
    'rotary-encoder', 'a knob that turns without end', 'rotary@{pin_a:hex}',
    {
      group: 'input',
      params: [
        line('pin_a', 4, 'first contact'), line('pin_b', 17, 'second contact'),
        choice('relative_axis', ['0', '1'], '0', '1: tells steps, not a position'),
        number('linux_axis', 0, 0, 63, 'number of the axis'),
        flag('rollover', 'starts over at the end'), number('steps-per-period', 1, 1, 4, 'steps between two stops'),
        number('steps', 24, 1, 1000, 'steps of a turn'), flag('wakeup', 'may wake the board'),
        choice('encoding', ['gray', 'binary'], 'gray', 'code of the contacts'),
      ],
      properties: '\t\tcompatible = "rotary-encoder";\n\t\tgpios = <&gpio {pin_a} 0>, <&gpio {pin_b} 0>;\n',
      appears: events('the knob'),
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
  onI2c('cap1106', 'six touch keys on I²C', { compatible: 'microchip,cap1106', address: '0x28', node: 'cap1106' }, {
    group: 'input', params: [line('int_pin', 23, 'line of the interrupt')],
    properties: '\t\tinterrupt-parent = <&gpio>;\n\t\tinterrupts = <{int_pin} 2>;\n\t\tlinux,keycodes = <103>, <106>, <108>, <105>, <109>, '
      + '<104>;\n',
    appears: [at('/dev/input/event*', 'the keys')],
  }),
  onI2c('iqs550', 'a touch pad on I²C', { compatible: 'azoteq,iqs550', address: '0x74', node: 'iqs550' }, {
    group: 'input',
    params: [
      line('interrupt', 4, 'line of the interrupt'), line('reset', null, 'line of the reset'),
      flag('invx', 'mirrors left and right'),
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
]
