/**
 * How a part's readings are taken in Python: one function for each part, for its own program and for those of
 * the whole plan.
 */
import type { ResolvedPart } from '../facts/types'
import { HWMON, IIO, QUANTITIES, type ReadingFile } from '../bringup/readings'
import type { Access } from './access'
import { CHIP, quoted } from './python-file'
import type { PythonPieceName } from './python-helpers'
import type { Recipe } from '../catalogue/shapes/program'
import { hex, spoken } from './words'

/** A function `read_…()` that gives `(name, value, unit)` for each reading, with what it needs above it. */
export interface PythonReader {
  name: string
  pieces: PythonPieceName[]
  imports: string[]
  constants: string[]
  body: string
}

const identifier = (id: string) => id.replaceAll(/[^a-z0-9]+/g, '_')
const bytes = (list: readonly number[]) => `[${list.map(hex).join(', ')}]`

const fileReading = (what: string, unit: string, digits: number,
  { name, per, zero = 0, scaleFile, isRaw }: ReadingFile) => {
  const raw = `float((folder / ${quoted(name)}).read_text())`
  let figure: string
  if (isRaw) figure = `${raw} - ZERO`
  else if (scaleFile) figure = `${raw} * float((folder / ${quoted(scaleFile)}).read_text()) / 1000`
  else figure = zero ? `(${raw} - ${zero}) / ${per}` : `${raw} / ${per}`
  return `(${quoted(what)}, round(${isRaw ? `(${figure}) / PER_UNIT` : figure}, ${digits}), ${quoted(unit)})`
}

/** How a part's readings are taken; null for what gives none. */
export function pythonReader(owner: ResolvedPart, access: Access): PythonReader | null {
  const name = `read_${identifier(owner.id)}`
  const about = `    """${spoken(owner.name)}."""`
  switch (access.by) {
    case 'files': {
      const table = access.folder === 'iio' ? IIO : HWMON
      const pattern = access.folder === 'iio' ? '/sys/bus/iio/devices/iio:device*' : '/sys/class/hwmon/hwmon*'
      const readings = access.quantities.flatMap((what) => {
        const file = table[what]
        const { name: word, unit, digits } = QUANTITIES[what]
        return file ? [`        ${fileReading(word, unit, digits, file)},`] : []
      })
      if (!readings.length) return null
      const raw = access.quantities.some(what => table[what]?.isRaw)
      return { name, pieces: ['folders'], imports: [], constants: raw
        ? ['# What it says with nothing on it, and for each gram more: find both with a known weight.',
            'ZERO, PER_UNIT = 8388608, 420']
        : [], body: `def ${name}():
${about}
    folder = folder_of(${quoted(pattern)}, ${quoted(access.name)}, ${access.nth})
    return [
${readings.join('\n')}
    ]` }
    }
    case 'probes': return { name, pieces: [], imports: ['glob', 'pathlib'], constants: [], body: `def ${name}():
${about}
    found = sorted(glob.glob('/sys/bus/w1/devices/28-*'))
    if len(found) < ${access.count}:
        raise OSError(2, f'{len(found)} of ${access.count} probes answer: {", ".join(found)}')
    return [(path[-12:], round(int(pathlib.Path(path, 'temperature').read_text()) / 1000, 1), '°C') for path in found]` }
    case 'clock': return { name, pieces: [], imports: ['pathlib'], constants: [], body: `def ${name}():
${about}
    at = pathlib.Path(${quoted(`/sys/class/rtc/${access.rtc}`)})
    return [('time', (at / 'date').read_text().strip() + ' ' + (at / 'time').read_text().strip(), 'UTC')]` }
    case 'i2c': return access.recipe?.values.length ? i2cReader(name, about, access, access.recipe) : null
    case 'scale': return {
      name, pieces: ['lines'], imports: [], constants: [
        ...CHIP, '# What it says with nothing on it, and for each gram more: find both with a known weight.',
        'EMPTY, PER_GRAM = 0, 420',
      ],
      body: `def ${name}():
${about}
    data = request([${access.data}], INPUT)
    clock = request([${access.clock}], OUTPUT, [0])
    try:
        for _ in range(100):
            if get_values(data, 1) == [0]:
                break
            time.sleep(0.01)
        else:
            raise OSError(62, 'it never says that a figure is ready: supply, DOUT')
        raw = 0
        for _ in range(24):
            set_values(clock, [1])
            raw = raw << 1 | get_values(data, 1)[0]
            set_values(clock, [0])
        # The 25th asks for the same input again.
        set_values(clock, [1])
        set_values(clock, [0])
    finally:
        os.close(data)
        os.close(clock)
    raw = raw - (1 << 24) if raw >> 23 else raw
    return [('figure', raw, ''), ('weight', round((raw - EMPTY) / PER_GRAM, 1), 'g')]`,
    }
    case 'echo': return {
      name, pieces: ['lines', 'edges'], imports: ['time'], constants: [...CHIP], body: `def ${name}():
${about}
    echo = request([${access.echo}], INPUT | EDGES)
    trigger = request([${access.trigger}], OUTPUT, [0])
    try:
        time.sleep(0.06)
        set_values(trigger, [1])
        set_values(trigger, [0])
        rise, fall = next_edge(echo, 0.5), next_edge(echo, 0.5)
    finally:
        os.close(echo)
        os.close(trigger)
    if not rise or not fall:
        raise OSError(62, 'no echo: its supply, TRIG, and the divider at ECHO')
    # There and back, in air of 20 °C.
    return [('distance', round((fall[0] - rise[0]) * 343 / 2 * 1000), 'mm')]`,
    }
    default: return null
  }
}

/** What is said when another part answers. */
export const elsewhere = ({ register, value }: NonNullable<Recipe['who']>) =>
  `f'register ${hex(register)} says {found:#04x}, not ${hex(value)}: another part answers there'`

function i2cReader(name: string, about: string, { device, address }: Extract<Access, { by: 'i2c' }>,
  recipe: Recipe): PythonReader {
  const { who, wake = [], ask = [], askMs = 0, trimmed = [], blocks, steps = [], values } = recipe
  const said = (list: readonly (readonly number[])[]) =>
    list.map(sent => `        transfer(bus, ${hex(address)}, ${bytes(sent)})`)
  const thinking = blocks.filter(({ waitMs }) => waitMs)
  const blocksOf = (list: typeof blocks) => list
    .map(block => `transfer(bus, ${hex(address)}, ${block.waitMs ? '[]' : bytes(block.register)}, ${block.bytes})`)
    .join(' + ')
  const body = [
    `def ${name}():`, about, `    bus = os.open(${quoted(device)}, os.O_RDWR)`, '    try:',
    ...who
      ? [
          `        found = transfer(bus, ${hex(address)}, [${hex(who.register)}], 1)[0]`,
          `        if found != ${hex(who.value)}:`,
          `            raise OSError(19, ${elsewhere(who)})`,
        ]
      : [],
    ...wake.length
      ? [
          `        if not ${name}.is_awake:`,
          ...wake.flatMap(({ send, ms }) => [
            ...said([send]).map(line => `    ${line}`), ...ms ? [`            time.sleep(${ms / 1000})`] : [],
          ]),
          `            ${name}.is_awake = True`,
        ]
      : [],
    ...trimmed.length ? [`        k = ${blocksOf(trimmed)}`] : [],
    ...said(ask), ...askMs ? [`        time.sleep(${askMs / 1000})`] : [],
    ...thinking.flatMap(({ register, waitMs }) => [...said([register]), `        time.sleep(${waitMs! / 1000})`]),
    `        d = ${blocksOf(blocks)}`,
    '    finally:', '        os.close(bus)',
    ...steps.map(([step, formula]) => `    ${step} = ${formula}`),
    '    return [',
    ...values.map(({ label, digits, formula, unit }) =>
      `        (${quoted(label)}, round(${formula}, ${digits || 'None'}), ${quoted(unit)}),`),
    '    ]',
    ...wake.length ? ['', '', `${name}.is_awake = False`] : [],
  ]
  return { name, pieces: ['transfer', 'numbers'], imports: ['time'], constants: [], body: body.join('\n') }
}
