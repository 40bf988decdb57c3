/** The text with what contradicts the plan put right, and the plan's pins as constants in the text's own language. */
import type { Facts } from '../facts/types'
import type { Held } from './judge'
import { pinOfLine } from './numbering'
import type { Language, Numbering } from './types'

export interface Correction {
  line: number
  name: string
  before: string
  after: string
  why: string
}

/**
 * Every contradiction that has an answer, put right where it is written; all else stays byte for byte. Law: read again,
 * the corrected text contradicts the plan nowhere where it was put right.
 */
export function corrected(text: string, held: readonly Held[]): { text: string, corrections: Correction[] } {
  const wrong = held.filter(entry => entry.verdict === 'contradicts' && entry.should !== undefined)
    .sort((a, b) => a.sighting.from - b.sighting.from)
  let at = 0
  let out = ''
  const corrections: Correction[] = []
  for (const { sighting, should, says } of wrong) {
    if (sighting.from < at) continue
    out += text.slice(at, sighting.from) + should!
    at = sighting.to
    corrections.push({ line: sighting.line, name: sighting.name, before: text.slice(sighting.from, sighting.to),
      after: should!,
      why: says })
  }
  return { text: out + text.slice(at), corrections }
}

interface Constant { name: string, value: string, says: string }

const upper = (text: string) =>
  text.normalize('NFKD').replace(/[^A-Za-z0-9]+/g, '_').replace(/^_+|_+$/g, '').toUpperCase()

/** The plan's lines, addresses and rates as named values, each name once. */
function constantsIn(facts: Facts, numbering: Numbering): Constant[] {
  const pins = facts.terminals.flatMap((terminal): Constant[] => {
    const { place, owner, signal } = terminal
    if (!signal || place?.kind !== 'header' || place.header.line === undefined
      || /^(i2c|serial|spi)\./.test(signal.role)) return []
    const value = numbering === 'header' ? place.position : pinOfLine(place.header.line, numbering)
    const name = owner.signals.length > 1 ? `${owner.name} ${signal.label}` : owner.name
    return value === null
      ? []
      : [{ name: `${upper(name)}_PIN`, value: String(value),
          says: `position ${place.position}, G${place.header.line}` }]
  })
  const addresses = facts.devices.filter(({ also }) => !also).map(({ owner, address, busId }): Constant => ({
    name: `${upper(owner.name)}_ADDRESS`, value: `0x${address.toString(16).padStart(2, '0')}`,
    says: busId ?? 'no bus yet',
  }))
  const rates = facts.parts.flatMap((owner): Constant[] => {
    const { serial } = owner.part
    return serial
      ? [{ name: `${upper(owner.name)}_BAUD`,
          value: serial.baudOption ? owner.options[serial.baudOption]! : String(serial.baud),
          says: serial.frame }]
      : []
  })
  const taken = new Map<string, number>()
  return [...pins, ...addresses, ...rates].map((entry) => {
    const name = /^\d/.test(entry.name) ? `N${entry.name}` : entry.name || 'PIN'
    const count = (taken.get(name) ?? 0) + 1
    taken.set(name, count)
    return { ...entry, name: count > 1 ? `${name}_${count}` : name }
  })
}

const HEAD: Readonly<Record<Numbering, string>> = {
  line: 'Pins by line number.', header: 'Pins by position on the header.', own: 'Pins by the library\'s own numbers.',
}

/** The plan as constants in a language; without any, an empty text. */
export function constantsOf(facts: Facts, language: Language, numbering: Numbering): string {
  const rows = constantsIn(facts, numbering)
  if (!rows.length) return ''
  const wide = Math.max(...rows.map(({ name }) => name.length))
  const lines: Record<Language, (row: Constant) => string> = {
    python: ({ name, value, says }) => `${name} = ${value}  # ${says}`,
    c: ({ name, value, says }) => `#define ${name.padEnd(wide)} ${value}  /* ${says} */`,
    javascript: ({ name, value, says }) => `const ${name} = ${value} // ${says}`,
    shell: ({ name, value, says }) => `${name}=${value} # ${says}`,
    yaml: ({ name, value, says }) => `${name.toLowerCase()}: ${value} # ${says}`,
    json: ({ name, value }) => `  "${name.toLowerCase()}": ${/^0x/.test(value) ? `"${value}"` : value}`,
    boot: ({ name, value, says }) => `# ${name} ${value}: ${says}`,
    table: ({ name, value, says }) => `${name},${value},"${says}"`,
  }
  const head = HEAD[numbering]
  if (language === 'json') return `{\n${rows.map(lines.json).join(',\n')}\n}\n`
  let first: string
  if (language === 'c') first = `/* ${head} */`
  else if (language === 'javascript') first = `// ${head}`
  else first = language === 'table'
    ? 'Name,Value,Where'
    : `# ${head}`
  return `${[first, ...rows.map(lines[language])].join('\n')}\n`
}
