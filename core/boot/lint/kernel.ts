/** The kernel command line, the menu file and the environment list. */
import type { Board } from '../../catalogue/types'
import { parseCommandLine } from '../dialects/command-line'
import { parseEnvironment } from '../dialects/environment'
import { DIRECTIVES, parseMenu, SAME_DIRECTIVE, startedEntry } from '../dialects/extlinux'
import { DIRECTIVE_WORDS } from '../../overlays/library/directives'
import { COMMAND_WORDS, ENVIRONMENT } from '../../overlays/library/settings'
import { COMMAND_FILE, overlayName, type Where } from '../scope/effective'
import { nearest } from './near'
import type { LintContext, LintFinding, LintRule, TextFix } from './types'
import { dropLine, dropWord, fix, found, quoted, replace } from './words'

/** Serial consoles and the controller of the header that they hold. */
const PORTS: Readonly<Record<string, string>> = {
  serial0: 'uart0', ttyAMA0: 'uart0', ttyS0: 'uart0', ttyAMA10: 'debug', serial1: 'uart1', ttyAMA1: 'uart1',
  ttyAMA2: 'uart2',
  ttyAMA3: 'uart3', ttyAMA4: 'uart4', ttyAMA5: 'uart5', ttyS1: 'uart1', ttyS2: 'uart2', ttyS3: 'uart3', ttyS4: 'uart4',
}

/**
 * The controller that a console holds. `serial0` is the header's port but where the board gives that name to a socket
 * of its own.
 */
export function portOf(device: string, board: Board | null): string | undefined {
  if (device === 'serial0'
    && board?.controllers.find(({ id }) => id === 'uart0')?.device === '/dev/ttyAMA0') return 'debug'
  return Object.hasOwn(PORTS, device) ? PORTS[device] : undefined
}

export const commandLine: LintRule = (context) => {
  const { files, effective, plan } = context
  const findings: LintFinding[] = []
  const words = effective.words
  const seen = new Map<string, typeof words[number]>()
  for (const word of words) {
    const device = word.name === 'console' ? word.value?.split(',')[0]?.replace(/^\/dev\//, '') : undefined
    const bus = device ? portOf(device, context.board) : undefined
    const user = bus && plan?.buses.get(bus)
    if (user) {
      findings.push(found(
        'serial.console', 'stop', word.where, 'The console holds the serial port',
        `The kernel sends its console to ${device}: ${user.names.join(', ')} hears the boot messages, and what it `
        + 'sends is taken for a login. Let the console go.',
        {
          partIds: user.partIds, figures: [{ label: 'found', value: `console=${word.value}`, origin: 'practice' }],
          fixes: [dropWord('Free the port', context.files, word.where)],
        },
      ))
    }
    const before = seen.get(word.name)
    if (before && word.name !== 'console' && word.name !== 'video' && word.name !== 'earlycon'
      && !/blacklist|cgroup/.test(word.name)) {
      findings.push(before.value === word.value
        ? found(
            'kernel.repeated', 'note', word.where, `"${word.name}" stands twice`, 'Once is enough.',
            { fixes: [dropWord('Take this one out', context.files, word.where)] },
          )
        : found(
            'kernel.contradicts', 'caution', word.where, `"${word.name}" stands twice with different values`,
            `The later one counts: ${word.value ?? 'on'}. Keep one of the two.`,
            {
              fixes: [
                dropWord(`Keep ${word.value ?? 'this'}`, context.files, before.where),
                dropWord(`Keep ${before.value ?? 'the first'}`, context.files, word.where),
              ],
            },
          ))
    }
    seen.set(word.name, word)
    if (word.name === 'dtparam' || word.name === 'dtoverlay') findings.push(found(
      'kernel.wrong-file', 'caution', word.where, `"${word.name}" belongs into the boot file`,
      'The kernel does not read it here. It belongs into config.txt.',
      { fixes: [dropWord('Take it out', context.files, word.where)] },
    ))
    else if (!(word.name in COMMAND_WORDS) && !word.name.includes('.') && word.value !== null) {
      const near = nearest(word.name, Object.keys(COMMAND_WORDS))
      if (near) {
        findings.push(found(
          'kernel.word-unknown', 'caution', { ...word.where, to: word.where.from + word.name.length },
          `"${word.name}" is not known: "${near}" is`,
          `The kernel hands a word it does not know to the first program, and nothing happens. Write ${near}.`,
          { fixes: [replace(`Write ${near}`, { ...word.where, to: word.where.from + word.name.length }, near)] },
        ))
      }
    }
    if (word.name === 'rotate' || word.name === 'display_rotate') {
      findings.push(found(
        'kernel.word-unknown', 'caution', word.where, 'The kernel does not turn the picture so',
        'Rotation stands behind video=: video=HDMI-A-1:rotate=90, or fbcon=rotate:1 for the text console alone.',
        { fixes: [replace('Write video=HDMI-A-1:rotate=90', word.where, 'video=HDMI-A-1:rotate=90')] },
      ))
    }
  }
  const text = files.commandLine ?? ''
  if (files.dialect === 'key-value' && text.trim()) {
    const { secondLineAt } = parseCommandLine(text)
    if (secondLineAt !== null) {
      const second = /\r?\n[\s\S]*$/.exec(text)!
      const joined = text.slice(0, second.index).trimEnd() + ' ' + second[0].split(/\s+/).filter(Boolean).join(' ')
      findings.push(found(
        'kernel.second-line', 'stop', { file: COMMAND_FILE, line: 2, from: secondLineAt, to: text.length },
        'The command line must be one line',
        'Only the first line is read; what stands below is lost, and some loaders do not start at all. Join them.',
        { fixes: [fix('Join them with a blank', { file: COMMAND_FILE },
          { from: 0, to: text.length, insert: `${joined}\n` })] },
      ))
    }
    if (!words.some(word => word.name === 'root')) {
      findings.push(found(
        'kernel.no-root', 'stop', { file: COMMAND_FILE, line: 1, from: 0, to: Math.min(text.length, 40) },
        'The kernel is not told where the system lies',
        'There is no root= on the command line: the board stops with the message that it cannot mount its system. Take '
        + 'the line from the old file.',
      ))
    }
  }
  return findings
}

export const menuLines: LintRule = ({ files }) => {
  if (files.dialect !== 'extlinux') return []
  const lines = parseMenu(files.text)
  const labels = lines.filter(line => line.keyword === 'label').map(line => line.value!.trim())
  const findings: LintFinding[] = []
  const seen = new Map<string, number>()
  for (const line of lines) {
    if (line.kind === 'blank' || line.kind === 'comment') continue
    const where: Where = { file: '', line: line.number, from: line.from, to: line.from + line.text.length }
    const place: Where = { ...where, from: line.from + line.keywordAt!,
      to: line.from + line.keywordAt! + line.keyword!.length }
    const value: Where = { ...where, from: line.from + line.valueAt!,
      to: line.from + line.valueAt! + line.value!.length }
    if (line.kind === 'unknown') {
      const sign = /^([a-z]+)\s*=\s*(\S.*)$/i.exec(line.text.trim())
      if (sign && DIRECTIVES.has(sign[1]!.toLowerCase())) findings.push(found(
        'menu.sign', 'caution', where, 'No equals sign in a menu file',
        `Directive and value stand apart by a blank: ${sign[1]} ${sign[2]}.`,
        { fixes: [replace(`Write ${sign[1]} …`, { ...where, from: place.from }, `${sign[1]} ${sign[2]}`)] },
      ))
      else if (/^(dtparam|dtoverlay)=/.test(line.text.trim())) findings.push(found(
        'boot.wrong-dialect', 'caution', where, 'This line is of another kind of boot file',
        'A menu file knows fdtoverlays with the paths of overlays; dtparam and dtoverlay are skipped.',
        { fixes: [fix('Make it a comment', where, { from: place.from, to: place.from, insert: '#' })] },
      ))
      else {
        const near = nearest(line.keyword!, DIRECTIVES.keys())
        findings.push(found(
          'menu.directive-unknown', 'caution', place,
          near ? `"${line.keyword}" is not known: "${near}" is` : `"${line.keyword}" is no directive of a menu file`,
          'The loader skips the line.',
          { fixes: near
            ? [replace(`Write ${near}`, place, near)]
            : [fix('Make it a comment', where, { from: place.from, to: place.from, insert: '#' })] },
        ))
      }
      continue
    }
    const spec = { ...DIRECTIVES.get(line.keyword!)!, ...DIRECTIVE_WORDS[line.keyword!]! }
    if (spec.takes === 'number' && !/^\d+$/.test(line.value!.trim())) {
      findings.push(found(
        'boot.value-off', 'caution', value, `${line.keyword} wants a number`,
        `${quoted(line.value!.trim())} is none. ${spec.what}.`,
        { figures: [{ label: line.keyword!, value: line.value!.trim(), limit: 'a number',
          origin: 'published: U-Boot documentation' }] },
      ))
    }
    if (line.keyword === 'label') {
      if (labels.indexOf(line.value!.trim()) !== labels.lastIndexOf(line.value!.trim())
        && seen.has(`label ${line.value!.trim()}`)) {
        findings.push(found(
          'menu.label-twice', 'caution', where, `Two entries are called ${line.value!.trim()}`,
          'The second can never be chosen by name.',
          { fixes: [replace('Give it another name', value, `${line.value!.trim()}-2`)] },
        ))
      }
      seen.set(`label ${line.value!.trim()}`, line.number)
      continue
    }
    if (spec.inEntry && line.entry === null) {
      findings.push(found(
        'menu.outside', 'caution', where, `"${line.keyword}" stands above the first entry`,
        'It belongs to no entry and is skipped. Put it under a label.',
      ))
    }
    if ((line.keyword === 'default' || line.keyword === 'ontimeout') && !labels.includes(line.value!.trim())) {
      const near = nearest(line.value!.trim(), labels)
      findings.push(found(
        'menu.no-such-entry', 'caution', value, `There is no entry "${line.value!.trim()}"`,
        `The first entry starts instead. ${labels.length ? `Entries: ${labels.join(', ')}.` : 'There is none at all.'}`,
        { fixes: [near ?? labels[0]].flatMap(name => name ? [replace(`Write ${name}`, value, name)] : []) },
      ))
    }
    const key = `${line.entry} ${SAME_DIRECTIVE[line.keyword!] ?? line.keyword}`
    const before = seen.get(key)
    if (before !== undefined && spec.inEntry) {
      findings.push(found(
        'boot.contradicts', 'caution', where, `${line.keyword} stands twice in one entry`,
        `Line ${before} has it already; the later one `
        + `counts${line.keyword === 'fdtoverlays' ? ', and the overlays of the first are not loaded. Write them on one line' : ''}.`,
        { fixes: [line.keyword === 'fdtoverlays'
          ? joinOverlays(files, before, where, line.value!.trim())
          : dropLine('Take this line out', files, where)] },
      ))
    }
    seen.set(key, line.number)
    if (SAME_DIRECTIVE[line.keyword!] === 'fdtoverlays' || line.keyword === 'fdtoverlays') {
      if (line.value!.includes(',')) {
        findings.push(found(
          'menu.commas', 'caution', value, 'Overlays stand apart by blanks',
          'With commas the loader looks for one file of that whole name.',
          { fixes: [replace('Write blanks', value, line.value!.split(/[\s,]+/).filter(Boolean).join(' '))] },
        ))
      }
      const listed = line.value!.split(/[\s,]+/).filter(Boolean)
      for (const path of listed) if (!/\.dtbo?$/.test(path)) {
        findings.push(found(
          'menu.ending', 'caution', value, `${path} has no ending`, 'A menu file names overlays by path, with .dtbo.',
          { fixes: [replace(`Write ${path}.dtbo`, value, line.value!.replace(path, `${path}.dtbo`))] },
        ))
      }
      const twice = listed.find((path, i) => listed.indexOf(path) < i)
      if (twice) {
        findings.push(found(
          'boot.repeated', 'caution', value, `${overlayName(twice)} is loaded twice`,
          'The second time its nodes are laid over the first.',
          { fixes: [replace('Keep it once', value, [...new Set(listed)].join(' '))] },
        ))
      }
    }
    if (line.value!.trim() === '' && spec.takes === 'text') {
      findings.push(found(
        'boot.value-off', 'caution', where, `${line.keyword} says nothing`, `${spec.what}: it wants a value.`,
        { fixes: [dropLine('Take the line out', files, where)] },
      ))
    }
  }
  for (const label of new Set(labels)) {
    const own = lines.filter(line => line.entry === label)
    if (!own.some(line => line.keyword === 'kernel' || line.keyword === 'linux' || line.keyword === 'localboot')) {
      const at = own[0]!
      findings.push(found(
        'menu.no-kernel', label === startedEntry(lines) ? 'stop' : 'caution',
        { file: '', line: at.number, from: at.from, to: at.from + at.text.length },
        `The entry "${label}" names no kernel`,
        'It starts nothing. Write kernel with the path of the image.',
      ))
    }
  }
  return findings
}

function joinOverlays(files: LintContext['files'], before: number, where: Where, value: string): TextFix {
  const first = parseMenu(files.text)[before - 1]!
  const drop = dropLine('', files, where).changes
  const end = first.from + first.text.length
  return { label: 'Write them on one line', file: '', changes: [{ from: end, to: end, insert: ` ${value}` }, ...drop] }
}

export const environmentLines: LintRule = ({ files }) => {
  if (files.dialect !== 'environment') return []
  const lines = parseEnvironment(files.text)
  const findings: LintFinding[] = []
  const seen = new Map<string, typeof lines[number]>()
  for (const line of lines) {
    const where: Where = { file: '', line: line.number, from: line.from, to: line.from + line.text.length }
    if (line.kind === 'unknown') {
      const spaced = /^([a-z_0-9]+)\s*=\s*(.*)$/i.exec(line.text.trim())
      findings.push(spaced
        ? found(
            'environment.blanks', 'caution', where, 'No blanks round the equals sign',
            `The name would be ${quoted(spaced[1]! + ' ')} with its blank, and nobody reads that.`,
            { fixes: [replace(`Write ${spaced[1]}=…`, where, `${spaced[1]}=${spaced[2]}`)] },
          )
        : found(
            'boot.line-unknown', 'caution', where, `Line ${line.number} is no key=value`,
            `${quoted(line.text.trim())} stops the reading of the list on some boards. Make it a comment or `
            + 'take it out.',
            {
              fixes: [
                fix('Make it a comment', where, { from: line.from, to: line.from, insert: '#' }),
                dropLine('Take it out', files, where),
              ],
            },
          ))
      continue
    }
    if (line.kind !== 'setting') continue
    const name: Where = { ...where, from: line.from + line.nameAt!, to: line.from + line.nameAt! + line.name!.length }
    const value: Where = { ...where, from: line.from + line.valueAt!, to: line.from + line.text.length }
    if (!(line.name! in ENVIRONMENT) && !line.name!.startsWith('param_')) {
      if (line.name === 'dtparam' || line.name === 'dtoverlay') findings.push(found(
        'boot.wrong-dialect', 'caution', where, 'This line is of another kind of boot file',
        line.name === 'dtoverlay'
          ? 'Here overlays stand by name in overlays= or user_overlays=.'
          : 'Here parameters stand as param_NAME=VALUE.',
        { fixes: [fix('Make it a comment', where, { from: line.from, to: line.from, insert: '#' })] },
      ))
      else {
        const near = nearest(line.name!, Object.keys(ENVIRONMENT))
        if (near) findings.push(found(
          'boot.key-unknown', 'caution', name, `"${line.name}" is not known: "${near}" is`,
          'The start script reads only the names it knows.', { fixes: [replace(`Write ${near}`, name, near)] },
        ))
        else findings.push(found(
          'boot.key-unknown', 'note', name, `"${line.name}" is not in the library`,
          'It is kept as it is. Check its spelling.',
        ))
      }
    }
    const before = seen.get(line.name!)
    if (before) {
      const same = before.value === line.value
      const list = line.name === 'overlays' || line.name === 'user_overlays'
      const joined = [...new Set(`${before.value} ${line.value}`.split(/\s+/).filter(Boolean))].join(' ')
      findings.push(found(
        same ? 'boot.repeated' : 'boot.contradicts', same ? 'note' : 'caution', where, `${line.name} is set twice`,
        same
          ? `Line ${before.number} says the same.`
          : `Line ${before.number} is overwritten by this `
            + `one${list ? ': its overlays are not loaded. Write them on one line' : ''}.`,
        { fixes: list && !same
          ? [{
              label: 'Write them on one line', file: '',
              changes: [
                { from: value.from, to: value.to, insert: joined },
                ...dropLine('', files, { ...where, line: before.number }).changes,
              ],
            }]
          : [dropLine('Keep this one', files, { ...where, line: before.number })] },
      ))
    }
    seen.set(line.name!, line)
    if (line.name === 'overlays' || line.name === 'user_overlays') {
      if (line.value!.includes(',')) {
        findings.push(found(
          'environment.commas', 'caution', value, 'Overlays stand apart by blanks',
          'With commas the start script looks for one file of that whole name.',
          { fixes: [replace('Write blanks', value, line.value!.split(/[\s,]+/).filter(Boolean).join(' '))] },
        ))
      }
      if (/\.dtbo?(\s|$)/.test(line.value!)) {
        findings.push(found(
          'environment.ending', 'caution', value, 'Overlays stand without their ending',
          'The start script adds .dtbo itself.',
          { fixes: [replace('Take the endings off', value, line.value!.replace(/\.dtbo?(?=\s|$)/g, ''))] },
        ))
      }
      const listed = line.value!.split(/[\s,]+/).filter(Boolean)
      const twice = listed.find((entry, i) => listed.indexOf(entry) < i)
      if (twice) {
        findings.push(found(
          'boot.repeated', 'caution', value, `${twice} is loaded twice`,
          'The second time its nodes are laid over the first.',
          { fixes: [replace('Keep it once', value, [...new Set(listed)].join(' '))] },
        ))
      }
      const prefix = lines.findLast(other => other.name === 'overlay_prefix')?.value?.trim()
      const prefixed = line.name === 'overlays' && prefix
        ? listed.find(entry => entry.startsWith(`${prefix}-`))
        : undefined
      if (prefixed) {
        findings.push(found(
          'environment.prefix', 'caution', value, `${prefixed} has its prefix twice`,
          `overlay_prefix=${prefix} is put before every name in overlays: it becomes ${prefix}-${prefixed}.`,
          { fixes: [replace(`Write ${prefixed.slice(prefix!.length + 1)}`, value,
            line.value!.replaceAll(`${prefix}-`, ''))] },
        ))
      }
    }
    if (line.name === 'verbosity' && !/^[0-7]$/.test(line.value!.trim())) {
      findings.push(found(
        'boot.value-off', 'caution', value, 'verbosity goes from 0 to 7', `${quoted(line.value!)} is outside.`,
        {
          figures: [{ label: 'verbosity', value: line.value!, limit: '0 to 7', origin: 'practice' }],
          fixes: [replace('Write 1', value, '1')],
        },
      ))
    }
    if (line.name === 'console' && !/^(serial|display|both|none)$/.test(line.value!.trim())) {
      findings.push(found(
        'boot.value-off', 'caution', value, 'console is serial, display, both or none',
        `${quoted(line.value!)} is none of them.`,
        { fixes: [replace('Write both', value, 'both'), replace('Write display', value, 'display')] },
      ))
    }
  }
  return findings
}

/** In the environment list the console is a word of its own. */
export const environmentConsole: LintRule = ({ files, effective, plan }) => {
  if (files.dialect !== 'environment') return []
  const asked = effective.asked.find(entry => entry.kind === 'setting' && entry.name === 'console')
  const user = plan?.buses.get('uart0')
  if (!user || asked?.kind !== 'setting' || !/serial|both/.test(asked.value)) return []
  return [found(
    'serial.console', 'stop', asked.where, 'The console holds the serial port',
    `Messages and a login go to the serial port that ${user.names.join(', ')} uses. Send them to the display.`,
    { partIds: user.partIds, fixes: [replace('Write console=display', asked.where, 'console=display')] },
  )]
}
