/** Reads lines of a boot file for what they take: lines, buses, addresses and rates. */
import { OVERLAYS } from '../../overlays/library'
import { lineNumberAt, lineStarts } from '../find'
import type { Comment, Sighting, SightingKind } from '../types'
import { wordsOf } from '../words'
import { numberIn } from './number'

const PIN_PARAM = /(^|_)(pin|gpio|gpiopin|dc|dc_pin|reset|reset_pin|led|led_pin|led_gpio|interrupt|int|int_pin|irq|irqpin|penirq|sda|scl|i2c_gpio_sda|i2c_gpio_scl|rxd|txd|cs\d?_pin|dcpin|txd\d_pin|rxd\d_pin|clk_pin|gpio_pin|gpio_in_pin|gpio_out_pin|relative_axis|pin_a|pin_b|pin_x|pin_y|row|col|sqw)(_pin|_gpio)?$/i

export function readBootLines(text: string): { sightings: Sighting[], comments: Comment[] } {
  const starts = lineStarts(text)
  const sightings: Sighting[] = []
  const comments: Comment[] = []
  let none = false
  const add = (kind: SightingKind, value: number, source: string, from: number, name: string, by: string,
    more: Partial<Sighting> = {}) =>
    void sightings.push({
      kind, value, text: source, from, to: from + source.length, line: lineNumberAt(starts, from), name, by,
      words: wordsOf(`${name} ${by}`),
      ...more,
    })
  for (const [i, start] of starts.entries()) {
    const whole = text.slice(start, starts[i + 1] ?? text.length).replace(/\r?\n$/, '')
    const hash = whole.indexOf('#')
    if (hash >= 0) comments.push({ from: start + hash, to: start + whole.length, text: whole.slice(hash + 1).trim() })
    const line = hash === 0 || /^\s*#/.test(whole) ? '' : whole
    const filter = /^\s*\[(\w+)\]/.exec(line)
    if (filter) none = filter[1]!.toLowerCase() === 'none'
    if (none) continue
    const state = /^\s*gpio=([\d,-]+)=(\S+)/.exec(line)
    if (state) for (const match of state[1]!.matchAll(/\d+/g)) {
      add('pin', Number(match[0]), match[0], start + line.indexOf(state[1]!) + match.index, '', 'gpio=', {
        numbering: 'line', direction: /op|dh|dl/.test(state[2]!) ? 'out' : 'in',
      })
    }
    const setting = /^\s*(dtoverlay|dtparam)=(.*)$/.exec(line)
    if (!setting) continue
    const overlay = setting[1] === 'dtoverlay' ? /^([\w-]+)/.exec(setting[2]!)?.[1] ?? '' : ''
    const spec = OVERLAYS.get(overlay)
    for (const match of line.matchAll(/([\w]+)=(0x[\da-f]+|\d+)(?=[,:\s]|$)/gi)) {
      const [, name, source] = match as unknown as [string, string, string]
      const value = numberIn(source)
      if (value === null || /^(dtoverlay|dtparam)$/.test(name)
        || (name === 'gpio' && match.index === line.search(/\S/))) continue
      const kind = spec?.params.find(param => param.name === name)?.kind
      const from = start + match.index + name.length + 1
      if (kind === 'line'
        || (kind === undefined && PIN_PARAM.test(name))) add('pin', value, source, from, name, overlay || 'dtparam',
        { numbering: 'line' })
      else if (kind === 'address'
        || /^addr$/.test(name)) add('address', value, source, from, name, overlay || 'dtparam')
      else if (/^(i2c(_arm|\d)?_baudrate|speed|spi_?speed|spimaxfrequency)$/i.test(name)) add('clock', value, source,
        from, name, overlay || 'dtparam')
    }
  }
  return { sightings, comments }
}
