/** Writes a complete overlay for a part: from how the kernel knows it and where the plan puts it. */
import type { Board, BoardTree, KernelBinding } from '../catalogue/types'
import { overlayFileName } from './asks/write'
import { fillTemplate } from './asks/placeholders'
import type { Bus, Facts, ResolvedPart } from '../facts/types'
import { KEY_CODES, keyAt } from '../host/matrix'
import { compileText } from '../devicetree/source/compile'
import { writeBlob } from '../devicetree/blob/write'

export type PartOverlay
  = | { ok: true, partId: string, name: string, source: string, origin: string }
    | { ok: false, partId: string, why: string }

/** Tree facts of the boards that ship; a board of the maker's own says them itself. */
export function treeOf(board: Board): BoardTree {
  return board.tree ?? {
    compatible: 'brcm,bcm2835', symbols: true, binding: 'numbered', chips: [{ label: 'gpio', first: 0, cells: 2 }],
    rails: { '3V3': 'vdd_3v3_reg', '5V': 'vdd_5v0_reg' }, thermalZone: 'cpu_thermal',
  }
}

/** Every part of the plan that has a binding, with its overlay or why there is none. */
export const overlaysForParts = (facts: Facts): PartOverlay[] => facts.parts.flatMap(owner => owner.part.kernel
  ? [overlayForPart(facts, owner)]
  : [])

/** The overlay of one part. */
export function overlayForPart(facts: Facts, owner: ResolvedPart): PartOverlay {
  const no = (why: string): PartOverlay => ({ ok: false, partId: owner.id, why })
  const { board } = facts
  const binding = owner.part.kernel
  if (!binding) return no(`${owner.name} has no kernel binding: its driver is a program, or its file does not name one.`)
  if (!board) return no('Choose a board first: the overlay is laid onto its tree.')
  const tree = treeOf(board)
  if (!tree.symbols) {
    return no(`The tree of ${board.name} was built without labels, so no overlay can name its nodes. Take an image `
      + 'whose trees have them.')
  }
  const writer = new OverlayWriter(facts, owner, binding, tree)
  const body = writer.write()
  if (typeof body === 'string') return no(body)
  const source = body.source
  // What is written must compile: a binding with a slip in it is told here, not at the boot.
  compileText(source, { file: `${overlayFileName(owner.id)}.dts` })
  return { ok: true, partId: owner.id, name: overlayFileName(owner.id), source, origin: binding.origin }
}

/** The blob of an overlay's source. */
export const overlayBlob = (source: string): Uint8Array => writeBlob(compileText(source, { symbols: true }))

interface Target { at: string, node: string, reg: string[], head: string[], frees: string[], through: Through[] }

/** A node on the way to a part behind a hub, written again so that it does not matter which overlay comes first. */
interface Through { node: string, lines: string[] }

/** Nodes from a bus of the board through the hubs to one of their channels. */
function wayTo(bus: Bus, facts: Facts): { bus: string, through: Through[] } | { why: string } {
  if (bus.software) return { why: 'its hub is on a bus that the kernel makes itself, which no overlay can name' }
  if (bus.controller) return { bus: bus.id, through: [] }
  const hub = facts.parts.find(owner => bus.id.startsWith(`${owner.id}.`))
  const binding = hub && hub.part.kernel
  const group = hub && facts.groups.find(entry => entry.owner === hub && entry.kind === 'i2c')
  const address = hub && facts.devices.find(entry => entry.owner === hub)?.address
  const channel = /(\d+)$/.exec(bus.id)?.[1]
  if (!hub || !binding || !group?.bus || address === undefined || Number.isNaN(address) || channel === undefined) {
    return { why: `it lies behind ${hub?.name ?? 'a hub'}, which has no place or no driver of the kernel's; its `
      + 'program reaches it there' }
  }
  const above = wayTo(group.bus, facts)
  if ('why' in above) return above
  const hex = address.toString(16)
  return {
    bus: above.bus,
    through: [
      ...above.through, { node: `${binding.node}@${hex}`, lines: [
        `compatible = "${binding.compatible}";`, `reg = <0x${hex}>;`, ...binding.properties ?? [], 'status = "okay";',
        '',
      ] },
      { node: `i2c@${channel}`, lines: [`reg = <${channel}>;`, '#address-cells = <1>;', '#size-cells = <0>;', ''] },
    ],
  }
}

/** Lines within the nodes on the way to them. */
const within = (through: readonly Through[], lines: string[]): string[] => through.length
  ? ['status = "okay";', '#address-cells = <1>;', '#size-cells = <0>;', '', ...through.reduceRight<string[]>(
      (inner, { node, lines: own }) => [`${node} {`, ...indent([...own, ...inner]), '};'], lines,
    )]
  : lines

interface PinWish { line: number, direction: 'in' | 'out', pull?: 'up' | 'down' }

class OverlayWriter {
  private readonly pins: PinWish[] = []
  private readonly missing: string[] = []
  private readonly label: string

  constructor(
    private readonly facts: Facts, private readonly owner: ResolvedPart, private readonly binding: KernelBinding,
    private readonly tree: BoardTree,
  ) {
    this.label = `part_${owner.id.toLowerCase().replace(/\W/g, '_')}`
  }

  write(): { source: string } | string {
    const { binding, owner, facts } = this
    const unwired = (binding.must ?? []).filter(signal => this.lineOf(signal) === null)
    if (unwired.length) {
      const labels = unwired.map(signal => owner.signals.find(entry => entry.id === signal)?.label ?? signal).join(', ')
      return `${owner.name}: the kernel's driver is for ${labels} alone, which has no line of the header. Without it `
        + 'there is nothing to load.'
    }
    const target = this.target()
    if ('why' in target) return target.why
    const names = [binding.compatible, ...binding.generic === undefined ? [] : [binding.generic]]
    const properties = [
      `compatible = ${names.map(name => `"${this.filled(name)}"`).join(', ')};`, ...target.reg,
      ...this.lineProperties(),
      ...this.interruptProperties(), ...this.supplyProperties(),
      ...(binding.properties ?? []).map(line => this.filled(line)),
    ]
    const children = this.children()
    if (this.missing.length) {
      return `${owner.name}: ${this.missing.join(', ')} ${this.missing.length === 1 ? 'has' : 'have'} no line of the `
        + `header yet. Place ${this.missing.length === 1 ? 'it' : 'them'} first.`
    }
    const pins = this.pins.length > 0 && this.tree.binding !== 'none'
    const pinProperties = pins ? ['pinctrl-names = "default";', `pinctrl-0 = <&${this.label}_pins>;`] : []
    const clock = binding.clock ? [`clocks = <&${this.label}_clock>;`] : []
    const node = [
      `${this.label}: ${target.node} {`,
      ...indent([...properties, ...clock, ...pinProperties, 'status = "okay";', ...children]), '};',
    ]
    const parts = [
      ...binding.clock
        ? [block(
            '&{/}',
            [
              `${this.label}_clock: clock-${this.label.replace(/_/g, '-')} {`,
              ...indent(['compatible = "fixed-clock";', '#clock-cells = <0>;',
                `clock-frequency = <${binding.clock.hz}>;`]), '};',
            ],
          )]
        : [],
      ...pins ? [this.pinGroup()] : [],
      ...target.frees.map(label => block(`&${label}`, ['status = "disabled";'])),
      block(target.at, within(target.through, [...target.head, ...node])),
      ...binding.cools ? this.cooling() : [],
    ]
    return { source: `/dts-v1/;\n/plugin/;\n\n/*\n * ${owner.name.replace(/\*\//g, '')}: written by Voltaris for `
      + `"${facts.board!.name}".\n * Binding: ${binding.origin}.\n */\n\n/ {\n\tcompatible = `
      + `"${this.tree.compatible}";\n};\n\n${parts.join('\n')}` }
  }

  private filled(text: string): string {
    return fillTemplate(text, this.owner, this.facts) ?? text
  }

  /** What switches a fan by the processor's heat: a trip of the zone and what it then turns on. */
  private cooling(): string[] {
    const zone = this.tree.thermalZone
    if (!zone) return []
    const trip = `${this.label}_trip`
    return [block(`&${zone}`, [
      'polling-delay = <2000>;', '',
      'trips {', ...indent([
        `${trip}: ${this.label.replace(/_/g, '-')}-trip {`,
        ...indent([
          `temperature = <${this.filled('{fan:on}')}>;`, `hysteresis = <${this.filled('{fan:hysteresis}')}>;`,
          'type = "active";',
        ]), '};',
      ]), '};', '',
      'cooling-maps {', ...indent([
        `${this.label.replace(/_/g, '-')}-map {`,
        ...indent([`trip = <&${trip}>;`, `cooling-device = <&${this.label} 1 1>;`]), '};',
      ]), '};',
    ])]
  }

  /** The node it goes under, and how it is addressed there; `through` are nodes in between, for a part behind hubs. */
  private target(): Target | { why: string } {
    const { owner, binding, facts } = this
    const { node } = binding
    if (binding.on === 'lines') {
      const unit = binding.unit === undefined ? null : this.lineOf(binding.unit)
      // Where the binding wants the bare name, only a second of its kind gets its line behind it.
      const first = facts.parts.find(other => other.part.kernel?.node === node) === owner
      const named = owner.id.toLowerCase() === node ? node : `${node}-${owner.id.toLowerCase()}`
      let placed: string
      if (unit === null) placed = named
      else placed = first ? node : `${node}@${unit.toString(16)}`
      return { at: '&{/}', node: placed, reg: [], head: [], frees: [], through: [] }
    }
    const group = facts.groups.find(entry => entry.owner === owner && entry.kind === binding.on)
    if (!group?.bus) return { why: `${owner.name} is on no ${binding.on === 'i2c' ? 'I²C' : 'SPI'} bus yet. `
      + 'Place it first.' }
    const head = ['status = "okay";', '#address-cells = <1>;', '#size-cells = <0>;', '']
    if (binding.on === 'i2c') {
      const device = facts.devices.find(entry => entry.owner === owner)
      if (!device || Number.isNaN(device.address)) return { why: `${owner.name} has no address.` }
      if (group.bus.software) {
        return { why: `${owner.name} is on a bus that the kernel makes itself; an overlay cannot name it before it is `
          + 'there. Put it on a bus of the board.' }
      }
      const way = wayTo(group.bus, facts)
      if ('why' in way) return { why: `${owner.name}: ${way.why}` }
      return {
        at: `&${way.bus}`, through: way.through, node: `${node}@${device.address.toString(16)}`, reg: [
          `reg = <0x${device.address.toString(16)}>;`,
        ],
        head: way.through.length ? [] : head, frees: [],
      }
    }
    const select = fillTemplate('{select}', owner, facts)
    if (select === null || select === '') return { why: `${owner.name} has no select yet. Place it first.` }
    const mode = owner.part.spi?.mode ?? 0
    return {
      at: `&${group.bus.id}`, node: `${node}@${select}`, head, through: [],
      reg: [
        `reg = <${select}>;`, `spi-max-frequency = <${owner.part.spi?.maxClockHz ?? 1_000_000}>;`,
        ...mode & 1 ? ['spi-cpha;'] : [],
        ...mode & 2 ? ['spi-cpol;'] : [],
      ],
      // The device for programs on that select makes room.
      frees: group.bus.id === 'spi0' && !this.facts.board!.tree ? [`spidev0_${select}`] : [],
    }
  }

  private lineOf(signal: string): number | null {
    const place = this.facts.byKey.get(`${this.owner.id}.${signal}`)?.place
    return place?.kind === 'header' && place.line ? place.line.line : null
  }

  /** A line as a property names it, and its wish for the multiplexer. */
  private gpio(signal: string, low: boolean, pull?: 'up' | 'down', direction?: 'in' | 'out'): string | null {
    const line = this.lineOf(signal)
    const spec = this.owner.signals.find(entry => entry.id === signal)
    if (line === null) {
      if (!spec?.optional) this.missing.push(spec?.label ?? signal)
      return null
    }
    this.pins.push({ line, direction: direction ?? (spec?.direction === 'in' ? 'out' : 'in'), ...(pull && { pull }) })
    const chip = this.chipOf(line)
    return `<&${chip.label} ${chip.cells === 3 ? `${Math.floor(line / 32)} ${line % 32}` : line - chip.first} `
      + `${low ? 1 : 0}>`
  }

  private chipOf(line: number) {
    return [...this.tree.chips]
      .sort((a, b) => b.first - a.first)
      .find(chip => chip.first <= line) ?? { label: 'gpio', first: 0, cells: 2 as const }
  }

  private lineProperties(): string[] {
    const { gpios = [], gpioList, gpioRows } = this.binding
    const single = gpios.flatMap(({ property, signal, low = false, pull }) => {
      const value = this.gpio(signal, low, pull)
      return value ? [`${property} = ${value};`] : []
    })
    const list = gpioList
      ? gpioList.signals.map(signal => this.gpio(signal, false, gpioList.pull)).filter(value => value !== null)
      : []
    // The driver drives the columns and reads the rows.
    const repeated = (prefix: string, direction: 'in' | 'out', pull?: 'up') =>
      this.owner.signals.filter(signal => signal.id.replace(/\d+$/, '') === prefix)
        .map(signal => this.gpio(signal.id, true, pull, direction))
        .filter(value => value !== null)
    const rows = gpioRows ? repeated(gpioRows.rows, 'in', 'up') : []
    const columns = gpioRows ? repeated(gpioRows.columns, 'out') : []
    return [
      ...single,
      ...gpioList && list.length ? [`${gpioList.property} = ${list.join(', ')};`] : [],
      ...rows.length
        ? [
            `row-gpios = ${rows.join(', ')};`, `col-gpios = ${columns.join(', ')};`,
            `linux,keymap = `
            + `<${rows.flatMap((_, r) =>
              columns.map((__, c) => `0x${((r << 24) | (c << 16) | this.keyCode(r, c, columns.length)).toString(16)}`))
              .join(' ')}>;`,
          ]
        : [],
    ]
  }

  /** What the kernel is told at a crossing: the maker's key, else one of its own for each. */
  private keyCode(row: number, column: number, columns: number): number {
    const { code } = keyAt(this.owner.id, row, column, columns, this.facts.plan.host.matrix)
    return KEY_CODES.get(code) ?? Math.min(255, 2 + row * columns + column)
  }

  private interruptProperties(): string[] {
    const { interrupt } = this.binding
    if (!interrupt) return []
    // An interrupt line that is not wired is left out: the driver then asks from time to time.
    const line = this.lineOf(interrupt.signal)
    if (line === null) return interrupt.otherwise ?? []
    this.pins.push({ line, direction: 'in', ...(interrupt.pull && { pull: interrupt.pull }) })
    const chip = this.chipOf(line)
    const place = chip.cells === 3 ? `${Math.floor(line / 32)} ${line % 32}` : String(line - chip.first)
    return [`interrupt-parent = <&${chip.label}>;`, `interrupts = <${place} ${interrupt.type}>;`]
  }

  private supplyProperties(): string[] {
    return Object.entries(this.binding.supplies ?? {}).flatMap(([property, rail]) => {
      const label = this.tree.rails?.[rail]
      return label ? [`${property} = <&${label}>;`] : []
    })
  }

  private children(): string[] {
    return (this.binding.children ?? []).flatMap((child) => {
      const value = child.signal ? this.gpio(child.signal, child.low ?? false, child.pull) : null
      if (child.signal && !value) return []
      return ['', `${child.name} {`, ...indent(
        [...value ? [`${child.property} = ${value};`] : [], ...child.properties.map(line => this.filled(line))],
      ), '};']
    })
  }

  private pinGroup(): string {
    const pins = this.pins.filter((pin, i) => this.pins.findIndex(other => other.line === pin.line) === i)
    const chip = this.chipOf(pins[0]!.line)
    const name = `${this.label.replace(/_/g, '-')}-pins`
    if (this.tree.binding === 'numbered') {
      const pull = { none: 0, down: 1, up: 2 }
      return block(
        `&${chip.label}`,
        [
          `${this.label}_pins: ${name} {`,
          ...indent([
            `brcm,pins = <${pins.map(pin => pin.line).join(' ')}>;`,
            `brcm,function = <${pins.map(pin => pin.direction === 'out' ? 1 : 0).join(' ')}>;`,
            `brcm,pull = <${pins.map(pin => pull[pin.pull ?? 'none']).join(' ')}>;`,
          ]),
          '};',
        ],
      )
    }
    const names = pins.map(pin =>
      `"${chip.cells === 3 ? `P${String.fromCharCode(65 + Math.floor(pin.line / 32))}${pin.line % 32}` : `gpio${pin.line}`}"`)
    const up = pins.every(pin => pin.pull === 'up')
    return block(
      `&${chip.label}`,
      [
        `${this.label}_pins: ${name} {`,
        ...indent([
          `pins = ${names.join(', ')};`, `function = "${chip.cells === 3 ? 'gpio_in' : 'gpio'}";`,
          ...up ? ['bias-pull-up;'] : [],
        ]),
        '};',
      ],
    )
  }
}

const indent = (lines: string[]) => lines.map(line => line ? `\t${line}` : line)
const block = (target: string, lines: string[]) => `${target} {\n${indent(lines).join('\n')}\n};\n`
