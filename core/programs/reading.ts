/**
 * Reads a program, a header file, a configuration or a table: what stands in it of pins, buses, addresses,
 * rates and devices.
 */
import { parser as cpp } from '@lezer/cpp'
import { parser as javascript } from '@lezer/javascript'
import { parser as python } from '@lezer/python'
import { Finder } from './find'
import { languageOf } from './language'
import { numberingOf } from './numbering'
import { readBootLines } from './read/boot'
import { withoutConditionals, inOlderWords } from './read/dead'
import { readByGrammar } from './read/grammar'
import { readShell } from './read/shell'
import { readStructured } from './read/structured'
import { readTable } from './read/table'
import type { Comment, Clue, Language, Numbering, PassedOver, Program, ProgramReading, Sighting, Span } from './types'

/** TypeScript is read where JavaScript is: it has all of it and types beside. */
const typescript = javascript.configure({ dialect: 'ts' })

const BYTE_ORDER_MARK = '\uFEFF'

/** Longer texts are refused: nobody wires a board from them. */
export const MAX_CHARACTERS = 400_000

export interface ReadAs {
  /** Name of the file: its ending tells the language. */
  name?: string
  language?: Language
  /** How pins are counted, where the maker says so. */
  numbering?: Numbering
}

/**
 * What was found, in the order of the text. Never throws: what cannot be read stands in `problems`. Comments, texts
 * that are only shown, and parts that no run reaches count for nothing.
 */
export function readProgram(text: string, as: ReadAs = {}): ProgramReading {
  // A mark of the encoding before all else is no letter of the text; what is found keeps its place in what was given.
  if (text.startsWith(BYTE_ORDER_MARK)) {
    const read = readProgram(text.slice(1), as)
    const moved = <T extends Span>(found: T): T => ({ ...found, from: found.from + 1, to: found.to + 1 })
    return { ...read, sightings: read.sightings.map(moved), passedOver: read.passedOver.map(moved) }
  }
  return readLines(text.replace(/(\\?)\r\n/g, (_, slash: string) => ` ${slash}\n`), as)
}

/** Has what no keyboard types: zeros, or many signs that stand for nothing. */
function isNoText(text: string): boolean {
  if (text.includes('\0')) return true
  const odd = text.match(/[\p{Cc}\uFFFD]/gu)?.filter(sign => !'\t\n\v\f\r\u001B'.includes(sign)) ?? []
  return odd.length > text.length / 50
}

/**
 * A text whose lines end as they do on a board: the others have a blank before, so that every letter is at its place.
 */
function readLines(text: string, { name, language = languageOf(text, name), numbering }: ReadAs): ProgramReading {
  if (text.length > MAX_CHARACTERS) return {
    language, sightings: [], passedOver: [], numbering: 'line', isUnsure: false, evidence: [], isController: false,
    problems: [`The text has ${text.length} characters; up to ${MAX_CHARACTERS} are read. Give the part with the `
      + 'pins in it.'],
  }
  if (isNoText(text)) return {
    language, sightings: [], passedOver: [], numbering: 'line', isUnsure: false, evidence: [], isController: false,
    problems: ['That is no text: a program, a picture or an archive as it lies on a disk. Give what was '
      + 'written by hand.'],
  }
  const found = byLanguage(text, language)
  const counted = numberingOf({ text, ...found })
  return {
    language, sightings: found.sightings, passedOver: found.passedOver, numbering: numbering ?? counted.numbering,
    isUnsure: numbering === undefined && counted.isUnsure, evidence: counted.evidence, isController: found.isController,
    problems: found.problems,
  }
}

interface Found {
  sightings: Sighting[]
  passedOver: PassedOver[]
  comments: Comment[]
  problems: string[]
  isController: boolean
  program?: Program
  said?: Clue[]
}

function byLanguage(text: string, language: Language): Found {
  const none = { passedOver: [], problems: [], isController: false }
  switch (language) {
    case 'python': case 'javascript': {
      const program = readByGrammar(text, language === 'python' ? python : typescript)
      return { ...none, ...new Finder(text, program).find(), comments: program.comments, program }
    }
    case 'c': {
      const { text: live, dead } = withoutConditionals(text)
      const program = readByGrammar(inOlderWords(live), cpp, dead)
      const names = new Set(program.functions.map(entry => entry.name))
      return {
        ...none, ...new Finder(text, program).find(), comments: program.comments, program,
        isController: names.has('setup') && names.has('loop') && !names.has('main'),
      }
    }
    case 'shell': return { ...none, ...readShell(text) }
    case 'yaml': case 'json': {
      const { numberingSaid, ...read } = readStructured(text)
      return { ...none, ...read, said: numberingSaid.map(({ text: says, line }) => ({
        line, says: `it says "${says}"`,
        for: /^(board|header|phys|position)/i.test(says) ? 'header' as const : 'line' as const, weight: 20,
      })) }
    }
    case 'boot': return { ...none, ...readBootLines(text) }
    case 'table': {
      const { sightings, evidence } = readTable(text)
      return { ...none, sightings, comments: [], said: evidence }
    }
  }
}
