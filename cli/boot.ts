import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { basename } from 'node:path'
import { parseArgs } from 'node:util'
import { shippedCatalogue } from '../core/catalogue'
import { filesOf } from '../core/boot/files'
import { lintBoot, planSide } from '../core/boot/lint'
import type { LintFinding } from '../core/boot/lint/types'
import { tellDialect } from '../core/boot/dialects/tell'
import { rehearse as rehearsed } from '../core/boot/rehearse/rehearse'
import { needsOf } from '../core/overlays/asks/needs'
import { mergedFile } from '../core/boot/own/file'
import { DeviceTreeError } from '../core/devicetree/types'
import { countsInWords } from '../core/findings/counts'
import { gatherFacts } from '../core/facts/gather'
import type { Board } from '../core/catalogue/types'
import { readPlanFile, UnusableInput } from './input'

/** A file's text, one letter a byte where it is no UTF-8, so that it can be written back as it was. */
function readText(file: string): { text: string, encoding: 'utf8' | 'latin1' } {
  let bytes: Buffer
  try {
    bytes = readFileSync(file === '-' ? 0 : file)
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${file} cannot be read: ${(error as Error).message}`)
  }
  if (bytes.subarray(0, 4).equals(Buffer.from([0xD0, 0x0D, 0xFE, 0xED]))) {
    throw new UnusableInput(`voltaris: ${file} is a device tree blob, no boot file. See voltaris dt.`)
  }
  const text = bytes.toString('utf8')
  return Buffer.from(text, 'utf8').equals(bytes)
    ? { text, encoding: 'utf8' }
    : { text: bytes.toString('latin1'), encoding: 'latin1' }
}

function boardNamed(id: string | undefined): Board | null {
  if (id === undefined) return null
  const board = shippedCatalogue.boards.get(id)
  if (!board) throw new UnusableInput(`voltaris: there is no board "${id}". Boards: `
    + `${[...shippedCatalogue.boards.keys()].join(', ')}.`)
  return board
}

const print = (findings: readonly LintFinding[], name: string) => {
  for (const finding of findings) {
    console.log(`${finding.file || name}:${finding.line}: ${finding.severity}  ${finding.code}  ${finding.title}`)
    console.log(`      ${finding.sentence}`)
    for (const fix of finding.fixes) console.log(`      fix: ${fix.label}`)
  }
}

/**
 * Boot files: lint, write, rehearse. 1 when there is something to mend, a line that was changed by hand, or a part that
 * stays dark; 2 for files that cannot be used.
 */
export function boot(args: string[]): number {
  let parsed
  try {
    parsed = parseArgs({ args, allowPositionals: true, options: {
      'board': { type: 'string' }, 'json': { type: 'boolean' }, 'into': { type: 'string' },
      'output': { type: 'string', short: 'o' },
      'command-line': { type: 'string' },
      'dialect': { type: 'string' }, 'plan': { type: 'string' }, 'image': { type: 'string' },
    } })
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${(error as Error).message}`)
  }
  const [verb, file, ...more] = parsed.positionals
  if (verb !== 'lint' && verb !== 'write' && verb !== 'rehearse') {
    throw new UnusableInput(`voltaris boot: ${verb ? `there is no "${verb}"` : 'say what to do'}: lint, `
      + 'write or rehearse.')
  }
  if (!file || more.length) throw new UnusableInput(`voltaris boot ${verb}: give one file.`)
  return { lint, write, rehearse }[verb](file, parsed.values)
}

interface Values {
  'board'?: string
  'json'?: boolean
  'into'?: string
  'output'?: string
  'command-line'?: string
  'dialect'?: string
  'plan'?: string
  'image'?: string
}

function lint(file: string, values: Values): number {
  const dialects = ['key-value', 'extlinux', 'environment']
  if (values.dialect !== undefined && !dialects.includes(values.dialect)) {
    throw new UnusableInput(`voltaris boot lint: --dialect is one of ${dialects.join(', ')}.`)
  }
  if (values.image !== undefined && values.image !== 'older' && values.image !== 'newer') {
    throw new UnusableInput('voltaris boot lint: --image is older or newer.')
  }
  const facts = values.plan === undefined ? null : gatherFacts(readPlanFile(values.plan), shippedCatalogue)
  const { text } = readText(file)
  const commandOnly = /cmdline/.test(basename(file))
  const files = {
    dialect: (values.dialect ?? tellDialect(text, file)) as 'key-value', text: commandOnly ? '' : text,
    ...(values['command-line'] !== undefined
      ? { commandLine: readText(values['command-line']).text }
      : commandOnly
        ? { commandLine: text }
        : {}),
    ...(file.startsWith('/boot/') && { path: file }),
  }
  const findings = lintBoot({
    files, board: boardNamed(values.board) ?? facts?.board ?? null,
    ...(values.image !== undefined && { image: values.image as 'older' }),
    ...(facts && { plan: planSide(facts) }),
  })
  if (values.json) console.log(JSON.stringify({ dialect: files.dialect, findings }, null, 2))
  else {
    print(findings, basename(file))
    const count = (severity: string) => findings.filter(finding => finding.severity === severity).length
    console.log(countsInWords(count('stop'), count('caution'), count('note')))
  }
  return findings.some(finding => finding.severity !== 'note') ? 1 : 0
}

function write(file: string, { into, output, json }: Values): number {
  const plan = readPlanFile(file)
  if (into !== undefined && into !== '-' && !existsSync(into)) {
    throw new UnusableInput(`voltaris boot write: ${into} is not there. Leave --into out to start from the plan's `
      + 'own boot file.')
  }
  const given = into === undefined ? null : readText(into)
  const withText = given ? { ...plan, boot: { ...plan.boot, text: given.text } } : plan
  const facts = gatherFacts(withText, shippedCatalogue)
  if (!facts.board) {
    throw new UnusableInput(
      `voltaris boot write: ${file} names no board${plan.board
        ? ` that the catalogue knows: "${plan.board}"`
        : ''}. The lines depend on it.`,
    )
  }
  const merged = mergedFile(facts, needsOf(facts))
  const bytes = Buffer.from(merged.text, given?.encoding ?? (plan.boot?.encoding === 'latin1' ? 'latin1' : 'utf8'))
  if (into !== undefined && into !== '-' && output === undefined && merged.text !== given!.text) {
    writeFileSync(`${into}.before`, Buffer.from(given!.text, given!.encoding))
    writeFileSync(into, bytes)
  }
  if (output !== undefined) writeFileSync(output, bytes)
  if (json) console.log(JSON.stringify(merged, null, 2))
  else if (output === undefined) process.stdout.write(bytes)
  for (const entry of merged.byHand) {
    console.error(
      `line ${entry.line} was changed by hand and is kept: ${entry.found || '(taken out)'}; the plan `
      + `would write ${entry.wanted}`,
    )
  }
  return merged.byHand.length ? 1 : 0
}

function rehearse(file: string, { json }: Values): number {
  const facts = gatherFacts(readPlanFile(file), shippedCatalogue)
  let story
  try {
    story = rehearsed(facts)
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    throw new UnusableInput(`${file}: boot.base: ${error.message}`)
  }
  if (json) console.log(JSON.stringify({ ...story, tree: undefined }, null, 2))
  else {
    for (const step of story.steps) {
      console.log(
        `${step.outcome.padEnd(7)}  `
        + `${step.line === undefined
          ? ''
          : `${step.file || filesOf(facts.plan, facts.board).path?.split('/').at(-1) || 'boot file'}:${step.line}: `}${step.title}. `
          + `${step.detail}`,
      )
    }
    for (const device of story.devices) console.log(`appears  ${device.path}  ${device.what}`)
    for (const part of story.parts) {
      console.log(`${part.state.padEnd(9)}  ${part.name}: ${part.why}${part.fix ? ` Fix: ${part.fix.label}` : ''}`)
    }
  }
  return story.parts.some(part => part.state === 'dark') ? 1 : 0
}
