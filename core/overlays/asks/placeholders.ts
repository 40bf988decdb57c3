/**
 * The placeholders that part files may use in boot lines, device nodes and bindings: one table, each with what stands
 * in for it.
 */
import { tableOf } from '../../collections/table'
import { USUAL_THRESHOLD } from '../../facts/heat'
import type { Facts, ResolvedPart } from '../../facts/types'

type Filler = (owner: ResolvedPart, facts: Facts, argument: string) => string | null

const fan = ({ plan: { power: { heat } } }: Facts) => heat.fan.mode === 'threshold' ? heat.fan : USUAL_THRESHOLD
const thousandths = (value: number) => String(Math.round(1000 * value))

/** Bus of a kind that the part lies on, where it is a controller of the board. */
const controllerOf = (owner: ResolvedPart, facts: Facts, kind: 'i2c' | 'spi') =>
  facts.groups.find(group => group.owner === owner && group.kind === kind)?.bus ?? null

/**
 * `{name}` or `{name:argument}` → what it stands for; null while what it needs has no place yet. What is not here names
 * a signal of the part.
 */
export const PLACEHOLDERS = tableOf<{ meaning: string, fill: Filler }>({
  'option': { meaning: 'the value of an option: {option:address}',
    fill: (owner, _, argument) => owner.options[argument] ?? null },
  'display:columns': {
    meaning: 'columns of the picture, as it is turned', fill: owner => turned(owner)?.columns ?? null,
  },
  'display:rows': { meaning: 'rows of the picture, as it is turned', fill: owner => turned(owner)?.rows ?? null },
  'display:mm-wide': { meaning: 'width of the picture in mm, as it is turned',
    fill: owner => turned(owner)?.mmWide ?? null },
  'display:mm-high': { meaning: 'height of the picture in mm, as it is turned',
    fill: owner => turned(owner)?.mmHigh ?? null },
  'start-file': {
    meaning: 'name of the file of start commands, without its ending', fill: owner => startFileName(owner.id),
  },
  'fan:on': {
    meaning: 'temperature at which the fan comes on, in thousandths of a degree',
    fill: (_, facts) => thousandths(fan(facts).onC),
  },
  'fan:hysteresis': {
    meaning: 'how far it has to cool before the fan stops, in thousandths of a degree',
    fill: (_, facts) => thousandths(fan(facts).hysteresisC),
  },
  'spi': {
    meaning: 'number of the SPI bus',
    fill: (owner, facts) => controllerOf(owner, facts, 'spi')?.controller?.id.replace('spi', '') ?? null,
  },
  'bus': { meaning: 'number of the I²C bus', fill: (owner, facts) => busNumber(owner, facts) },
  'select': { meaning: 'number of the select on its SPI bus; {select:signal} for another select terminal',
    fill: selectNumber },
})

/** Name, without its ending, of the file of start commands that is made for a screen. */
export const startFileName = (partId: string) => `voltaris-${partId.toLowerCase()}`

/**
 * The picture's size: that of the part's file at its usual rotation, with columns and rows changed over a quarter
 * turn from there.
 */
export function turned({ part, options }: Pick<ResolvedPart, 'part' | 'options'>) {
  if (!part.display) return null
  const usual = part.options?.find(option => option.meaning === 'rotation')
  const turns = usual ? (Number(options[usual.id] ?? usual.default) - Number(usual.default)) / 90 : 0
  const { width, height, sizeInch } = part.display
  const [columns, rows] = turns % 2 ? [height, width] : [width, height]
  const mmToADot = sizeInch * 25.4 / Math.hypot(width, height)
  return {
    columns: String(columns), rows: String(rows), mmWide: String(
      Math.round(columns * mmToADot),
    ), mmHigh: String(Math.round(rows * mmToADot)),
  }
}

function busNumber(owner: ResolvedPart, facts: Facts): string | null {
  const bus = controllerOf(owner, facts, 'i2c')
  if (bus?.software) return String(bus.software.number)
  return bus?.controller ? bus.controller.id.replace('i2c', '') : null
}

function selectNumber(owner: ResolvedPart, facts: Facts, argument: string): string | null {
  const select = owner.signals.find(signal => argument ? signal.id === argument : signal.role === 'spi.select')
  const number = select && facts.selectNumbers.get(`${owner.id}.${select.id}`)
  return number === undefined ? null : String(number)
}

function valueOf(name: string, owner: ResolvedPart, facts: Facts): string | null {
  const [first = '', argument = ''] = name.split(':')
  let entry
  if (Object.hasOwn(PLACEHOLDERS, name)) entry = PLACEHOLDERS[name]
  else entry = Object.hasOwn(PLACEHOLDERS, first)
    ? PLACEHOLDERS[first]
    : undefined
  if (entry) return entry.fill(owner, facts, argument)
  const place = facts.byKey.get(`${owner.id}.${name}`)?.place
  return place?.kind === 'header' && place.line ? String(place.line.line) : null
}

/** The text with its placeholders filled in; null while something it needs has no place yet. */
export function fillTemplate(text: string, owner: ResolvedPart, facts: Facts): string | null {
  let complete = true
  const filled = text.replace(/\{([^}]+)\}/g, (_, name: string) => {
    const value = valueOf(name, owner, facts)
    if (value === null) complete = false
    return value ?? ''
  })
  return complete ? filled : null
}
