/** What a plan asks of the boot file: buses on, and the overlays of its parts with their parameters. */
import { drivenByProgram } from '../../facts/roles'
import type { BootNeed, SignalParams } from '../../catalogue/types'
import { isMet } from '../../facts/conditions'
import { circuitOf } from '../../facts/circuits'
import type { Bus, BusGroup, Facts, ResolvedPart, SelectPlan } from '../../facts/types'
import { isMade, overlaysAsked } from './fit'
import { fillTemplate } from './placeholders'
import { overlayFileName, sameNeed } from './write'

export interface Need {
  need: BootNeed
  /** It only tells a bus, which another line switches on, which select lines it has. */
  setsSelects?: true
  /** Why, for the person: "I²C 1 for the air sensor". */
  why: string
  /** Parts that ask for it. */
  partIds: string[]
  /** The bus it switches on, if it is for one. */
  busId?: string
}

/** Every need of the plan, buses before parts, each once. Empty without a board. */
export function needsOf(facts: Facts): Need[] {
  return [...busNeeds(facts), ...partNeeds(facts), ...madeNeeds(facts), ...fanNeeds(facts), ...clockNeeds(facts)]
}

/** Overlays made for parts: where the maker chose one, or where no other can be told of the part's place. */
function madeNeeds(facts: Facts): Need[] {
  return facts.parts.filter(owner => isMade(owner, facts))
    .map(owner => ({
      need: { kind: 'overlay', name: overlayFileName(owner.id) }, why: `the overlay made for ${owner.name}`,
      partIds: [owner.id],
    }))
}

/**
 * The fan on the board's own socket: up to four steps of temperature, hysteresis and speed, 0 to 255. Parameter
 * names from memory.
 */
function fanNeeds({ board, parts, heat: { set: { cooler } }, plan: { power: { heat: { fan } } } }: Facts): Need[] {
  const owners = parts.filter(owner =>
    owner.part.plugs?.some(plug => plug.socket === 'fan' && isMet(plug.when, owner.options)))
  if (!board?.sockets.fan || (!owners.length && cooler !== 'active') || !('hysteresisC' in fan)) return []
  const points = fan.mode === 'threshold'
    ? [{ temperatureC: fan.onC, percent: 100 }]
    : [...fan.points].sort((a, b) => a.temperatureC - b.temperatureC).slice(0, 4)
  const why = `when the fan ${owners[0] ? `"${owners[0].name}" ` : ''}runs`
  return points.flatMap(({ temperatureC, percent }, i) => {
    const param = (name: string, value: number): Need => ({
      need: { kind: 'param', name, value: String(Math.round(value)) }, why, partIds: owners.map(owner => owner.id),
    })
    return [
      param(`fan_temp${i}`, temperatureC * 1000), param(`fan_temp${i}_hyst`, fan.hysteresisC * 1000),
      param(`fan_temp${i}_speed`, percent * 2.55),
    ]
  })
}

/** A lower clock and core voltage. Setting names from memory. */
function clockNeeds({ board, plan: { power: { clock } } }: Facts): Need[] {
  if (!board) return []
  const setting = (name: string, value: number, why: string): Need => ({
    need: { kind: 'setting', name, value: String(value) }, why, partIds: [],
  })
  return [
    ...clock.coreMhz !== null ? [setting('arm_freq', clock.coreMhz, 'the plan\'s processor clock, in MHz')] : [],
    ...clock.voltageSteps
      ? [setting('over_voltage', clock.voltageSteps, 'the plan\'s core voltage, in steps of 25 mV')]
      : [],
  ]
}

function busNeeds(facts: Facts): Need[] {
  const found = new Map<string, { groups: BusGroup[] }>()
  for (const group of facts.groups) {
    if (!group.bus?.route && !group.bus?.software) continue
    const entry = found.get(group.bus.id)
    if (entry) entry.groups.push(group)
    else found.set(group.bus.id, { groups: [group] })
  }
  const needs: Need[] = []
  const pwm: Need[] = []
  for (const [busId, { groups }] of found) {
    const { bus } = groups[0]!
    const owners = [...new Set(groups.map(group => group.owner))]
    // An add-on's own overlay switches on what the board needs for it; an I²S bus is nothing but its sound card.
    if (bus!.kind === 'i2s' && owners.every(owner => owner.part.boot?.length)) continue
    // A strip's program drives the PWM or sound circuit itself; the overlay would take it away from it.
    if (groups.every(group => drivenByProgram(group.terminals, bus!))) continue
    const why = `${bus!.label} for ${list(owners)}`
    for (const need of bootOf(bus!, facts)) {
      const entry: Need = { need: withFlowControl(need, groups), why, partIds: owners.map(owner => owner.id), busId }
      if (bus!.kind === 'pwm') pwm.push(entry)
      else needs.push(entry)
    }
    const selects = facts.selectPlans.get(busId)
    if (selects?.by === 'overlay' && usualBoot(bus!)) needs.push({
      need: selectOverlay(selects, facts), partIds: owners.map(owner => owner.id), busId, setsSelects: true,
      why: `${bus!.label} with ${selects.lines.length || 'no'} ${selects.lines.length === 1 ? 'select' : 'selects'}, `
        + 'because others of its select lines serve something else',
    })
  }
  return [...needs, ...mergePwm(pwm, facts)]
}

/**
 * What switches a bus on: its route's lines, those of the circuit chosen for it, its speed; or the
 * kernel's software bus.
 */
function bootOf(bus: Bus, facts: Facts): BootNeed[] {
  if (bus.software) {
    const line = (position: number) =>
      String(facts.board?.header.find(entry => entry.position === position)?.line ?? '')
    return [{
      kind: 'overlay', name: 'i2c-gpio',
      params: { bus: String(bus.software.number), i2c_gpio_sda: line(bus.software.sda),
        i2c_gpio_scl: line(bus.software.scl) },
    }]
  }
  const speed = facts.plan.clocks[bus.id]
  const atSpeed = (need: BootNeed): BootNeed[] => {
    if (speed === undefined || bus.kind !== 'i2c') return [need]
    if (need.kind === 'param') return [need, { kind: 'param', name: `${need.name}_baudrate`, value: String(speed) }]
    return need.kind === 'overlay'
      ? [{ ...need, params: { ...need.params, baudrate: String(speed) } }]
      : [need]
  }
  const selects = facts.selectPlans.get(bus.id)
  const brought = selects?.by === 'overlay' && !usualBoot(bus) ? [selectOverlay(selects, facts)] : bus.route!.boot
  return [...circuitOf(bus.controller!, facts.plan)?.boot ?? [], ...brought.flatMap(atSpeed)]
}

/** True when the bus comes on by a parameter of the base tree. */
const usualBoot = ({ route }: Bus) => route!.boot.every(need => need.kind !== 'overlay')

/** The overlay that brings a bus out with just the selects that are used, on their lines. */
function selectOverlay({ busId, lines, hardware }: SelectPlan, facts: Facts): BootNeed {
  // On a select whose part has a driver of its own there is no device for programs; SPI 0's are told by the
  // part's overlay.
  const driven = new Set(facts.groups.filter(group =>
    group.bus?.id === busId && busId !== 'spi0' && (overlaysAsked(group.owner).length || isMade(group.owner, facts)))
    .flatMap(group => group.terminals.flatMap(terminal => facts.selectNumbers.get(terminal.key) ?? [])))
  const params = Object.fromEntries(lines.flatMap((line, i) => [...line === hardware[i]
    ? []
    : [[`cs${i}_pin`, String(line)]], ...driven.has(i) ? [[`cs${i}_spidev`, 'off']] : []]))
  return { kind: 'overlay', name: `${busId}-${lines.length}cs`, ...Object.keys(params).length && { params } }
}

function withFlowControl(need: BootNeed, groups: BusGroup[]): BootNeed {
  const flow = groups.some(group =>
    group.kind === 'serial'
    && group.terminals.some(t => t.place && (t.signal!.role === 'serial.rts' || t.signal!.role === 'serial.cts')))
  return flow && need.kind === 'overlay' ? { ...need, params: { ...need.params, ctsrts: '' } } : need
}

/**
 * Two channels are one overlay with two pins. Where a board has more, the overlay cannot name their lines: the firmware
 * switches those over, and the circuit that the overlay turned on drives them. memory
 */
function mergePwm(needs: Need[], { board }: Facts): Need[] {
  if (needs.length < 2) return needs
  const [a, b, ...more] = needs as [Need, Need, ...Need[]]
  if (a.need.kind !== 'overlay' || b.need.kind !== 'overlay') return needs
  const pair: Need = {
    ...a, why: `${a.why}; ${b.why}`, partIds: [...a.partIds, ...b.partIds],
    need: { kind: 'overlay', name: 'pwm-2chan',
      params: { ...a.need.params, pin2: b.need.params!.pin!, func2: b.need.params!.func! } },
  }
  return [pair, ...more.map((entry): Need => {
    const line = entry.need.kind === 'overlay' ? entry.need.params!.pin! : ''
    const setting = board?.lines.find(other => other.line === Number(line))?.functions.find(other =>
      other.controller === entry.busId)?.setting
      ?? 'a0'
    return { ...entry, need: { kind: 'setting', name: 'gpio', value: `${line}=${setting.replace('alt', 'a')}` } }
  })]
}

function partNeeds(facts: Facts): Need[] {
  const needs: Need[] = []
  for (const owner of facts.parts) {
    const made = isMade(owner, facts)
    for (const { when, whenPlaced, whenOpen, ...template } of owner.part.boot ?? []) {
      if (!isMet(when, owner.options)) continue
      // The overlay that is made for it stands in for those of the library.
      if (made && template.kind === 'overlay') continue
      const filled = fillNeed(withPlaces(template as BootNeed, owner, facts, whenPlaced, whenOpen), owner, facts)
      if (!filled) continue
      const same = needs.find(other => sameNeed(other.need, filled))
      if (same) {
        same.partIds.push(owner.id)
        same.why += `, ${owner.name}`
      }
      else needs.push({ need: filled, why: `driver of ${owner.name}`, partIds: [owner.id] })
    }
  }
  return needs
}

/** The line with the parameters that follow from which of the part's signals have a place. */
function withPlaces(
  need: BootNeed, owner: ResolvedPart, facts: Facts, whenPlaced: SignalParams = {}, whenOpen: SignalParams = {},
): BootNeed {
  if (need.kind !== 'overlay') return need
  const isPlaced = (signal: string) => facts.byKey.get(`${owner.id}.${signal}`)?.place?.kind === 'header'
  const added = [
    ...Object.entries(whenPlaced).filter(([signal]) => isPlaced(signal)),
    ...Object.entries(whenOpen).filter(([signal]) => !isPlaced(signal)),
  ].map(([, params]) => params)
  return added.length ? { ...need, params: Object.assign({}, need.params, ...added) as Record<string, string> } : need
}

function fillNeed(need: BootNeed, owner: ResolvedPart, facts: Facts): BootNeed | null {
  if (need.kind !== 'overlay') return need
  const params: Record<string, string> = {}
  for (const [name, value] of Object.entries(need.params ?? {})) {
    const filledName = fillTemplate(name, owner, facts)
    const filledValue = fillTemplate(value, owner, facts)
    if (filledName === null || filledValue === null) return null
    params[filledName] = filledValue
  }
  const bus = facts.groups.find(group => group.owner === owner && group.kind === 'i2c')?.bus
  // Behind a hub the kernel numbers the bus when it starts: no overlay line can name it.
  if (bus && !bus.controller) return null
  if (bus && bus.id !== 'i2c1') params[bus.id] = ''
  if (owner.part.i2c && !owner.part.isAddOn && !bus) return null
  const name = fillTemplate(need.name, owner, facts)
  if (name === null) return null
  return { kind: 'overlay', name, ...(Object.keys(params).length && { params }) }
}

const list = (owners: ResolvedPart[]) => owners.map(owner => owner.name).join(', ')
