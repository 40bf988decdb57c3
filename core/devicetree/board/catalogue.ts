/**
 * A board of the catalogue made from a tree and a table of positions, so that plans work against it like
 * against a shipped one.
 */
import type { Board, BoardLine, BoardTree, Controller, ControllerKind, HeaderPosition,
  Route } from '../../catalogue/types'
import type { GpioChip } from './lines'
import type { PinGroup } from './pins'
import type { PositionRow } from './positions'
import type { BoardProfile, TreeController } from './profile'

export interface MadeBoard {
  board: Board
  /** What the tree does not say and had to be taken as usual: for the maker to look over. */
  assumed: string[]
}

/** Signals in the order in which a binding lists a bus's pins. practice; the maker looks it over */
const ORDER: Partial<Record<ControllerKind, { numbered: string[], other: string[] }>> = {
  i2c: { numbered: ['sda', 'scl'], other: ['scl', 'sda'] },
  serial: { numbered: ['tx', 'rx', 'cts', 'rts'], other: ['tx', 'rx', 'rts', 'cts'] },
  spi: { numbered: ['miso', 'mosi', 'clock'], other: ['clock', 'mosi', 'miso', 'select0'] },
  i2s: { numbered: ['clock', 'frame', 'dataIn', 'dataOut'], other: ['clock', 'frame', 'dataIn', 'dataOut'] },
  pwm: { numbered: ['out'], other: ['out'] },
}

/** Words in a group's own name that say which signal its one pin is. */
const WORDS: [RegExp, string][] = [
  [/sda|data$/, 'sda'], [/scl/, 'scl'], [/mosi|(?:^|[_-])tx(?:d)?$/, 'tx'], [/miso|(?:^|[_-])rx(?:d)?$/, 'rx'],
  [/cts/, 'cts'],
  [/rts/, 'rts'], [/c?s0|cs$|ss0/, 'select0'], [/c?s1/, 'select1'], [/clk|sck|clock/, 'clock'],
]

/**
 * The board, with an id of its own. Controllers come out on the header where all pins of a group of theirs lie
 * on positions of the table; supply, limits and draw are usual figures of small boards (memory), to be replaced
 * by the maker.
 */
export function boardFromTree(profile: BoardProfile, rows: readonly PositionRow[],
  { id, name }: { id: string, name: string }): MadeBoard {
  const assumed: string[] = ['Limits, budgets and draw are usual figures of such boards: replace them by '
    + 'those of yours.']
  const header: HeaderPosition[] = rows.filter(row => row.kind !== 'none')
    .map(({ position, kind, line }) => ({ position, kind: kind as HeaderPosition['kind'],
      ...(line !== undefined && { line }) }))
  const onHeader = new Set(header.flatMap(entry => entry.line ?? []))
  const lines = new Map<number, BoardLine>([...onHeader].map(line =>
    [line, { line, resetPull: 'down' as const, functions: [] }]))
  const controllers: Controller[] = []
  for (const controller of profile.controllers) {
    if (!isBus(controller.kind)) continue
    const kind = controller.kind as ControllerKind
    const id_ = controller.labels[0] ?? (controller.number === null
      ? controller.path.split('/').at(-1)!.replace(/\W/g, '-')
      : `${kind === 'serial' ? 'uart' : kind}${controller.number}`)
    const groups = controller.groups.length ? controller.groups : groupsByName(profile.groups, controller)
    const route = routeOf(groups, kind, onHeader, id_, assumed)
    if (!route || controllers.some(other => other.id === id_)) continue
    for (const [signal, line] of Object.entries(route.lines)) {
      const setting = groups.flatMap(group => group.pins.map(pin => ({ group, pin })))
        .find(({ pin }) => pin.line === line)
      lines.get(line)!.functions.push({
        setting: setting?.group.function ?? (setting?.pin.setting === null || setting?.pin.setting === undefined
          ? 'on'
          : `mux${setting.pin.setting}`),
        controller: id_, signal,
      })
    }
    controllers.push({
      id: id_, kind, label: `${KIND_WORDS[kind]} ${controller.number ?? id_}`, isDefault: controller.status === 'okay',
      ...(controller.device && { device: controller.device }),
      routes: [{ lines: route.lines, boot: controller.status === 'okay' ? [] : [{ kind: 'overlay', name: id_ }] }],
    })
  }
  const memory = (value: number) => ({ value, origin: 'memory' })
  return {
    assumed,
    board: {
      id, name: name || profile.model || 'Board from a tree',
      summary: `Read from its own device tree${profile.compatible[0] ? ` (${profile.compatible.join(', ')})` : ''}.`,
      seen: ['Read from its own device tree', profile.model || 'no model named in the tree'], signs: {},
      header, lines: [...lines.values()].sort((a, b) => a.line - b.line), controllers,
      limits: {
        inputMaxV: memory(3.6), inputHighMinV: { value: 2, origin: 'published: JESD8C, 3.3 V LVTTL' },
        inputLowMaxV: { value: 0.8, origin: 'published: JESD8C, 3.3 V LVTTL' }, outputHighV: memory(3.3),
        lineMaxMa: memory(8),
        linesTotalMaxMa: memory(50), rail3V3BudgetMa: memory(500), usbBudgetMa: memory(500),
        innerPullMinOhm: memory(30_000),
        innerPullMaxOhm: memory(80_000),
      },
      draw: { idleMa: 350, typicalMa: 600, peakMa: 1200, origin: 'memory' }, advisedSupplyMa: memory(2000),
      sockets: { usb: 2, video: 1 },
      bootPath: '/boot/extlinux/extlinux.conf', bootDialect: 'extlinux', tree: treeOf(profile),
    },
  }
}

/** What overlays have to know: line chips by label, in the order of their numbers, and how pins are set. */
function treeOf(profile: BoardProfile): BoardTree {
  const chips = profile.chips.filter((chip): chip is GpioChip & { first: number } =>
    chip.first !== null && chip.labels.length > 0)
  const [first] = profile.bindings
  const zone = profile.labels.find(label => /^(cpu|soc|package)\d?_?thermal$|^cpu_alert_zone$/.test(label))
  return {
    compatible: profile.compatible.at(-1) ?? 'unknown', symbols: profile.hasSymbols,
    chips: [...chips].sort((a, b) => a.first - b.first)
      .map(chip => ({ label: chip.labels[0]!, first: chip.first, cells: chip.cells === 3 ? 3 as const : 2 as const })),
    ...zone && { thermalZone: zone },
    binding: first === 'numbered' ? 'numbered' : first === 'named' ? 'named' : 'none',
  }
}

const isBus = (kind: TreeController['kind']) =>
  kind === 'i2c' || kind === 'spi' || kind === 'serial' || kind === 'pwm' || kind === 'i2s'
const KIND_WORDS: Record<ControllerKind, string> = { i2c: 'I²C', spi: 'SPI', serial: 'Serial', pwm: 'PWM', i2s: 'I²S' }

/** Groups that a controller without a pin state of its own could use: those that carry its label or function. */
function groupsByName(groups: readonly PinGroup[], controller: TreeController): PinGroup[] {
  const names = [...controller.labels, ...controller.number === null
    ? []
    : [`${controller.kind === 'serial' ? 'uart' : controller.kind}${controller.number}`]].map(name =>
    name.toLowerCase())
  const mine = groups.filter(group =>
    names.some(name =>
      group.function?.toLowerCase() === name || group.labels.some(label => startsWith(label, name))
      || startsWith(group.name, name)))
  const first = mine.find(group => group.pins.length > 1)
  return first ? [first] : mine
}

const startsWith = (text: string, name: string) => new RegExp(`^${name.replace(/\W/g, '.')}(?![0-9])`, 'i').test(text)

function routeOf(
  groups: readonly PinGroup[], kind: ControllerKind, onHeader: ReadonlySet<number>, id: string, assumed: string[],
): Pick<Route, 'lines'>
  | null {
  const lines: Record<string, number> = {}
  for (const group of groups) {
    const pins = group.pins.filter(pin => pin.line !== null)
    // One pin whose name says what it is.
    const word = pins.length === 1
      ? WORDS.find(([pattern]) =>
        pattern.test(`${group.name.toLowerCase()}`) || pattern.test(group.function?.toLowerCase() ?? ''))?.[1]
      : undefined
    // Bindings that count lines list data first; those that name banks mostly list the clock first.
    const counted = group.binding === 'numbered' || pins.every(pin => /^gpio\d+$/i.test(pin.name))
    const order = ORDER[kind]![counted ? 'numbered' : 'other']
    pins.forEach((pin, i) => {
      const named = word ? spiWord(word, kind) : WORDS.find(([pattern]) => pattern.test(pin.name.toLowerCase()))?.[1]
      const signal = named
        ? spiWord(named, kind)
        : order[i + (word ? 0 : Object.keys(lines).length && pins.length === 1 ? Object.keys(lines).length : 0)]
      if (signal && !(signal in lines)) lines[signal] = pin.line!
      if (signal && !named && pins.length > 1 && i === 0) {
        assumed.push(
          `${id}: which of its lines is ${order.slice(0, pins.length).join(' and which ')} is taken from the order in `
          + 'the tree. Look it over.',
        )
      }
    })
  }
  let wanted: string[]
  if (kind === 'i2c') wanted = ['sda', 'scl']
  else if (kind === 'serial') wanted = ['tx', 'rx']
  else if (kind === 'pwm') wanted = ['out']
  else wanted = kind === 'spi'
    ? ['clock', 'mosi', 'miso']
    : ['clock', 'frame']
  if (!wanted.every(signal => signal in lines && onHeader.has(lines[signal]!))) return null
  return { lines: Object.fromEntries(Object.entries(lines).filter(([, line]) => onHeader.has(line))) }
}

const spiWord = (word: string, kind: ControllerKind) => {
  if (kind === 'spi') {
    if (word === 'tx') return 'mosi'
    return word === 'rx' ? 'miso' : word
  }
  return word
}
