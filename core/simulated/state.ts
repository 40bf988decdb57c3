/** What can be seen and done at a simulated board at this moment, as plain data for whoever draws it. */
import type { Quantity } from '../catalogue/types'
import { BOARD_ID } from '../netlist/board'
import { lookOrNothing } from './look'
import { pinsToMeasure } from './levels'
import type { Session } from './session'
import type { Surroundings } from './surroundings'

export interface BoardPart {
  id: string
  name: string
  isIn: boolean
  canPull: boolean
  /** What is seen and heard of it now; null where that is nothing. */
  look: string | null
  /** Its wires are moved. */
  isInHand: boolean
  /** What it measures, and the figure that it has now. */
  reads: { what: Quantity, value: number }[]
  /** Outputs that a hand can hold: keys, detectors. */
  keys: { key: string, label: string, isHeld: boolean }[]
}

export interface BoardState {
  prompt: string
  lamps: string
  isOn: boolean
  isUp: boolean
  /** Seconds since the power came on. */
  nowS: number
  isBusy: boolean
  /** What goes to the board by itself is moved. */
  isBoardInHand: boolean
  /** Processor, °C; null while it is off. */
  chipC: number | null
  parts: BoardPart[]
  pins: { pin: string, label: string }[]
  surroundings: Surroundings
  /** Commands that show what this plan expects. */
  commands: string[]
}

/** Parts that somebody presses, turns, or moves before. */
const HELD = new Set(['input', 'sensing'])

export function boardState(session: Session): BoardState {
  const { machine } = session
  const { facts, bench } = machine
  return {
    prompt: session.prompt, lamps: session.lamps, isOn: machine.isOn, isUp: machine.isUp, nowS: machine.nowS,
    isBusy: machine.busySinceS !== null, isBoardInHand: machine.inHand.has(BOARD_ID),
    chipC: machine.isOn && machine.world.isPowered ? machine.chipC : null,
    surroundings: machine.surroundings, pins: pinsToMeasure(bench),
    commands: [...new Set([
      ...bench.looks.flatMap(({ probe }) => /^(node|scan):/.test(probe.id) && probe.command ? [probe.command] : []),
      'dmesg | tail', `gpioinfo${machine.lineTools === 1 ? '' : ' -c gpiochip0'}`, 'lsusb', 'vcgencmd measure_temp',
      'vcgencmd get_throttled', 'sh check.sh',
    ])],
    parts: bench.shop.parts.map(owner => ({
      id: owner.id, name: owner.name, isIn: machine.isIn(owner.id), canPull: !owner.part.isAddOn,
      look: lookOrNothing(machine, owner), isInHand: machine.inHand.has(owner.id),
      reads: (owner.part.reads ?? []).map(what => ({ what, value: machine.quantity(owner, what) })),
      // What measures is told by the room; the others are pressed, or have something move before them.
      keys: !HELD.has(owner.part.group) || owner.part.reads?.length
        ? []
        : facts.terminals.filter(({ owner: whose, signal }) => whose === owner && signal?.role === 'line'
          && signal.direction === 'out'
          && !signal.analog).map(({ key, label }) => ({ key, label, isHeld: machine.active.has(key) })),
    })),
  }
}
