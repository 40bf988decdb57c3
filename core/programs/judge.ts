/** Holds what was found in a program against the plan: agrees, contradicts, unknown, each with the reason. */
import { hexAddress } from '../bringup/grid'
import type { Expected } from '../bringup/expected'
import type { HeaderPosition } from '../catalogue/types'
import type { Facts, Terminal } from '../facts/types'
import { meantBy, type Meant } from './meant'
import { lineOfPin, pinOfLine } from './numbering'
import type { Numbering, ProgramReading, Sighting } from './types'

export type Verdict = 'agrees' | 'contradicts' | 'unknown'

export interface Held {
  sighting: Sighting
  verdict: Verdict
  says: string
  /** Header position that the number stands for. */
  position?: number
  /** Line that it stands for. */
  line?: number
  /** `part.terminal` of the plan that it is, or should be. */
  terminal?: string
  partId?: string
  /** What should stand there, as it would be written. */
  should?: string
}

/** Every sighting, in the order of the text. */
export function heldAgainst(reading: ProgramReading, facts: Facts, expected: Expected): Held[] {
  return reading.sightings.map((sighting, i) => {
    if (reading.isController && sighting.kind === 'pin') {
      return { sighting, verdict: 'unknown',
        says: 'This looks like a microcontroller\'s program: its pins are its own, not the board\'s.' }
    }
    return JUDGES[sighting.kind]({ sighting, facts, expected, reading, before: reading.sightings.slice(0, i) })
  })
}

interface Asked {
  sighting: Sighting
  facts: Facts
  expected: Expected
  reading: ProgramReading
  before: readonly Sighting[]
}
type Judge = (asked: Asked) => Held

const JUDGES: Readonly<Record<Sighting['kind'], Judge>> = {
  'pin': judgePin, 'address': judgeAddress, 'i2c-bus': judgeBus, 'spi-bus': judgeSpi, 'spi-select': judgeSpi,
  'clock': judgeClock,
  'baud': judgeBaud, 'device': judgeDevice,
}

const railName = (kind: HeaderPosition['kind']) => kind === 'ground' ? 'GND' : kind
const placeWords = ({ position, line, kind }: HeaderPosition) =>
  `position ${position} (${line !== undefined ? `G${line}` : railName(kind)})`
const nameOf = ({ owner, signal, label }: Terminal) =>
  owner.signals.length > 1 ? `${owner.name}, ${signal?.label ?? label}` : owner.name

/** The place on this board's header that a number stands for. */
export function placeOf({ value, numbering }: Pick<Sighting, 'value' | 'numbering'>, usual: Numbering,
  facts: Facts): HeaderPosition | null {
  const header = facts.board?.header ?? []
  const counted = numbering ?? usual
  if (counted === 'header') return header.find(({ position }) => position === value) ?? null
  const line = counted === 'line' ? Number(value) : lineOfPin(Number(value), 'own')
  return header.find(entry => entry.line !== undefined && entry.line === line) ?? null
}

function judgePin({ sighting, facts, reading, before }: Asked): Held {
  const counted = sighting.numbering ?? reading.numbering
  const place = placeOf(sighting, reading.numbering, facts)
  const meant = meantBy(sighting.words, facts, sighting.name)
  if (!facts.board) return { sighting, verdict: 'unknown', says: 'There is no board in the plan yet.' }
  let said: string
  if (counted === 'line') said = `line ${sighting.value}`
  else said = counted === 'header'
    ? `position ${sighting.value}`
    : `number ${sighting.value}`
  if (!place || place.line === undefined) {
    const what = place ? `${placeWords(place)} is no line` : `The header of this board has no ${said}`
    const better = pickMeant(meant, sighting, before, facts)
    return { sighting, verdict: 'contradicts', says: `${what}.${better ? ` ${elsewhere(better.terminal)}` : ''}`,
      ...toward(better,
        counted, sighting) }
  }
  const known = { position: place.position, line: place.line }
  const here = (facts.atPosition.get(place.position) ?? []).filter(terminal => terminal.signal)
  const [best] = meant
  const isMeantHere = here.find(terminal =>
    meant.some(entry => entry.terminal === terminal && entry.points === best!.points))
  if (here.length && (isMeantHere || !best?.isSure)) {
    const it = isMeantHere ?? here[0]!
    const fight = drivesAgainst(sighting, it)
    return {
      sighting, verdict: fight ? 'contradicts' : 'agrees', ...known, terminal: it.key, partId: it.owner.id,
      says: `${capital(placeWords(place))} is ${nameOf(it)}.${fight ? FIGHT : ''}`,
    }
  }
  const better = best?.isSure ? pickMeant(meant, sighting, before, facts) : null
  if (better) return {
    sighting, verdict: 'contradicts', ...known, ...toward(better, counted, sighting),
    says: here.length
      ? `${capital(placeWords(place))} is ${here.map(nameOf).join(' and ')}. ${elsewhere(better.terminal)}`
      : `Nothing of the plan lies at ${placeWords(place)}. ${elsewhere(better.terminal)}`,
  }
  const reserved = facts.plan.reserved.find(entry => entry.position === place.position)
  return {
    sighting, verdict: 'unknown', ...known,
    says: reserved
      ? `${capital(placeWords(place))} is kept free in the plan${reserved.reason ? `: ${reserved.reason}` : ''}.`
      : here.length
        ? `${capital(placeWords(place))} is ${here.map(nameOf).join(' and ')}; whether the program means that, its `
        + 'names do not say.'
        : `Nothing of the plan lies at ${placeWords(place)}.`,
  }
}

const FIGHT = ' The program drives this line, and so does the part: both would push against each other.'
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

function elsewhere(terminal: Terminal): string {
  const { place } = terminal
  if (place?.kind === 'header') return `${nameOf(terminal)} is at ${placeWords(place.header)}.`
  return place?.kind === 'terminal'
    ? `${nameOf(terminal)} hangs on ${place.owner.name}, ${place.terminal}.`
    : `${nameOf(terminal)} has no place yet.`
}

/**
 * The terminal that is meant, among those that fit equally well: like ones are taken in the order in which the program
 * names them. Null where that does not tell.
 */
function pickMeant(meant: readonly Meant[], sighting: Sighting, before: readonly Sighting[],
  facts: Facts): Meant | null {
  const top = meant.filter(entry => entry.points === meant[0]?.points)
  if (top.length < 2) return top[0] ?? null
  const sameOwner = top.every(entry => entry.terminal.owner === top[0]!.terminal.owner)
  const nth = before.filter(other =>
    other.kind === 'pin' && other.name === sighting.name && other.line >= sighting.line - 8).length
  const inOrder = [...top].sort((a, b) => facts.terminals.indexOf(a.terminal) - facts.terminals.indexOf(b.terminal))
  return sameOwner && sighting.name ? inOrder[nth] ?? null : null
}

function toward(meant: Meant | null, counted: Numbering, { value }: Sighting): Partial<Held> {
  if (!meant) return {}
  const { terminal } = meant
  const it = { terminal: terminal.key, partId: terminal.owner.id }
  const line = terminal.place?.kind === 'header' ? terminal.place.header.line : undefined
  let number: number | null
  if (line === undefined) number = null
  else number = counted === 'header' && terminal.place?.kind === 'header'
    ? terminal.place.position
    : pinOfLine(line, counted)
  return number === null || number === value ? it : { ...it, should: String(number) }
}

/** The program writes to a line that the part itself drives hard. */
const drivesAgainst = ({ direction }: Sighting, { signal }: Terminal) =>
  direction === 'out' && signal?.role === 'line' && signal.direction === 'out' && signal.drive !== 'open-drain'
  && signal.drive !== 'contact'

/** The address as the text writes such numbers. */
function addressAs(text: string, address: number): string {
  if (!/^0x/i.test(text)) return String(address)
  const digits = address.toString(16).padStart(2, '0')
  return `${text.slice(0, 2)}${/[A-F]/.test(text) ? digits.toUpperCase() : digits}`
}

const onBus = (busId: string | null) => busId ? ` on ${busId}` : ''

function judgeAddress({ sighting, facts }: Asked): Held {
  const address = Number(sighting.value)
  const there = facts.devices.filter(device => device.address === address)
  if (there.length) return {
    sighting, verdict: 'agrees', partId: there[0]!.owner.id,
    says: `${there.map(device => device.owner.name).join(' and ')} answers at `
      + `${hexAddress(address)}${onBus(there[0]!.busId)}.`,
  }
  const couldAnswer = facts.devices.filter(({ owner, optionId }) =>
    owner.part.options?.find(option => option.id === optionId)?.values?.some(({ value }) => Number(value) === address))
  const sameNames = facts.devices.filter(({ owner, also }) => !also && meantBy(sighting.words, facts)
    .some(({ terminal, isSure }) => isSure && terminal.owner === owner))
  const meant = couldAnswer.find(device => sameNames.includes(device))
    ?? (couldAnswer.length === 1 ? couldAnswer[0] : undefined)
    ?? (sameNames.length === 1 ? sameNames[0] : undefined)
  if (!meant) return { sighting, verdict: 'unknown', says: `Nothing in the plan answers at ${hexAddress(address)}.` }
  const canBeSet = couldAnswer.includes(meant)
  return {
    sighting, verdict: 'contradicts', partId: meant.owner.id, should: addressAs(sighting.text, meant.address),
    says: `Nothing answers at ${hexAddress(address)}: ${meant.owner.name} is at ${hexAddress(meant.address)}`
      + `${canBeSet ? ', as its strap is set in the plan' : ''}.`,
  }
}

const numberOf = (busId: string) => Number(/(\d+)$/.exec(busId)?.[1] ?? NaN)

function judgeBus({ sighting, facts }: Asked): Held {
  const used = facts.buses.filter(bus => bus.kind === 'i2c' && !bus.upstream)
    .map(bus => bus.software?.number ?? numberOf(bus.id))
  if (!used.length) return { sighting, verdict: 'unknown', says: 'The plan uses no I²C bus.' }
  if (used.includes(Number(sighting.value))) return { sighting, verdict: 'agrees',
    says: `Bus ${sighting.value} is what the plan uses.` }
  return {
    sighting, verdict: 'contradicts',
    says: `The plan has its I²C parts on bus ${used.join(' and ')}, not on ${sighting.value}.`,
    ...used.length === 1 && { should: String(used[0]) },
  }
}

/** Bus and select belong together: the one is judged beside the other. */
function judgeSpi({ sighting, facts, reading }: Asked): Held {
  const used = facts.groups.filter(group => group.kind === 'spi' && group.bus?.controller)
    .flatMap(group => group.terminals
      .flatMap(terminal => facts.selectNumbers.has(terminal.key)
        ? [{ bus: numberOf(group.bus!.id), select: facts.selectNumbers.get(terminal.key)!, owner: group.owner }]
        : []))
  if (!used.length) return { sighting, verdict: 'unknown', says: 'The plan has nothing on SPI with a select.' }
  const isBus = sighting.kind === 'spi-bus'
  const beside = reading.sightings.find(other =>
    other.line === sighting.line && other.kind === (isBus ? 'spi-select' : 'spi-bus'))
  const bus = isBus ? Number(sighting.value) : Number(beside?.value ?? used[0]!.bus)
  const select = isBus ? beside && Number(beside.value) : Number(sighting.value)
  const sameNames = meantBy([...sighting.words, ...beside?.words ?? []], facts)
    .find(({ isSure }) => isSure)?.terminal.owner
  const there = used.find(entry => entry.bus === bus && (select === undefined || entry.select === select))
  const meant = used.find(entry => entry.owner === sameNames) ?? (used.length === 1 ? used[0] : undefined)
  if (there && (!meant || meant.owner === there.owner
    || used.some(entry => entry.owner === there.owner && entry === there
      && !sameNames))) return {
    sighting, verdict: 'agrees', partId: there.owner.id,
    says: `${there.owner.name} is on SPI ${there.bus}, select ${there.select}.`,
  }
  if (!meant) return {
    sighting, verdict: 'unknown',
    says: `Nothing of the plan is on SPI ${bus}${select === undefined ? '' : `, select ${select}`}.`,
  }
  const should = isBus ? meant.bus : meant.select
  const is = `${meant.owner.name} is on SPI ${meant.bus}, select ${meant.select}.`
  return should === sighting.value
    ? { sighting, verdict: 'agrees', partId: meant.owner.id, says: is }
    : { sighting, verdict: 'contradicts', partId: meant.owner.id, should: String(should),
        says: `${there ? `${there.owner.name} is there. ` : ''}${is}` }
}

function judgeClock({ sighting, facts }: Asked): Held {
  const wanted = Number(sighting.value)
  const kind = /i2c|iic|smbus|arm/i.test(`${sighting.name} ${sighting.by}`) ? 'i2c' : 'spi'
  const limits = facts.parts.flatMap((owner) => {
    const max = owner.part[kind]?.maxClockHz
    return max && facts.groups.some(group => group.owner === owner && group.kind === kind) ? [{ owner, max }] : []
  })
  const meant = meantBy(sighting.words, facts).find(({ isSure }) => isSure)?.terminal.owner
  const asked = limits.filter(({ owner }) => kind === 'i2c' || !meant || owner === meant)
  const [min] = [...asked].sort((a, b) => a.max - b.max)
  if (!min || (kind === 'spi' && asked.length > 1)) return {
    sighting, verdict: 'unknown',
    says: `The plan does not say which ${kind === 'i2c' ? 'bus' : 'part'} this clock is for.`,
  }
  return wanted > min.max
    ? {
        sighting, verdict: 'contradicts', partId: min.owner.id, should: String(min.max),
        says: `${min.owner.name} stands ${inHz(min.max)} at most; the program asks ${inHz(wanted)}.`,
      }
    : { sighting, verdict: 'agrees', partId: min.owner.id, says: `${min.owner.name} stands up to ${inHz(min.max)}.` }
}

const inHz = (hz: number) => hz >= 1e6 ? `${Number((hz / 1e6).toFixed(2))} MHz` : `${Number((hz / 1e3).toFixed(1))} kHz`

function judgeBaud({ sighting, facts, reading }: Asked): Held {
  const ports = facts.parts.flatMap((owner) => {
    const { serial } = owner.part
    const rate = serial ? Number(serial.baudOption ? owner.options[serial.baudOption] : serial.baud) : NaN
    return Number.isFinite(rate) ? [{ owner, rate }] : []
  })
  if (!ports.length) return { sighting, verdict: 'unknown', says: 'The plan has nothing on a serial port.' }
  const meant = meantBy([...sighting.words,
    ...reading.sightings.filter(other => other.kind === 'device').flatMap(other =>
      other.words)], facts)
    .find(({ isSure, terminal }) => isSure && ports.some(({ owner }) => owner === terminal.owner))?.terminal.owner
  const asked = ports.find(({ owner }) => owner === meant) ?? (ports.length === 1 ? ports[0] : undefined)
  const same = asked ? asked.rate === sighting.value : ports.some(({ rate }) => rate === sighting.value)
  const it = asked ?? ports.find(({ rate }) => rate === sighting.value)
  if (same && it) return { sighting, verdict: 'agrees', partId: it.owner.id,
    says: `${it.owner.name} speaks at ${it.rate} baud.` }
  return asked
    ? {
        sighting, verdict: 'contradicts', partId: asked.owner.id, should: String(asked.rate),
        says: `${asked.owner.name} speaks at ${asked.rate} baud: at ${sighting.value} every byte would come out wrong.`,
      }
    : { sighting, verdict: 'unknown',
        says: `Serial parts of the plan speak at ${[...new Set(ports.map(({ rate }) => rate))].join(', ')} baud.` }
}

/** Names that stand for another device of the board. */
const kindOfPath = (path: string) => {
  if (/^\/dev\/(ttyUSB|ttyACM|serial\/by)/.test(path)) return 'usb'
  return /^\/dev\/(tty(AMA|S)|serial)/.test(path) ? 'serial' : /^\/dev\/([a-z]+)/.exec(path)?.[1] ?? path
}

function judgeDevice({ sighting, facts, expected }: Asked): Held {
  const path = String(sighting.value)
  if (path.startsWith('/dev/gpiochip')) return {
    sighting, verdict: 'unknown',
    says: 'Which chip holds the header depends on board and kernel: gpioinfo lists them, the header\'s has '
      + 'names like GPIO17.',
  }
  const nodes = expected.nodes.filter(node => kindOfPath(node.path) === kindOfPath(path))
  const same = nodes.find(node => node.path === path)
  if (same) return { sighting, verdict: 'agrees', says: `${path} is ${same.what}.`, ...same.partId !== undefined
    && { partId: same.partId } }
  const [port] = nodes
  if (/^\/dev\/tty(S0|AMA0)$/.test(path) && port && nodes.some(node => node.path === '/dev/serial0')) return {
    sighting, verdict: 'unknown', should: '/dev/serial0',
    says: 'Which of ttyS0 and ttyAMA0 serves the header depends on board and image; /dev/serial0 is the '
      + 'right one on either.',
  }
  if (/^\/dev\/serial\d/.test(path) && nodes.length) return {
    sighting, verdict: 'unknown',
    says: `${path} is another name that the image gives to one of the ports; in this plan the `
      + `port is ${nodes[0]!.path}.`,
    ...nodes.length === 1 && { should: nodes[0]!.path },
  }
  const used = expected.nodes.find(node => node.path.startsWith(path))
  if (used) return { sighting, verdict: 'agrees', says: `${path} is ${used.what}.` }
  if (!nodes.length) return { sighting, verdict: 'unknown', says: `Nothing in the plan makes ${path} appear.` }
  const meant = nodes.length === 1
    ? nodes[0]
    : nodes.find(node => node.partId !== undefined
      && meantBy(sighting.words, facts).some(({ isSure, terminal }) => isSure
        && terminal.owner.id === node.partId))
  return {
    sighting, verdict: 'contradicts',
    says: `In this plan ${path} does not appear; ${nodes.map(node => `${node.path} is ${node.what}`).join(', ')}.`,
    ...meant && { should: meant.path, ...meant.partId !== undefined && { partId: meant.partId } },
  }
}
