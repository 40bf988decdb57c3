/** SPI clocks, PWM channels, light strips, sound, 1-Wire and keys. */
import { SMOOTH_PICTURES } from '../../facts/part-figures'
import { stripCircuits } from '../../facts/roles'
import { MAX_BIT_ERROR } from '../../signals/strip'
import type { Facts } from '../../facts/types'
import type { SpiDeviceFigures } from '../../signals/figures/spi'
import type { Finding, Rule } from '../types'
import { called, hertz, percent, rounded, spot } from './words'

/** Above this clock a wire longer than `LONG_WIRE_M` rings. Common practice. */
const FAST_SPI_HZ = 10_000_000
const LONG_WIRE_M = 0.3
/** Fewer steps than this are seen or felt. Common practice. */
const FEW_STEPS = 50

function stepInWords({ stepAboveHz, maxClockHz, askedHz }: SpiDeviceFigures): string {
  const divides = 'The controller only divides by whole steps'
  if (stepAboveHz === null) return `${divides}, and this is its fastest one.`
  return stepAboveHz > maxClockHz
    ? `${divides}: the next one up would be ${hertz(stepAboveHz)}, and the part stands ${hertz(maxClockHz)}.`
    : `${divides}: the next one up would be ${hertz(stepAboveHz)}, more than the ${hertz(askedHz)} asked for.`
}

/** Pictures a second that the maker wants of a screen or a strip, by the limit that can be replaced. */
const wantedPictures = (facts: Facts, partId: string) => {
  const key = `${partId}.picturesPerS`
  return { wanted: facts.plan.limits[key]?.value ?? SMOOTH_PICTURES, limitKey: key,
    origin: facts.plan.limits[key]?.origin ?? 'practice' }
}

export const spiClocks: Rule = ({ facts, signals }) => signals.spi.flatMap((device): Finding[] => {
  const findings: Finding[] = []
  const subjects = [{ partId: device.partId, busId: device.busId }]
  const atHz = device.clock?.rateHz ?? device.maxClockHz
  const { modes } = facts.board?.controllers.find(controller => controller.id === device.busId) ?? {}
  if (modes && !modes.some(mode => mode === device.mode)) findings.push({
    code: 'spi.mode', id: `spi.mode ${device.partId}`, severity: 'stop', stages: ['wiring'],
    title: `${device.busLabel} does not do mode ${device.mode}`,
    sentence: `${device.name} takes its data on the other edge of the clock than this controller's driver can: it `
      + 'reads shifted bits. Put it on a bus that does all modes.',
    subjects, figures: [{
      label: 'mode', value: device.mode, limit: modes.join(', '),
      origin: 'memory: Linux kernel, drivers/spi/spi-bcm2835aux.c, mode_bits',
    }],
    fixes: facts.groups.filter(group => group.owner.id === device.partId && group.kind === 'spi').map(group => ({
      label: `Take ${device.name} off, then place the rest`,
      edits: group.terminals.map(({ key }) => ({ edit: 'release' as const, terminal: key })),
    })),
  })
  if (device.clock && atHz < device.askedHz * 0.75) findings.push({
    code: 'spi.step-below', id: `spi.step-below ${device.partId}`, severity: 'note', stages: ['wiring'],
    title: `${device.name} gets ${hertz(atHz)} of ${hertz(device.askedHz)}`,
    sentence: stepInWords(device),
    subjects,
    figures: [{
      label: 'clock', value: rounded(atHz, 0), unit: 'Hz', limit: device.askedHz,
      origin: facts.board?.controllers.find(controller => controller.id === device.busId)?.clock?.origin ?? 'memory',
    }],
    fixes: [],
  })
  if (atHz > FAST_SPI_HZ && device.wireM > LONG_WIRE_M) findings.push({
    code: 'spi.wire-long', id: `spi.wire-long ${device.partId}`, severity: 'caution', stages: ['wiring', 'build'],
    title: `${rounded(device.wireM * 100, 0)} cm are long for ${hertz(atHz)}`,
    sentence: `${device.name} shows wrong pixels or reads wrong bytes over wires of that length. Shorten them to `
      + `${LONG_WIRE_M * 100} cm, lead a ground beside the clock, or slow it down.`,
    subjects, figures: [{ label: 'wire', value: rounded(device.wireM), unit: 'm', limit: LONG_WIRE_M,
      origin: 'practice' }],
    fixes: [{ label: `Run it at ${hertz(FAST_SPI_HZ)}`,
      edits: [{ edit: 'set-clock', bus: device.partId, clockHz: FAST_SPI_HZ }] }],
  })
  const pictures = wantedPictures(facts, device.partId)
  if (device.screen && device.screen.framesPerS < pictures.wanted
    && (device.screen.bitsPerPixel > 1 || facts.plan.limits[pictures.limitKey])) findings.push({
    code: 'spi.screen-slow', id: `spi.screen-slow ${device.partId}`, severity: 'note', stages: ['wiring', 'parts'],
    title: `${device.name} shows ${rounded(device.screen.framesPerS, 1)} pictures a second at most`,
    sentence: `${device.screen.width} × ${device.screen.height} × ${device.screen.bitsPerPixel} bits at ${hertz(atHz)} `
      + 'take that long. Fine for figures, not for film: draw only what changes, or take a panel with a video plug.',
    subjects,
    figures: [{
      label: 'pictures', value: rounded(device.screen.framesPerS, 1), unit: '/s', limit: pictures.wanted,
      origin: pictures.origin,
      limitKey: pictures.limitKey,
    }],
    fixes: [],
  })
  return findings
})

/** Outputs on one channel that want different frequencies, and channels too coarse or out of the part's range. */
export const pwmChannels: Rule = ({ signals }) => signals.pwm.flatMap((channel): Finding[] => {
  const needs = channel.outputs.flatMap(output => output.need ? [{ ...output, need: output.need }] : [])
  const subjects = needs.map(({ partId, terminal }) => ({ partId, terminal, busId: channel.busId }))
  const odd = needs.find(({ need }) =>
    needs.some(other => other.need.frequencyHz < need.minHz || other.need.frequencyHz > need.maxHz))
  if (odd && needs.length > 1) return [{
    code: 'pwm.frequencies-differ', id: `pwm.frequencies-differ ${channel.busId}`, severity: 'stop', stages: ['wiring'],
    title: `${channel.label} cannot run at two frequencies`,
    sentence: `${needs.map(({ name, need }) => `${name} wants ${hertz(need.frequencyHz)}`).join(' and ')}; one channel `
      + 'has one frequency and one duty for both. Move one to the other channel.',
    subjects, figures: needs.map(({ name, need }) => ({ label: name, value: need.frequencyHz, unit: 'Hz',
      origin: need.origin })),
    fixes: needs.map(({ terminal, name }) => ({ label: `Release ${name}`,
      edits: [{ edit: 'release' as const, terminal }] })),
  }]
  const first = needs[0]?.need
  const wanted = first?.steps
  const usable = channel.steps && first?.pulseMaxUs
    ? Math.floor(channel.steps * (first.pulseMaxUs - first.pulseMinUs!) * 1e-6 * first.frequencyHz)
    : channel.steps
  if (!usable || !wanted || usable >= Math.min(wanted, FEW_STEPS)) return []
  return [{
    code: 'pwm.coarse', id: `pwm.coarse ${channel.busId}`, severity: 'caution', stages: ['wiring'],
    title: `${channel.label} has few steps at ${hertz(needs[0]!.need.frequencyHz)}`,
    sentence: `Its clock of ${hertz(channel.sourceHz!)} leaves ${usable} steps of duty. Choose a lower frequency.`,
    subjects, figures: [{ label: 'steps', value: usable, limit: Math.min(wanted, FEW_STEPS), origin: 'practice' }],
    fixes: [],
  }]
})

/** Addressable strips: how fast, and by whom. */
export const strips: Rule = ({ facts, signals }) => signals.strips.flatMap((strip): Finding[] => {
  const findings: Finding[] = []
  const subjects = [{ partId: strip.partId, ...(strip.by && { busId: strip.by.busId }) }]
  if (strip.spi && Math.abs(strip.spi.error) > MAX_BIT_ERROR) findings.push({
    code: 'strip.timing', id: `strip.timing ${strip.partId}`, severity: 'stop', stages: ['wiring'],
    title: `${strip.by!.label} cannot make the bits of ${strip.name}`,
    sentence: `It would need ${hertz(strip.spi.wantedHz)} and the divider makes ${hertz(strip.spi.madeHz)} `
      + `(${percent(strip.spi.error, 0)}): the strip shows wrong colours. ${facts.board && stripCircuits(facts.board).includes('pwm')
        ? 'Use a PWM channel.'
        : 'Use a controller with a faster clock.'}`,
    subjects,
    figures: [{
      label: 'off', value: rounded(Math.abs(strip.spi.error) * 100, 0), unit: '%', limit: MAX_BIT_ERROR * 100,
      origin: 'practice',
    }],
    fixes: [],
  })
  const pictures = wantedPictures(facts, strip.partId)
  if (strip.framesPerS < pictures.wanted) findings.push({
    code: 'strip.slow', id: `strip.slow ${strip.partId}`, severity: 'note', stages: ['wiring', 'parts'],
    title: `${strip.name} changes ${rounded(strip.framesPerS, 1)} times a second at most`,
    sentence: `${strip.pixels} pixels take ${rounded(strip.frameS * 1000, 1)} ms a picture. Split it on two outputs `
      + 'for quicker movement.',
    subjects,
    figures: [{
      label: 'pictures', value: rounded(strip.framesPerS, 1), unit: '/s', limit: pictures.wanted,
      origin: pictures.origin,
      limitKey: pictures.limitKey,
    }],
    fixes: [],
  })
  if (strip.by?.kind === 'pwm' && facts.board?.soundSocket) findings.push({
    code: 'strip.and-sound', id: `strip.and-sound ${strip.partId}`, severity: 'note', stages: ['wiring'],
    title: `${strip.by.label} makes the strip's signal`,
    sentence: 'This board makes its analog sound with the same two channels: with a strip on one of them there is '
      + 'noise on the sound socket. Sound by video or by I²S is not touched.',
    subjects, figures: [{ label: 'a picture', value: rounded(strip.frameS * 1000, 2), unit: 'ms', origin: 'memory' }],
    fixes: [],
  })
  return findings
})

/** Sample rates that the sound clock only comes near. */
export const soundRates: Rule = ({ signals }) => signals.sound.flatMap((card): Finding[] => {
  const uneven = card.rates.filter(rate => !rate.even)
  if (!uneven.length) return []
  const worst = [...uneven].sort((a, b) => Math.abs(b.error) - Math.abs(a.error))[0]!
  return [{
    code: 'sound.uneven', id: `sound.uneven ${card.partId}`, severity: 'note', stages: ['wiring'],
    title: `${card.name}: some rates come from a fractional divider`,
    sentence: `${uneven.map(rate => rounded(rate.rateHz / 1000, 1)).join(', ')} kHz do not divide evenly: the bit `
      + 'clock jitters a little. Nobody hears it on speech; for music a board with a clock of its own is better.',
    subjects: [{ partId: card.partId }],
    figures: [{ label: `at ${rounded(worst.rateHz / 1000, 1)} kHz`, value: rounded(worst.error * 1e6, 1), unit: 'ppm',
      origin: 'memory' }],
    fixes: [],
  }]
})

/** A 1-Wire line too long for its usual pull-up. */
export const oneWireLine: Rule = ({ signals }) => {
  const wire = signals.oneWire
  if (!wire || wire.usualOhm <= wire.maxOhm) return []
  const fits = wire.maxOhm >= wire.minOhm
  return [{
    code: 'onewire.pull-up', id: 'onewire.pull-up', severity: fits ? 'caution' : 'stop', stages: ['wiring'],
    title: 'The 1-Wire line wants a stronger pull-up',
    sentence: `${rounded(wire.wireM, 1)} m of wire and the sensors make some ${Math.round(wire.capacitancePf)} pF: 4.7 kΩ is too slow. `
      + `${fits
        ? `Take ${Math.round(wire.maxOhm / 100) * 100} Ω, and no less than ${Math.round(wire.minOhm)} Ω.`
        : 'No resistor does both: split the line, or shorten it.'}`,
    subjects: wire.partIds.map(partId => ({ partId })),
    figures: [{ label: 'usual', value: wire.usualOhm, unit: 'Ω', limit: Math.round(wire.maxOhm), origin: 'memory' }],
    fixes: [],
  }]
}

/** The one line that wakes the classic families from halt. Memory. */
const WAKING_LINE = 3

/** Lines that tell the board of something: behind an expander they come late, and from halt only one line wakes it. */
export const tellingLines: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { signal, place } = terminal
  if (!signal?.tells || !place || place.kind === 'nowhere') return []
  if (place.kind === 'terminal') return [{
    code: 'line.tells-late', id: `line.tells-late ${terminal.key}`, severity: 'caution', stages: ['wiring'],
    title: `${called(terminal)} is heard late behind ${place.owner.name}`,
    sentence: `${signal.tells === 'wake' ? 'A line that wakes the board' : 'An interrupt'} wants a line of the header: the expander is `
      + `only asked now and `
      + `then${place.owner.signals.some(other => other.tells)
        ? ', unless its own interrupt line is wired and its driver watches it'
        : ''}.`,
    subjects: [spot(terminal)],
    figures: [{
      label: 'asked', value: place.owner.part.i2c?.poll?.hz ?? 'now and then',
      unit: place.owner.part.i2c?.poll ? '/s' : undefined,
      origin: 'practice',
    }],
    fixes: [{ label: `Release ${called(terminal)}`, edits: [{ edit: 'release', terminal: terminal.key }] }],
  }]
  if (signal.tells !== 'wake' || place.line?.line === WAKING_LINE) return []
  return [{
    code: 'line.wakes-not', id: `line.wakes-not ${terminal.key}`, severity: 'note', stages: ['wiring', 'bringup'],
    title: `${called(terminal)} does not wake a halted board`,
    sentence: `While the system runs any line can wake a program. After a shutdown only line ${WAKING_LINE} (position `
      + '5), pulled low, starts it again on the classic families; it belongs to I²C 1.',
    subjects: [spot(terminal)],
    figures: [{ label: 'line', value: place.line?.line ?? '', limit: WAKING_LINE, origin: 'memory' }],
    fixes: [],
  }]
})

/** Keys without diodes: three held together may show a fourth. */
export const keyGhosts: Rule = ({ facts, signals }) =>
  signals.keys.filter(keys => !keys.diodes && keys.rows > 1 && keys.columns > 1).map((keys): Finding => {
    const option = facts.parts.find(owner => owner.id === keys.partId)!.part.matrix!.diodesOption
    return {
      code: 'keys.ghosts', id: `keys.ghosts ${keys.partId}`, severity: 'note', stages: ['wiring', 'build'],
      title: `${keys.name}: three keys held may show a fourth`,
      sentence: `${keys.rows} rows × ${keys.columns} columns without diodes tell ${keys.toldApart} keys apart for `
        + 'sure. One diode for each key, cathode to the row, ends it.',
      subjects: [{ partId: keys.partId }],
      figures: [{ label: 'told apart', value: keys.toldApart, unit: 'keys', limit: keys.keys, origin: 'practice' }],
      fixes: [{ label: 'A diode for each key',
        edits: [{ edit: 'set-option', id: keys.partId, option, value: 'each' }] }],
      worksheet: { kind: 'matrix', keys: keys.keys, rows: keys.rows, columns: keys.columns, diodes: keys.diodes },
    }
  })
