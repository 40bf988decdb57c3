/** PWM channels, light strips, sound buses, 1-Wire and key matrices of a plan. */
import { clockOf } from '../../facts/circuits'
import type { PwmNeed } from '../../catalogue/types'
import type { Facts } from '../../facts/types'
import { matrixFigures, type Matrix, type MatrixFigures } from '../matrix'
import { oneWirePullUp, type OneWire } from '../onewire'
import { i2sClock, pwmSteps, spiClock } from '../rates'
import { frameTimeS, spiClockForStrip } from '../strip'

export interface PwmFigures {
  busId: string
  label: string
  outputs: { partId: string, terminal: string, name: string, need: PwmNeed | null }[]
  sourceHz: number | null
  /** Duty steps at the frequency of the first output that says one. */
  steps: number | null
}

export function pwmFigures(facts: Facts): PwmFigures[] {
  return facts.buses.filter(bus => bus.kind === 'pwm' && bus.controller).flatMap((bus): PwmFigures[] => {
    const outputs = facts.groups.filter(group => group.bus?.id === bus.id && group.terminals[0]!.signal!.role === 'pwm')
      .map(group => ({
        partId: group.owner.id, terminal: group.terminals[0]!.key, name: group.owner.name,
        need: group.terminals[0]!.signal!.pwm ?? null,
      }))
    if (!outputs.length) return []
    const sourceHz = clockOf(bus.controller!, facts.plan)?.sourceHz ?? null
    const frequencyHz = outputs.find(output => output.need)?.need?.frequencyHz
    return [{ busId: bus.id, label: bus.label, outputs, sourceHz,
      steps: sourceHz && frequencyHz ? pwmSteps(sourceHz, frequencyHz) : null }]
  })
}

export interface StripFigures {
  partId: string
  name: string
  pixels: number
  frameS: number
  framesPerS: number
  by: { busId: string, label: string, kind: string } | null
  /** For SPI: the clock that would be right, and the one the divider makes. */
  spi: { wantedHz: number, madeHz: number, error: number } | null
}

export function stripFigures(facts: Facts): StripFigures[] {
  return facts.parts.flatMap((owner): StripFigures[] => {
    const { strip } = owner.part
    if (!strip) return []
    const pixels = Math.max(1, Number(owner.options[strip.pixelsOption]) || 1)
    const bus = facts.groups.find(group => group.owner === owner)?.bus ?? null
    const source = bus?.controller && clockOf(bus.controller, facts.plan)
    const onSpi = bus?.kind === 'spi' && source
    const clocked = strip.clocked && onSpi ? spiClock(source, owner.part.spi!.maxClockHz) : null
    const wantedHz = spiClockForStrip(strip.bitUs)
    const made = onSpi && !strip.clocked ? spiClock(source, wantedHz * 1.2) : null
    const frameS = frameTimeS({ ...strip, pixels, bitUs: clocked ? 1e6 / clocked.rateHz : strip.bitUs })
    return [{
      partId: owner.id, name: owner.name, pixels, frameS, framesPerS: 1 / frameS,
      by: bus ? { busId: bus.id, label: bus.label, kind: bus.kind } : null,
      spi: made ? { wantedHz, madeHz: made.rateHz, error: (made.rateHz - wantedHz) / wantedHz } : null,
    }]
  })
}

export interface SoundFigures {
  partId: string
  name: string
  rates: { rateHz: number, bitClockHz: number, error: number, even: boolean }[]
}

export function soundFigures(facts: Facts): SoundFigures[] {
  return facts.groups.flatMap((group): SoundFigures[] => {
    const { i2s } = group.owner.part
    const source = group.kind === 'i2s' && group.bus?.controller && clockOf(group.bus.controller, facts.plan)
    if (!i2s || !source) return []
    return [{ partId: group.owner.id, name: group.owner.name, rates: i2s.rates.map((rateHz) => {
      const { rateHz: bitClockHz, error, even } = i2sClock(source, rateHz, i2s.bits)
      return { rateHz, bitClockHz, error, even }
    }) }]
  })
}

export interface OneWireFigures extends OneWire {
  partIds: string[]
  wireM: number
  position: number | null
}

/** All 1-Wire parts of the plan hang on one line. Null when there are none. */
export function oneWireFigures(facts: Facts): OneWireFigures | null {
  const wires = facts.terminals.filter(terminal => terminal.signal?.role === 'onewire')
  if (!wires.length) return null
  const wireM = wires.reduce((sum,
    { key, owner }) => sum + (facts.plan.build.wires[key]?.lengthM ?? owner.part.leadM ?? 0.2), 0)
  const place = wires.find(terminal => terminal.place?.kind === 'header')?.place
  const sensors = wires.reduce(
    (sum, { owner }) => sum + Math.max(1, ...(owner.part.options ?? [])
      .filter(option => option.kind === 'count')
      .map(option => Number(owner.options[option.id]) || 1)),
    0,
  )
  return {
    ...oneWirePullUp(sensors, wireM), partIds: [...new Set(wires.map(({ owner }) => owner.id))], wireM,
    position: place?.kind === 'header' ? place.position : null,
  }
}

export interface KeyFigures extends MatrixFigures, Matrix {
  partId: string
  name: string
}

export function keyFigures(facts: Facts): KeyFigures[] {
  return facts.parts.flatMap((owner): KeyFigures[] => {
    const { matrix } = owner.part
    if (!matrix) return []
    const shape = {
      rows: Number(owner.options[matrix.rowsOption]) || 0, columns: Number(owner.options[matrix.columnsOption]) || 0,
      diodes: owner.options[matrix.diodesOption] !== 'none',
    }
    return [{ partId: owner.id, name: owner.name, ...shape, ...matrixFigures(shape) }]
  })
}
