/** All signal figures of a plan, for the rules, the lanes and the worksheets. Judges nothing. */
import type { Facts } from '../../facts/types'
import { i2cFigures, type I2cBusFigures } from './i2c'
import {
  keyFigures, oneWireFigures, pwmFigures, soundFigures, stripFigures, type KeyFigures, type OneWireFigures,
  type PwmFigures,
  type SoundFigures, type StripFigures,
} from './pulses'
import { serialFigures, type SerialLinkFigures } from './serial'
import { spiFigures, type SpiDeviceFigures } from './spi'

export interface SignalFigures {
  i2c: I2cBusFigures[]
  spi: SpiDeviceFigures[]
  serial: SerialLinkFigures[]
  pwm: PwmFigures[]
  strips: StripFigures[]
  sound: SoundFigures[]
  oneWire: OneWireFigures | null
  keys: KeyFigures[]
}

export function signalFigures(facts: Facts): SignalFigures {
  return {
    i2c: i2cFigures(facts), spi: spiFigures(facts), serial: serialFigures(facts), pwm: pwmFigures(facts),
    strips: stripFigures(facts), sound: soundFigures(facts), oneWire: oneWireFigures(facts), keys: keyFigures(facts),
  }
}
