/** Serial links: rates at both ends, frames, flow, direction. */
import type { Clock } from '../../catalogue/types'
import { clockOf } from '../../facts/circuits'
import { MAX_DIFFERENCE, partSerialRate, SAFE_ERROR, serialRate } from '../../signals/rates'
import type { SerialLinkFigures } from '../../signals/figures/serial'
import type { Worksheet } from '../../vocabulary/worksheets'
import type { Facts } from '../../facts/types'
import type { Finding, Fix, Rule } from '../types'
import { percent, rounded, spot } from './words'

const sheet = (link: SerialLinkFigures, facts: Facts): Worksheet => ({
  kind: 'serial', sourceHz: link.boardClock?.sourceHz ?? 48_000_000,
  divider: link.boardClock?.divider === 'eighth' ? 'eighth' : 'fractional-64', baud: link.baud,
  partHz: facts.parts.find(owner => owner.id === link.partId)?.part.serial?.clock?.sourceHz ?? 0, frame: link.frame,
})

/** True when both ends make the rate near enough from their clocks. */
function agree(clock: Clock | undefined, link: SerialLinkFigures, facts: Facts, baud: number): boolean {
  const own = facts.parts.find(entry => entry.id === link.partId)?.part.serial?.clock
  const board = clock ? serialRate(clock, baud) : null
  if (!board) return false
  const part = own ? partSerialRate(own, baud) : { rateHz: baud, error: 0 }
  return Math.max(Math.abs(board.error), Math.abs(part.error)) <= SAFE_ERROR
    && Math.abs(board.rateHz - part.rateHz) / baud <= 2 * SAFE_ERROR
}

/** Other rates of the part at which both ends agree and that carry what it sends, the nearest first. */
function otherRates(link: SerialLinkFigures, facts: Facts): Fix[] {
  const owner = facts.parts.find(entry => entry.id === link.partId)
  const option = owner?.part.options?.find(entry => entry.id === link.baudOption)
  const controller = facts.board?.controllers.find(entry => entry.id === link.controllerId)
  const clock = controller && clockOf(controller, facts.plan)
  // A byte takes ten bit times.
  return (option?.values ?? []).filter(({ value }) =>
    Number(value) < link.baud && Number(value) / 10 >= link.sendsBytesPerS && agree(clock, link, facts, Number(value)))
    .sort((a, b) => Number(b.value) - Number(a.value)).slice(0, 2)
    .map(({ value, label }) => ({
      label: `Run it at ${label}`, edits: [{ edit: 'set-option', id: link.partId, option: option!.id, value }],
    }))
}

/** The full port, where there is a choice; `mended` says whether it would be enough. */
const fullPort = (link: SerialLinkFigures, facts: Facts, mended: (clock: Clock) => boolean = () => true): Fix[] => {
  const full = facts.board?.controllers.find(controller =>
    controller.id === link.controllerId)?.variants?.find(variant =>
    variant.full && variant.id !== link.circuit?.id)
  return full && mended(full.clock)
    ? [{ label: `Give it the ${full.label}`,
        edits: [{ edit: 'choose-circuit', controller: link.controllerId, variant: full.id }] }]
    : []
}

/** Rates that the two ends make from their clocks, too far apart or out of reach. */
export const serialRates: Rule = ({ facts, signals }) => signals.serial.flatMap((link): Finding[] => {
  const common = {
    stages: ['wiring' as const, 'bringup' as const], subjects: [{ partId: link.partId, busId: link.busId }],
    worksheet: sheet(link, facts),
  }
  if (!link.board && link.boardClock) return [{
    ...common, code: 'serial.unreachable', id: `serial.unreachable ${link.partId}`, severity: 'stop',
    title: `${link.busLabel} cannot make ${link.baud} baud`,
    sentence: `Its divider works from ${link.boardClock.sourceHz / 1e6} MHz and has no step for that rate. `
      + 'Choose another rate.',
    figures: [{ label: 'asked', value: link.baud, unit: 'baud', origin: link.boardClock.origin }],
    fixes: [...fullPort(link, facts, clock => agree(clock, link, facts, link.baud)), ...otherRates(link, facts)],
  }]
  if (link.difference === null || !link.board) return []
  const apart = Math.abs(link.difference)
  const worst = Math.max(Math.abs(link.board.error), Math.abs(link.part?.error ?? 0))
  if (worst <= SAFE_ERROR && apart <= 2 * SAFE_ERROR) return []
  return [{
    ...common, code: 'serial.rate-apart', id: `serial.rate-apart ${link.partId}`,
    severity: apart > MAX_DIFFERENCE ? 'stop' : 'caution',
    title: `The two ends of ${link.busLabel} disagree on ${link.baud} baud`,
    sentence: `The board makes ${rounded(link.board.rateHz, 0)} (${percent(link.board.error)}) and `
      + `${facts.parts.find(owner => owner.id === link.partId)?.name} ${rounded(link.part?.rateHz ?? link.baud, 0)} `
      + `(${percent(link.part?.error ?? 0)}): `
      + `${apart > MAX_DIFFERENCE ? 'every frame falls apart' : 'characters are lost now and then, more so when it is warm or cold'}. `
      + 'Choose a rate that both can make.',
    figures: [{ label: 'worst end', value: rounded(worst * 100), unit: '%', limit: SAFE_ERROR * 100,
      origin: 'practice' }],
    fixes: [...otherRates(link, facts), ...fullPort(link, facts, clock => agree(clock, link, facts, link.baud))],
  }]
})

/** Frames with parity on the small port, which has none; and rates that follow the core clock. */
export const serialFrames: Rule = ({ facts, signals }) => signals.serial.flatMap((link): Finding[] => {
  const owner = facts.parts.find(entry => entry.id === link.partId)!
  if (link.circuit && !link.circuit.full && link.frame[1] !== 'N') return [{
    code: 'serial.no-parity', id: `serial.no-parity ${link.partId}`, severity: 'stop', stages: ['wiring', 'boot'],
    title: `${link.busLabel} is the small port and has no parity`,
    sentence: `${owner.name} talks ${link.frame}; the small port only knows frames without parity, so every byte is `
      + 'wrong. Give it the full port.',
    subjects: [{ partId: owner.id, busId: link.busId }],
    figures: [{ label: 'frame', value: link.frame, limit: '8N1', origin: 'memory' }],
    fixes: fullPort(link, facts),
  }]
  if (!link.boardClock?.followsCore) return []
  return [{
    code: 'serial.small-port', id: `serial.small-port ${link.partId}`, severity: 'note', stages: ['wiring', 'boot'],
    title: `${link.busLabel} is the small port here`,
    sentence: `${link.circuit?.note ?? 'Its rate follows the core clock.'} At ${link.baud} baud it is `
      + `${percent(link.board?.error ?? 0, 3)} off.`,
    subjects: [{ partId: owner.id, busId: link.busId }],
    figures: [{ label: 'made', value: rounded(link.board?.rateHz ?? 0, 1), unit: 'baud',
      origin: link.boardClock.origin }],
    fixes: fullPort(link, facts), worksheet: sheet(link, facts),
  }]
})

/** What the part sends against what the rate carries; flow control; the line that turns an RS-485 driver. */
export const serialFlow: Rule = ({ facts, signals }) => signals.serial.flatMap((link): Finding[] => {
  const owner = facts.parts.find(entry => entry.id === link.partId)!
  const { serial } = owner.part
  const findings: Finding[] = []
  const subjects = [{ partId: owner.id, busId: link.busId }]
  if (link.sendsBytesPerS > link.carriesBytesPerS) findings.push({
    code: 'serial.too-slow', id: `serial.too-slow ${owner.id}`, severity: 'stop', stages: ['wiring'],
    title: `${link.baud} baud is too slow for ${owner.name}`,
    sentence: `It sends ${link.sendsBytesPerS} bytes a second and the link carries `
      + `${Math.floor(link.carriesBytesPerS)}: bytes are lost. Choose a faster rate.`,
    subjects,
    figures: [{
      label: 'sends', value: link.sendsBytesPerS, unit: 'bytes/s', limit: Math.floor(link.carriesBytesPerS),
      origin: 'published: frame arithmetic, 8N1 is 10 bit times',
    }],
    fixes: (owner.part.options?.find(option => option.id === link.baudOption)?.values
      ?? []).filter(({ value }) => Number(value) > link.baud)
      .slice(0, 2)
      .map(({ value, label }) => ({
        label: `Run it at ${label}`, edits: [{ edit: 'set-option', id: owner.id, option: link.baudOption!, value }],
      })),
  })
  if (serial?.wantsFlowControl && !link.flowControlWired
    && link.sendsBytesPerS > link.carriesBytesPerS * 0.25) findings.push({
    code: 'serial.no-flow-control', id: `serial.no-flow-control ${owner.id}`, severity: 'note', stages: ['wiring'],
    title: `${owner.name} would like RTS and CTS`,
    sentence: 'In bursts it sends faster than a busy program reads. Wire RTS and CTS where the part has them, or read '
      + 'in a thread of its own.',
    subjects,
    figures: [{ label: 'busy', value: Math.round(100 * link.sendsBytesPerS / link.carriesBytesPerS), unit: '%',
      origin: 'practice' }],
    fixes: [],
  })
  const turning = serial?.directionSignal && facts.byKey.get(`${owner.id}.${serial.directionSignal}`)
  if (turning && !turning.place) findings.push({
    code: 'serial.no-direction', id: `serial.no-direction ${owner.id}`, severity: 'stop', stages: ['wiring'],
    title: `Nothing turns the driver of ${owner.name} round`,
    sentence: 'RS-485 has one pair for both ways: without its direction line the part either never talks or never '
      + 'listens. Give that terminal a line.',
    subjects: [spot(turning)], figures: [], fixes: [],
  })
  return findings
})
