/**
 * Overlays of what the board switches: LEDs, fans, pulses, infrared senders, power. From memory unless an
 * overlay says otherwise.
 */
import type { OverlaySpec } from '../types'
import { at, flag, hwmon, line, number, onI2c, onLines, ORIGIN, outputPin, text } from './build'

export const OUTPUTS: OverlaySpec[] = [
  onI2c(
    'i2c-pwm-pca9685a', 'sixteen pulse outputs on I²C', { compatible: 'nxp,pca9685-pwm', address: '0x40', node: 'pca' },
    { group: 'switching', properties: '\t\t#pwm-cells = <2>;\n',
      appears: [at('/sys/class/pwm/pwmchip*', 'sixteen channels')] },
  ),
  onI2c(
    'i2c-fan', 'a fan controller on I²C',
    { emc2301: { compatible: 'microchip,emc2301', address: '0x2f', what: 'one fan' } },
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
  onLines(
    'gpio-poweroff', 'a line that tells the supply that the board is down', 'power_ctrl',
    {
      group: 'switching',
      params: [
        line('gpiopin', 26, 'the line'), flag('active_low', 'the line goes low'),
        flag('input', 'the line is an input before'),
        flag('export', 'programs see it'),
        number('timeout_ms', 3000, 0, 60_000, 'milliseconds the kernel waits for the power to go'),
        number('active_delay_ms', 100, 0, 60_000, 'milliseconds it is held'),
        number('inactive_delay_ms', 100, 0, 60_000, 'milliseconds before it is held again'),
      ],
      properties: '\t\tcompatible = "gpio-poweroff";\n\t\tgpios = <&gpio {gpiopin} {active_low:bit}>;\n',
      pins: outputPin('{gpiopin}'),
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
          number(`fan_temp${i}`, 50_000 + 5_000 * i, 20_000, 110_000,
            'step of temperature, in thousandths of a degree'),
          number(`fan_temp${i}_hyst`, 5000, 0, 30_000, 'how much cooler'),
          number(`fan_temp${i}_speed`, [75, 125, 175, 250][i]!, 0, 255, 'speed'),
        ]),
      ],
      properties: '\t\tcompatible = "pwm-fan";\n\t\tpwms = <&{label}_pwm 0 20000000 0>;\n\t\t#cooling-cells = <2>;\n'
        + '\t\tcooling-levels = <0 {fan_temp0_speed} {fan_temp1_speed} {fan_temp2_speed} {fan_temp3_speed}>;\n\t};\n\n'
        + '\t{label}_pwm: {label}-pwm {\n\t\tcompatible = "pwm-gpio";\n\t\t#pwm-cells = <3>;\n\t\tgpios = <&gpio {fan_gpio} 0>;\n',
      trips: [0, 1, 2, 3].map(i => ({ temperature: `{fan_temp${i}}`, hysteresis: `{fan_temp${i}_hyst}`,
        level: i + 1 })),
      appears: [at('/sys/class/thermal/cooling_device0', 'the fan')],
    },
  ),
  onLines(
    'gpio-led', 'a lamp that the kernel blinks', 'leds@{gpio:hex}',
    {
      group: 'switching',
      params: [
        line('gpio', 19, 'line of the lamp'), text('label', 'gpio-led', 'name of the lamp'),
        text('trigger', 'none', 'what it shows'),
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
    'gpio-ir-tx', 'an infrared sender', 'gpio-ir-transmitter@{gpio_pin:hex}',
    {
      group: 'switching', params: [line('gpio_pin', 18, 'line of the sender'), flag('invert', 'low is lit')],
      properties: '\t\tcompatible = "gpio-ir-tx";\n\t\tgpios = <&gpio {gpio_pin} 0>;\n', pins: outputPin('{gpio_pin}'),
      appears: [at('/dev/lirc*', 'the sender')],
    },
  ),
  {
    name: 'pwm-ir-tx', what: 'an infrared sender timed by the pulse circuit', group: 'switching', origin: ORIGIN,
    params: [line('gpio_pin', 18, 'line of the sender'), number('func', 2, 1, 7, 'multiplexer setting')],
    enables: ['pwm'],
    holds: ['the pulse circuit'], excludes: ['pwm', 'pwm-2chan'], appears: [at('/dev/lirc*', 'the sender')],
    tree: '&pwm {\n\tstatus = "okay";\n\tpinctrl-names = "default";\n\tpinctrl-0 = <&pwm_pins>;\n};\n\n&pwm_pins {\n\tbrcm,pins = '
      + '<{gpio_pin}>;\n\tbrcm,function = <{func}>;\n};\n\n&{/} {\n\tpwm-ir-transmitter {\n\t\tcompatible = "pwm-ir-tx";\n\t\tpwms = '
      + '<&pwm 0 100 0>;\n\t};\n};\n',
  },
  {
    name: 'act-led', what: 'puts the activity lamp on a line', group: 'switching', origin: ORIGIN,
    params: [line('gpio', null, 'line of the lamp'), flag('activelow', 'low is lit')],
    appears: [at('/sys/class/leds/ACT', 'the lamp')],
    tree: '&{/leds/act} {\n{gpio:gpio:gpios}};\n',
  },
  onLines('pwm-gpio', 'pulses on a plain line, made by the processor', 'pwm@{gpio:hex}', {
    group: 'switching', params: [line('gpio', 4, 'line of the pulses')],
    properties: '\t\tcompatible = "pwm-gpio";\n\t\t#pwm-cells = <3>;\n\t\tgpios = <&gpio {gpio} 0>;\n',
    appears: [at('/sys/class/pwm/pwmchip*', 'the pulses')],
    caution: 'The processor makes the pulses: a servo trembles and a fan hums when it is busy.',
  }),
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
    properties: '\t\tcompatible = "voltaris,ws2812-pio";\n\t\tgpios = <&gpio {gpio} 0>;\n',
    appears: [at('/dev/leds0', 'the strip')],
    caution: 'The newest family alone has the circuit.',
  }),
  {
    name: 'pwm1', what: 'the second pulse circuit, on lines 40 and 41 away from the header', group: 'switching',
    origin: ORIGIN,
    params: [
      number('clock', 100_000_000, 1_000_000, 500_000_000, 'clock of the circuit in Hz'),
    ], appears: [at('/sys/class/pwm/pwmchip*', 'the pulses')],
    tree: '&pwm {\n\tstatus = "okay";\n};\n',
  },
]
