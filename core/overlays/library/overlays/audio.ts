/**
 * Overlays of sound cards on the I²S bus, and of the board's own analog audio. From memory unless an
 * overlay says otherwise.
 */
import type { OverlaySpec } from '../types'
import { at, flag, line, ORIGIN, text } from './build'

const I2S = { 18: 'sound bit clock', 19: 'sound frame clock', 20: 'sound input', 21: 'sound output' }

const card = [at('/proc/asound/cards', 'the sound card')]

/** A sound card with a codec that is set up over I²C. */
const codec = (name: string, what: string, compatible: string, address: string): OverlaySpec => ({
  name, what, group: 'sounding', origin: ORIGIN, params: [], enables: ['i2s'], lines: I2S, holds: ['the sound bus'],
  appears: card,
  bus: 'i2c1', address,
  tree: `&i2s {\n\tstatus = "okay";\n};\n\n&i2c1 {\n\tstatus = "okay";\n\t#address-cells = <1>;\n\t#size-cells = <0>;\n\n`
    + `\t{label}_codec: codec@${address.slice(2)} {\n\t\tcompatible = "${compatible}";\n\t\treg = <${address}>;\n\t\t#sound-dai-cells = `
    + `<0>;\n\t};\n};\n\n`
    + `&{/} {\n\tsound {\n\t\tcompatible = "simple-audio-card";\n\t\tsimple-audio-card,name = "${name}";\n`
    + '\t\tsimple-audio-card,format = "i2s";\n\n\t\tsimple-audio-card,cpu {\n\t\t\tsound-dai = <&i2s>;\n\t\t};\n\n'
    + '\t\tsimple-audio-card,codec {\n\t\t\tsound-dai = <&{label}_codec>;\n\t\t};\n\t};\n};\n',
})

/** A sound card on the sound bus. */
function sound(name: string, what: string, compatible: string, more: Partial<OverlaySpec> = {}): OverlaySpec {
  return {
    name, what, group: 'sounding', origin: ORIGIN, params: [], enables: ['i2s'], lines: I2S, holds: ['the sound bus'],
    appears: card,
    tree: `&i2s {\n\tstatus = "okay";\n};\n\n&{/} {\n\t{label}_codec: codec {\n\t\tcompatible = "${compatible}";\n\t\t#sound-dai-cells = `
      + `<0>;\n\t\tstatus = "okay";\n\t};\n\n\tsound {\n\t\tcompatible = "simple-audio-card";\n\t\tsimple-audio-card,name = `
      + `"${name}";\n\t\tsimple-audio-card,format = "i2s";\n\n\t\tsimple-audio-card,cpu {\n\t\t\tsound-dai = `
      + `<&i2s>;\n\t\t};\n\n\t\tsimple-audio-card,codec {\n\t\t\tsound-dai = <&{label}_codec>;\n\t\t};\n\t};\n};\n`,
    ...more,
  }
}

export const AUDIO: OverlaySpec[] = [
  sound('i2s-dac', 'a plain sound converter on the sound bus', 'ti,pcm5102a'),
  sound(
    'max98357a', 'a loudspeaker amplifier on the sound bus', 'maxim,max98357a',
    { params: [flag('no-sdmode', 'without the line that silences it'),
      line('sdmode-pin', 4, 'line that silences it')] },
  ),
  sound(
    'wm8960-soundcard', 'a sound board with inputs, on the sound bus and I²C', 'wlf,wm8960',
    { bus: 'i2c1', address: '0x1a',
      params: [text('alsaname', null, 'name of the card'), text('compatible', null, 'driver of the card')] },
  ),
  sound('adau7002-simple', 'microphones on the sound bus', 'adi,adau7002',
    { params: [text('card-name', null, 'name of the card')] }),
  sound('i2s-mems-mic', 'a microphone on the sound bus', 'invensense,ics43432'),
  {
    name: 'audremap', what: 'puts the board\'s own analog sound on two header lines', group: 'sounding', origin: ORIGIN,
    params: [
      flag('swap_lr', 'left and right change places'), flag('enable_jack', 'the socket stays on'),
      flag('pins_12_13', 'on lines 12 and 13'),
      flag('pins_18_19', 'on lines 18 and 19'),
    ],
    linesBy: { '': [18, 19], 'pins_12_13': [12, 13], 'pins_18_19': [18, 19] }, holds: ['the pulse circuit'],
    excludes: ['pwm', 'pwm-2chan'], appears: card,
    tree: '&audio_pins {\n\tbrcm,pins = <{lines}>;\n};\n',
  },
  {
    name: 'tc358743-audio', what: 'the sound of the video input, on the sound bus', group: 'sounding', origin: ORIGIN,
    params: [],
    enables: ['i2s'], lines: I2S, holds: ['the sound bus'], appears: card, tree: '&i2s {\n\tstatus = "okay";\n};\n',
  },
  codec('proto-codec', 'a sound board with its codec on I²C', 'wlf,wm8731', '0x1a'),
  codec('adau1977-adc', 'four microphone inputs, set up over I²C', 'adi,adau1977', '0x11'),
  codec('cirrus-wm5102', 'a sound board with its codec on I²C', 'wlf,wm5102', '0x1a'),
  {
    name: 'i2s-gpio28-31', what: 'the sound bus on lines 28 to 31, away from the header', group: 'sounding',
    origin: ORIGIN, params: [],
    appears: [], tree: '&i2s_pins {\n\tbrcm,pins = <28 29 30 31>;\n};\n',
    caution: 'No header of forty positions has those lines.',
  },
  {
    name: 'i2s-master-dac', what: 'a sound converter that makes the clocks itself', group: 'sounding', origin: ORIGIN,
    params: [],
    enables: ['i2s'], lines: I2S, holds: ['the sound bus'], appears: card, tree: '&i2s {\n\tstatus = "okay";\n};\n',
  },
]
