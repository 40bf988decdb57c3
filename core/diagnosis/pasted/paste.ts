/**
 * Whatever was copied from the board's screen: outputs of several commands in one text, prompts and all, sorted by
 * themselves into what was seen at which probe. Formats: `i2cdetect` of i2c-tools, `ls` of coreutils (both Debian), the
 * kernel's thermal files in m°C; the throttle word's bits are from memory.
 */
import { pathOfProbe } from '../../plan/ids'
import { answersAt, STUCK } from '../names'
import type { Probe } from '../types'
import { readGrid } from '../../bringup/grid'
import { changesIn, systemIn } from './system'
import type { Found, Passage } from './types'

export interface Pasted {
  found: Found[]
  /** Lines that say nothing here. */
  unread: number
}

/** `pi@board:~$ ls /dev`, `$ ls /dev`, `root@board:/home# i2cdetect -y 1`. */
const PROMPT = /^(?:\([\w.-]+\)\s*)?(?:[\w.-]+@[\w.-]+:?\S*\s*|~?\/?\S{0,40})?[$#]\s+(\S.*)$/

/** The text cut at its prompts. */
function passagesOf(text: string): Passage[] {
  const passages: Passage[] = [{ command: null, lines: [] }]
  // Strings of the tree end with a zero byte.
  for (const line of text.replace(/[\r\0]/g, '').split('\n')) {
    const prompt = PROMPT.exec(line)
    if (prompt) passages.push({ command: prompt[1]!.trim(), lines: [] })
    else if (/^\s*(?:sudo\s+)?i2cdetect\s/.test(line)) passages.push({ command: line.trim(), lines: [] })
    else passages.at(-1)!.lines.push(line)
  }
  return passages.filter(({ command, lines }) => command !== null || lines.some(line => line.trim()))
}

/** So many answers on one bus are a line held low, not parts: nearly all that are asked. */
const STUCK_SHARE = 0.9

/**
 * Sorts a text. `usualBus` is the bus of a grid that says not which it is of. Nothing is taken twice: of two outputs
 * for one probe the last counts.
 */
export function readPasted(text: string, probes: readonly Probe[], usualBus: string | null): Pasted {
  const found: Found[] = []
  let unread = 0
  const passages = passagesOf(text)
  for (const passage of passages) {
    const { command, lines } = passage
    const before = found.length
    found.push(...gridsIn(command, lines, probes, usualBus), ...nodesIn(command, lines, probes),
      ...wordsIn(command, lines, probes),
      ...namesIn(command, lines), ...systemIn(passage, probes))
    // What our own script remarks is no output.
    if (found.length === before) unread += lines.filter(line => line.trim() && !line.startsWith('# ')).length
  }
  found.push(...changesIn(passages))
  const last = new Map<string, Found>()
  for (const [i, entry] of found.entries()) {
    const key = entry.kind === 'seen' ? entry.probe : `${i}`
    last.delete(key)
    last.set(key, entry)
  }
  return { found: [...last.values()], unread }
}

function gridsIn(command: string | null, lines: readonly string[], probes: readonly Probe[],
  usualBus: string | null): Found[] {
  const asked = /i2cdetect\b(.*)/.exec(command ?? '')
  const grid = lines.filter(line => /^\s*[0-7]0:(?:\s|$)/.test(line))
  const number = asked ? /(?:^|\s)(\d+)(?:\s|$)/.exec(asked[1]!)?.[1] : undefined
  if (lines.some(line => /permission denied/i.test(line)) && asked) {
    return [{ kind: 'refused',
      words: 'The scan was refused: put "sudo" before it, or join the group i2c and log in anew.' }]
  }
  if (asked && lines.some(line => /No such file or directory/i.test(line))) {
    const probe = probes.find(({ id }) => id === `scan:i2c${number}`)
    return probe
      ? [{ kind: 'seen', probe: probe.id, outcome: 'there is no such bus',
          words: `${probe.title}: there is no such bus` }]
      : []
  }
  if (!grid.length) return []
  const bus = number === undefined ? usualBus : `i2c${number}`
  const read = readGrid(grid.join('\n'))
  if (!read.ok) return [{ kind: 'refused', words: read.message }]
  const probe = probes.find(({ id }) => id === `scan:${bus}`)
  const addresses = read.answers.map(({ address }) => address)
  const outcome = read.tested.length > 8 && addresses.length >= read.tested.length * STUCK_SHARE
    ? STUCK
    : answersAt(addresses)
  return [probe
    ? { kind: 'seen', probe: probe.id, outcome, words: `${probe.title}: ${outcome}` }
    : { kind: 'said', words: `A scan of ${bus ?? 'a bus'}, on which the plan has nothing: ${outcome}` }]
}

/** `/sys/bus/w1/devices/28-*` as a pattern. */
const pattern = (path: string) =>
  new RegExp(`(?:^|[\\s'"])${path.replace(/[.+?^${}()|[\]\\]/g, '\\$&').replace(/\*/g, '[^\\s/\'"]+')}(?=$|[\\s'":@])`,
    'm')

function nodesIn(command: string | null, lines: readonly string[], probes: readonly Probe[]): Found[] {
  const text = lines.join('\n')
  const nodes = probes.filter(({ id }) => pathOfProbe(id) !== null)
  const whole = /^(?:sudo\s+)?ls\b(?:\s+-\S+)*\s+(\/\S+?)\/?\s*$/.exec(command ?? '')?.[1]
  // A listing of all of /dev has these on every board.
  const isAllOfDev = whole === '/dev'
    || (command === null && /\bnull\b/.test(text) && /\bzero\b/.test(text) && /\burandom\b/.test(text))
  const folder = whole ?? (isAllOfDev ? '/dev' : null)
  return nodes.flatMap(({ id, title }): Found[] => {
    const path = pathOfProbe(id)!
    const name = folder !== null && path.startsWith(`${folder}/`) && !path.slice(folder.length + 1).includes('/')
      ? path.slice(folder.length + 1)
      : null
    const isRefused = new RegExp(`${pattern(path).source}['"]?:?\\s*No such file`, 'im').test(text)
    const isThere = !isRefused && (pattern(path).test(text) || (name !== null && pattern(name).test(text)))
    const isMissing = isRefused || (isAllOfDev && name !== null)
    if (!isThere && !isMissing) return []
    const outcome = isThere ? 'it is there' : 'it is missing'
    return [{ kind: 'seen', probe: id, outcome, words: `${title}: ${outcome}` }]
  })
}

const UNDER_VOLTAGE = 0x1_0001

/** What the board and its kernel call themselves. */
function namesIn(command: string | null, lines: readonly string[]): Found[] {
  const [first] = lines.map(line => line.trim()).filter(line => line && !line.startsWith('#'))
  if (first === undefined) return []
  if (/\/proc\/device-tree\/model\b/.test(command
    ?? '')) return [{ kind: 'said', words: `The board calls itself "${first.slice(0, 120)}"` }]
  if (/^uname\b/.test(command ?? '')) return [{ kind: 'said', words: `The kernel is ${first.slice(0, 120)}` }]
  return []
}

function wordsIn(command: string | null, lines: readonly string[], probes: readonly Probe[]): Found[] {
  const found: Found[] = []
  for (const line of lines) {
    const throttled = /throttled=(0x[0-9a-f]+)/i.exec(line)
    if (throttled) {
      const word = Number.parseInt(throttled[1]!, 16)
      const bits = [[0, 'under-voltage now'], [1, 'clock capped now'], [2, 'slowed down now'], [3, 'soft limit now'],
        [16,
          'under-voltage since the start'],
        [17, 'clock capped since the start'], [18, 'slowed down since the start'],
        [19, 'soft limit since the start']] as const
      const set = bits.filter(([bit]) => word >> bit & 1).map(([, words]) => words)
      const words = `Throttle word ${throttled[1]}: ${set.length ? set.join(', ') : 'nothing to complain of'}`
      const load = probes.find(({ id }) => id === 'load')
      found.push(load
        ? { kind: 'seen', probe: 'load', words,
            outcome: (word & UNDER_VOLTAGE) !== 0 ? 'under-voltage, or it starts anew' : 'it runs on' }
        : { kind: 'said', words })
    }
    const degrees = /^temp=([\d.]+)'C/.exec(line.trim())
    const milli = /thermal/.test(command ?? '') ? /^(-?\d{1,6})$/.exec(line.trim()) : null
    if (degrees ?? milli) found.push({
      kind: 'said', words: 'The processor has '
        + `${(degrees ? Number(degrees[1]) : Number(milli![1]) / 1000).toFixed(1)} °C`,
    })
  }
  return found
}
