/** Reads shell scripts: variables, and the commands by which makers drive lines and buses from a shell. */
import { DEVICE } from '../shapes'
import { lineNumberAt, lineStarts, kindByName } from '../find'
import type { Comment, PassedOver, Sighting, SightingKind, Span } from '../types'
import { pinText, wordsOf } from '../words'
import { numberIn } from './number'

interface Word extends Span { text: string }

interface ShellReading {
  sightings: Sighting[]
  passedOver: PassedOver[]
  comments: Comment[]
  commands: { words: Word[], line: number }[]
}

/** Words of each simple command, with their places; comments beside. Quoted texts are one word. */
function commandsOf(text: string, comments: Comment[]): Word[][] {
  const commands: Word[][] = [[]]
  const inserted: Word[][] = []
  const token = /\\\n|[ \t]+|(#[^\n]*)|([\n;|&()`]+|\bthen\b|\bdo\b|\belse\b)|(\w+=\([^)]*\)|(?:"(?:[^"\\]|\\.)*"|'[^']*'|\\.|[^\s;|&()"'`\\])+)/g
  for (let match = token.exec(text); match; match = token.exec(text)) {
    const [whole, comment, end, word] = match
    const before = text[match.index - 1]
    if (comment !== undefined && (before === undefined || /[\s;|&(]/.test(before))) {
      comments.push({ from: match.index, to: match.index + whole.length, text: whole.replace(/^#+\s*/, '') })
    }
    else if (end !== undefined) commands.push([])
    else if (word !== undefined) {
      commands.at(-1)!.push({ text: word, from: match.index, to: match.index + word.length })
      if (word.startsWith('"')) for (const inner of word.matchAll(/\$\(([^()]*)\)|`([^`]*)`/g)) inserted.push(...commandsWithin(
        inner, match.index))
    }
  }
  commands.push(...inserted)
  return commands.filter(words => words.length)
}

/** Commands whose output stands in a quoted text. */
const commandsWithin = (inner: RegExpMatchArray, at: number): Word[][] => {
  const text = inner[1] ?? inner[2] ?? ''
  const start = at + inner.index! + inner[0].indexOf(text)
  return commandsOf(text, [])
    .map(words => words.map(word => ({ ...word, from: word.from + start, to: word.to + start })))
}

/**
 * The text without here-documents that nothing reads, without what stands behind `if false`, and without
 * what follows `exit`.
 */
function livingPart(text: string): { text: string, dead: (Span & { why: string })[] } {
  const dead: (Span & { why: string })[] = []
  const blank = (from: number, to: number, why: string) => void dead.push({ from, to, why })
  for (const match of text.matchAll(/^[ \t]*:[ \t]*<<-?[ \t]*'?(\w+)'?[^\n]*\n[\s\S]*?^[ \t]*\1[ \t]*$/gm)) {
    blank(match.index, match.index + match[0].length, 'nothing reads it')
  }
  for (const match of text.matchAll(/^[ \t]*if[ \t]+(?:false|\[ 0 -eq 1 \]|\[ 1 -eq 0 \])[ \t]*;?[ \t]*\n?[ \t]*then\b[\s\S]*?^[ \t]*(?:fi|else)\b/gm)) {
    blank(match.index, match.index + match[0].length, 'its condition is never true')
  }
  for (const match of text.matchAll(/^[ \t]*false[ \t]*&&[^\n;]*/gm)) {
    blank(match.index, match.index + match[0].length, 'its condition is never true')
  }
  const exit = /^exit\b[^\n]*\n/m.exec(text)
  const rest = exit ? text.slice(exit.index + exit[0].length) : ''
  if (exit && rest.trim()
    && !/^\w+\s*\(\)/m.test(rest)) blank(exit.index + exit[0].length, text.length, 'it stands after the end')
  return { dead, text: dead.reduce((out, { from, to }) =>
    out.slice(0, from) + out.slice(from, to).replace(/[^\n]/g, ' ') + out.slice(to), text) }
}

const unquoted = ({ text, from, to }: Word): Word => /^(["']).*\1$/s.test(text)
  ? { text: text.slice(1, -1), from: from + 1, to: to - 1 }
  : { text, from, to }

/** What a function was called with. */
const PLACE = /^"?\$\{?([1-9])\}?(?:=[01])?"?$/

class ShellReader {
  readonly found: ShellReading = { sightings: [], passedOver: [], comments: [], commands: [] }
  private readonly variables = new Map<string, Word[]>()
  private readonly names = new Map<number, string>()
  private functions: ReadonlyMap<string, Span> = new Map()
  private readonly used = new Set<string>()
  private readonly lines: number[]

  constructor(private readonly text: string) {
    this.lines = lineStarts(text)
  }

  read(): ShellReading {
    const { text, dead } = livingPart(this.text)
    const commands = commandsOf(text, this.found.comments)
    for (const words of commands) this.readAssignments(words)
    for (const match of text.matchAll(/\$\{?(\w+)/g)) this.used.add(match[1]!)
    this.functions = this.functionsOf(text)
    for (const words of commands) this.readCommand(words)
    for (const words of commands) for (const word of words) this.readPath(unquoted(assigned(word)))
    this.readNamed(commands.every(words => words.every(word => /^(\w+=|export$|readonly$|declare$)/.test(word.text))))
    for (const { from, to, why } of dead) for (const match of this.text.slice(from, to)
      .matchAll(/(?<![\w.])\d{1,2}(?![\w.])/g)) {
      this.found.passedOver.push({
        from: from + match.index, to: from + match.index + match[0].length,
        line: lineNumberAt(this.lines, from + match.index),
        text: match[0], why,
      })
    }
    this.found.sightings = this.found.sightings.filter((entry, i, all) =>
      all.findIndex(other => other.from === entry.from && other.kind === entry.kind) === i)
      .sort((a, b) => a.from - b.from)
    return this.found
  }

  private readAssignments(words: readonly Word[]): void {
    // `: "${PIN:=17}"`: what it is where nobody set it.
    if (words[0]?.text === ':') for (const word of words.slice(1)) {
      const bare = unquoted(word)
      const said = /^\$\{(\w+):?=([^}]+)\}$/.exec(bare.text)
      if (!said) continue
      const from = bare.from + bare.text.indexOf(said[2]!, said[1]!.length + 3)
      this.variables.set(said[1]!,
        [...this.variables.get(said[1]!) ?? [], { text: said[2]!, from, to: from + said[2]!.length }])
      this.names.set(from, said[1]!)
    }
    for (const word of words) {
      const match = /^(\w+)=(.*)$/s.exec(word.text)
      if (!match) {
        if (/^(export|readonly|local|declare|typeset|-\w+)$/.test(word.text)) continue
        break
      }
      const value = unquoted({ text: match[2]!, from: word.from + match[1]!.length + 1, to: word.to })
      const list = value.text.replace(/^\(|\)$/g, '')
      const at = value.from + value.text.indexOf(list)
      const items = [...list.matchAll(/(\[\w+\]=)?(\S+)/g)].map(([whole, key = '', item], _,
        __) => ({ whole, key, item }))
        .reduce<{ list: Word[], next: number }>(({ list: before, next }, { whole, key, item }) => {
          const start = list.indexOf(whole, next)
          return { list: [...before, { text: item!, from: at + start + key.length, to: at + start + whole.length }],
            next: start
              + whole.length }
        }, { list: [], next: 0 }).list
      this.variables.set(match[1]!, [...this.variables.get(match[1]!) ?? [], ...items])
      for (const item of items) this.names.set(item.from, match[1]!)
    }
    // `for pin in 5 6 13`, and what an array holds in its brackets.
    if (words[0]?.text === 'for'
      && words[2]?.text === 'in') this.variables.set(words[1]!.text, words.slice(3).flatMap(word =>
      this.values(word)))
  }

  /** Functions with where their words stand: `$1` in them is what they are called with. */
  private functionsOf(text: string): Map<string, Span> {
    const found = new Map<string, Span>()
    for (const match of text.matchAll(/^[ \t]*(?:function[ \t]+)?(\w+)[ \t]*\(\)[ \t\n]*\{/gm)) {
      const line = text.indexOf('\n', match.index + match[0].length)
      const own = text.slice(0, line < 0 ? text.length : line).lastIndexOf('}')
      const end = own > match.index ? own : text.indexOf('\n}', match.index)
      found.set(match[1]!, { from: match.index, to: end < 0 ? text.length : end })
    }
    return found
  }

  /** The word itself, or what the variable in it holds. */
  private values(word: Word, depth = 0): Word[] {
    const bare = unquoted(word)
    const place = PLACE.exec(bare.text)
    const called = place ? this.around(bare.from) : undefined
    if (place && called !== undefined && depth < 5) {
      return this.callsOf(called).flatMap(call => call[Number(place[1])] ?? [])
        .flatMap(given => this.values(given, depth + 1))
    }
    const variable = /^\$\{?(\w+)(?:\[[^\]]*\])?(?::?[-=]([^}]*))?\}?$/.exec(bare.text)
    if (!variable || depth > 5) return [bare]
    const [, name, otherwise] = variable
    const held = (this.variables.get(name!) ?? []).flatMap(item => this.values(item, depth + 1))
    if (held.length || otherwise === undefined) return held.filter(({ from }) => from !== bare.from)
    const from = bare.from + bare.text.indexOf(otherwise, bare.text.search(/[-=]/))
    return [{ text: otherwise, from, to: from + otherwise.length }]
  }

  /** The function that a place of the text stands in. */
  private around(at: number): string | undefined {
    return [...this.functions].find(([, { from, to }]) => at > from && at < to)?.[0]
  }

  private readCommand(words: readonly Word[]): void {
    let args = words.filter((word,
      i) => !(i === 0 && /^(\{|sudo|if|while|until|!|time|exec|nohup|elif)$/.test(word.text)))
    while (/^(sudo|!|exec|env)$/.test(args[0]?.text ?? '')) args = args.slice(1)
    const [name, ...rest] = args
    if (!name || /=/.test(name.text)) return
    const inFunction = this.around(name.from)
    const calls = inFunction === undefined ? [] : this.callsOf(inFunction)
    // In a function it is read once for each time that it is called.
    if (calls.length && rest.some(({ text }) => PLACE.test(text))) {
      for (const call of calls) this.readNamedCommand(name,
        rest.map(word => call[Number(PLACE.exec(word.text)?.[1] ?? 0)] ?? word))
    }
    else this.readNamedCommand(name, rest)
  }

  private readNamedCommand(name: Word, given: readonly Word[]): void {
    const command = name.text.split('/').at(-1)!
    const plain = given.filter(({ text }) => !text.startsWith('-') || /^-\d+$/.test(text))
    if (/^gpio(set|get|mon|notify)$/.test(command)) return this.readLines(given)
    if (command === 'gpio') return this.readNumbered(given)
    if (command === 'pinctrl' || /^\w+-gpio$/.test(command)) {
      if (/^(set|get|poll|funcs|op|ip|dh|dl)$/.test(plain[0]?.text
        ?? '')) this.readPin(plain[1], { by: command, numbering: 'line' })
      return
    }
    if (/^i2c(detect|get|set|dump|transfer)$/.test(command)) return this.readBus(command, given)
    if (command === 'echo' || command === 'printf') return this.readExport(plain)
    if (/^(stty|screen|minicom|picocom|cu|tio)$/.test(command)) this.readRate(command, given)
  }

  /** Words of each call of a function; at 0 nothing. */
  private callsOf(name: string): (Word | undefined)[][] {
    return commandsOf(livingPart(this.text).text, []).filter(words => words[0]!.text === name)
      .map(words => [undefined, ...words.slice(1)])
  }

  /** `gpioset gpiochip0 17=1`, `gpioget -c 0 17`, `gpioset GPIO17=1` */
  private readLines(args: readonly Word[]): void {
    const rest: Word[] = []
    for (let i = 0; i < args.length; i++) {
      const { text } = args[i]!
      if (/^(-c|--chip|-p|--hold-period|-t|--toggle|-C|--consumer|-b|--bias|-d|--drive|-F|--format|-n|--num-events|-e|--edges|-m|--mode|-s|-u)$/.test(text)) i++
      else if (!text.startsWith('-')) rest.push(args[i]!)
    }
    const isChip = (word: Word) => this.values(word).some(({ text }) => /^(\/dev\/)?gpiochip\d+$/.test(text))
    const chipFirst = rest[0] && (isChip(rest[0])
      || (/^\d$/.test(rest[0].text) && rest[1] && !args.some(({ text }) => /^(-c|--chip)/.test(text))))
    for (const quoted of chipFirst ? rest.slice(1) : rest) {
      const word = unquoted(quoted)
      const [line = ''] = word.text.split('=')
      const isSet = word.text.includes('=')
      this.readPin({ text: line, from: word.from, to: word.from + line.length }, {
        by: isSet ? 'gpioset' : 'gpioget', numbering: 'line', direction: isSet ? 'out' : 'in',
      })
    }
  }

  /** A command that counts three ways: `-g` by line, `-1` by position, else by a numbering of its own. */
  private readNumbered(args: readonly Word[]): void {
    let numbering: 'line' | 'header' | 'own'
    if (args.some(({ text }) => text === '-g')) numbering = 'line'
    else numbering = args.some(({ text }) => text === '-1') ? 'header' : 'own'
    const plain = args.filter(({ text }) => !/^-/.test(text))
    const at = plain.findIndex(({ text }) => /^(mode|write|read|pwm|toggle|aread|edge|wfi|blink|export)$/.test(text))
    if (at < 0) return
    const mode = plain[at + 2]?.text
    this.readPin(plain[at + 1], {
      by: 'gpio', numbering: plain[at]!.text === 'export' || plain[at]!.text === 'edge' ? 'line' : numbering,
      ...(mode === 'out' || mode === 'in') && { direction: mode },
    })
  }

  private readBus(command: string, args: readonly Word[]): void {
    const plain = args.filter(({ text }) => !/^-/.test(text))
    if (command === 'i2ctransfer') {
      this.note('i2c-bus', plain[0], command)
      for (const { text, from } of plain.slice(1)) {
        const match = /^[rw]\d+@(0x[\da-f]+)$/i.exec(text)
        if (match) this.add('address', Number(match[1]), { text: match[1]!, from: from + text.indexOf('@') + 1, to: from
          + text.length }, { by: command })
      }
      return
    }
    this.note('i2c-bus', plain[0], command)
    if (command !== 'i2cdetect') this.note('address', plain[1], command, plain[0])
  }

  /** `echo 17 > /sys/class/gpio/export` */
  private readExport(args: readonly Word[]): void {
    const to = args.findIndex(({ text }) => /^>{1,2}/.test(text))
    const path = to < 0 ? '' : args.slice(to).map(({ text }) => text).join(' ')
    if (/\/sys\/class\/gpio\/(un)?export/.test(path)
      && args[0]) this.readPin(args[0], { by: 'export', numbering: 'line' })
  }

  private readRate(command: string, args: readonly Word[]): void {
    const rate = args.find(({ text }) =>
      this.values({ text, from: 0, to: 0 }).some(value => /^\d{4,7}$/.test(value.text)))
    if (rate) this.note('baud', rate, command)
  }

  private readPath(word: Word): void {
    const otherwise = /^"?\$\{\w+:[-=](.*)\}"?$/.exec(word.text)
    if (otherwise) {
      const from = word.from + word.text.indexOf(otherwise[1]!)
      return this.readPath({ text: otherwise[1]!, from, to: from + otherwise[1]!.length })
    }
    if (DEVICE.test(word.text)) this.add('device', word.text, word, { by: 'the path' })
    const line = /\/sys\/class\/gpio\/gpio(\d+)(\/|$)/.exec(word.text)
    const from = line ? word.from + word.text.indexOf(line[1]!, line.index + 20) : 0
    if (line) this.add('pin', Number(line[1]), { text: line[1]!, from, to: from + line[1]!.length },
      { by: 'the path', numbering: 'line' })
    const variable = /\/sys\/class\/gpio\/gpio(\$\{?\w+\}?)(\/|$)/.exec(word.text)
    if (variable) this.readPin({ text: variable[1]!, from: word.from, to: word.to },
      { by: 'the path', numbering: 'line' })
  }

  private readPin(word: Word | undefined, extra: Extra): void {
    // `pinctrl get 3,5`
    const listed = (value: Word): Word[] => [...value.text.matchAll(/[^,]+/g)].map(match => ({
      text: match[0], from: value.from + match.index, to: value.from + match.index + match[0].length,
    }))
    for (const value of word ? this.values(word).flatMap(listed) : []) {
      const [bare = ''] = value.text.split('=')
      const named = pinText(bare)
      const number = named?.value ?? (/^\d{1,2}$/.test(bare) ? Number(bare) : null)
      if (number === null) continue
      const from = value.from + (named?.digits ?? 0)
      this.add('pin', number, { text: bare, from, to: from + String(number).length }, { ...extra, ...named
      && { numbering: named.numbering } })
    }
  }

  private note(kind: SightingKind, word: Word | undefined, by: string, busWord?: Word): void {
    for (const value of word ? this.values(word) : []) {
      const number = numberIn(value.text)
      const bus = busWord ? numberIn(this.values(busWord)[0]?.text ?? '') : null
      if (number !== null) this.add(kind, number, value, { by, ...bus !== null && { bus } })
    }
  }

  /** Variables that no known command takes. */
  private readNamed(isHeader: boolean): void {
    for (const [name, values] of this.variables) {
      const kind = kindByName(name, true)
      if (!kind) continue
      for (const value of values) {
        if (this.found.sightings.some(({ from }) => from === value.from)) continue
        const number = numberIn(value.text)
        if (number === null || (kind === 'pin' && number > 57)) continue
        if (isHeader || this.used.has(name)) this.add(kind, number, value, { by: `the name ${name}` })
        else this.found.passedOver.push({ ...value, line: lineNumberAt(this.lines, value.from),
          why: `${name} is never used` })
      }
    }
  }

  private add(kind: SightingKind, value: number | string, { text, from, to }: Word, extra: Extra): void {
    const line = lineNumberAt(this.lines, from)
    const name = this.names.get(from) ?? this.names.get(from - 4) ?? ''
    const comment = this.found.comments.filter(entry => lineNumberAt(this.lines, entry.from) === line)
      .flatMap(entry => wordsOf(entry.text))
    this.found.sightings.push({
      kind, value, text, line, from, to, name, words: [...new Set([...wordsOf(name), ...comment.slice(0, 12)])],
      ...extra,
    })
  }
}

type Extra = Pick<Sighting, 'by'> & Partial<Pick<Sighting, 'numbering' | 'direction' | 'bus'>>

const assigned = (word: Word): Word => {
  const match = /^\w+=(.*)$/s.exec(word.text)
  return match ? { text: match[1]!, from: word.to - match[1]!.length, to: word.to } : word
}

export function readShell(text: string): ShellReading {
  return new ShellReader(text).read()
}
