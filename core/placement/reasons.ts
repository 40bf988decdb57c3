/** Why each terminal is where it is, in words, read from the plan as it stands. */
import { clashes } from '../facts/addresses'
import { reaches, takesAnyLine } from '../facts/roles'
import type { Facts, Terminal } from '../facts/types'
import { claimOf, columnOf } from './refs'

/** terminal key → sentence, for every placed terminal. */
export function reasonsOf(facts: Facts): Map<string, string> {
  return new Map(facts.terminals.filter(terminal => terminal.place)
    .map(terminal => [terminal.key, reasonOf(terminal, facts)]))
}

function reasonOf(terminal: Terminal, facts: Facts): string {
  const { place, assignment } = terminal
  let who: '' | 'The add-on board is bound to it. ' | 'You fixed it here. '
  if (claimOf(terminal) !== undefined) who = 'The add-on board is bound to it. '
  else who = assignment?.fixed ? 'You fixed it here. ' : ''
  if (place?.kind === 'nowhere') return `${who}There is no ${place.text}.`
  if (place?.kind === 'terminal') return who + offeredReason(place, terminal, facts)
  if (terminal.is === 'ground') return `${who}Ground ${distance(terminal, facts)}${sharing(terminal, facts)}.`
  if (terminal.is === 'supply') return `${who}${terminal.supply!.rail} `
    + `${distance(terminal, facts)}${sharing(terminal, facts)}.`
  return who + signalReason(terminal, facts)
}

/** Why it hangs on a terminal that another part offers. */
function offeredReason({ offer, owner }: Extract<Terminal['place'], { kind: 'terminal' }>, terminal: Terminal,
  facts: Facts): string {
  const named = `${capital(offer.label)} of ${owner.name}`
  if (offer.kind === 'line') return 'A slow signal: it leaves the header\'s lines to those that need them.'
  if (offer.kind === 'analog') return `${named}: it gives a varying voltage, which no line of the header reads.`
  const device = facts.devices.find(entry => entry.owner === terminal.owner)
  return device && facts.devices.some(other => clashes(facts, device, other))
    ? `${named}.`
    : `${named}: its address is free there.`
}

function signalReason(terminal: Terminal, facts: Facts): string {
  const { place, signal, owner } = terminal
  if (place?.kind !== 'header' || !place.line || !facts.board) return 'This is no line.'
  if (takesAnyLine(signal!.role)) return lineReason(terminal, facts)
  const group = facts.groups.find(entry => entry.terminals.includes(terminal))
  const reach = reaches(facts.board, signal!.role, place.line.line)
    .find(entry => !group?.bus || entry.controller.id === group.bus.id)
  if (!reach && group?.bus?.software) return `${group.bus.label}: the kernel makes it on plain lines, and this is one `
    + 'of its two.'
  if (!reach) return 'The function it needs is not here.'
  const { controller } = reach
  const setting = place.line.functions.find(entry =>
    entry.controller === controller.id && entry.signal === reach.signal)?.setting
  const others = facts.groups.filter(entry => entry.bus?.id === controller.id && entry.owner !== owner)
    .map(entry => entry.owner.name)
  const routes = controller.routes.length
  const choice = controller.isDefault
    ? `the default ${controller.kind === 'i2c' ? 'bus' : 'choice'}`
    : 'because the default one was taken or clashed'
  const shared = others.length && (controller.kind === 'i2c' || controller.kind === 'spi')
    && signal!.role !== 'spi.select'
    ? ` Shared with ${others.slice(0, 3).join(', ')}${others.length > 3 ? ` and ${others.length - 3} more` : ''}.`
    : ''
  const only = routes === 1 && signal!.role !== 'spi.select' ? ' It comes out nowhere else.' : ''
  let crossing
  if (signal!.role === 'serial.tx') crossing = ' The board receives here: transmit meets receive.'
  else crossing = signal!.role === 'serial.rx'
    ? ' The board transmits here: receive meets transmit.'
    : ''
  return `${controller.label}${setting ? ` (${setting})` : ''}, ${choice}.${crossing}${only}${shared}`
}

function lineReason({ place, signal, owner }: Terminal, facts: Facts): string {
  if (place?.kind !== 'header' || !place.line) return ''
  const used = new Set(facts.buses.map(bus => bus.id))
  const functions = facts.board!.controllers.filter(controller => controller.isDefault && controller.routes.some(
    route => Object.values(route.lines)
      .includes(place.line!.line),
  ))
  const scarce = functions.length
    ? `A line that could also serve `
    + `${functions.map(controller => controller.label).join(' and ')}${functions.some(controller => used.has(controller.id))
      ? ''
      : ', which this plan does not use'}.`
    : 'A line with no default function: nothing scarce is taken.'
  const pull = signal!.idleLevel && (owner.part.contacts || signal!.load)
    ? ` Pulled ${place.line.resetPull} at reset, so it `
    + `${(place.line.resetPull === 'up') === (signal!.idleLevel === 'high') ? 'stays idle' : 'may move'} `
    + 'until a program runs.'
    : ''
  const shared = signal!.role === 'onewire' && (facts.atPosition.get(place.position)?.length ?? 0) > 1
    ? ' All 1-Wire parts share it.'
    : ''
  return scarce + pull + shared
}

function distance({ owner, place }: Terminal, facts: Facts): string {
  if (place?.kind !== 'header') return ''
  const columns = facts.terminals.filter(other =>
    other.owner === owner && other.is === 'signal' && other.place?.kind === 'header')
    .map(other => other.place?.kind === 'header' ? columnOf(other.place.position) : 0)
  if (!columns.length) return 'at a free position'
  const steps = Math.min(...columns.map(column => Math.abs(column - columnOf(place.position))))
  return steps === 0 ? 'right beside its signals' : `${steps} ${steps === 1 ? 'step' : 'steps'} from its signals`
}

function sharing({ place }: Terminal, facts: Facts): string {
  const wires = place?.kind === 'header' ? facts.atPosition.get(place.position)?.length ?? 1 : 1
  return wires > 1 ? `, shared by ${wires} wires` : ''
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
