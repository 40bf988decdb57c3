/**
 * Names that every object of the language carries are names like any other: nothing is found under
 * them, nothing breaks.
 */
import { describe, expect, it } from 'vitest'
import { effectiveOf } from '../../../core/boot/scope/effective'
import { explainFiles } from '../../../core/boot/explain'
import { lintBoot } from '../../../core/boot/lint'
import { overlayNamed } from '../../../core/overlays/library'
import { PLACEHOLDERS } from '../../../core/overlays/asks/placeholders'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit } from '../../../core/plan/edits'
import { catalogue, findingsOf, planOf } from '../../plans'

const NAMES = ['constructor', '__proto__', 'toString', 'hasOwnProperty', 'valueOf', 'prototype']
const board = catalogue.boards.get('forty-classic')!

describe.each(NAMES)('%s', (name) => {
  const files = [
    {
      dialect: 'key-value' as const, text: `${name}=1\ndtparam=${name}=on\ndtoverlay=${name},${name}=2\n`,
      commandLine: `${name}=1 root=/dev/x`,
    },
    { dialect: 'extlinux' as const, text: `label a\n  ${name} x\n  append ${name}=1\n` },
    { dialect: 'environment' as const, text: `${name}=1\noverlays=${name}\nparam_${name}=2\n` },
  ]

  it.each(files)('in a file of the $dialect kind is explained and linted as unknown', (file) => {
    const words = explainFiles(file, board).map(line => line.words)
    expect(words.join('\n')).not.toMatch(/native code|\[object|undefined/)
    const findings = lintBoot({ files: file, board: file.dialect === 'key-value' ? board : null })
    expect(JSON.stringify(findings)).not.toMatch(/native code|\[object|undefined/)
    expect(findings.filter(finding => /wrong-file|wrong-dialect/.test(finding.code))).toEqual([])
    expect(() => effectiveOf(file, board)).not.toThrow()
  })

  it('is no overlay, no placeholder and no binding', () => {
    expect(overlayNamed(name)).toBeUndefined()
    expect(PLACEHOLDERS[name]).toBeUndefined()
    const plan = planOf('forty-classic', { [name === '__proto__' ? 'proto' : name.toLowerCase()]: 'humidity-i2c' })
    for (const owner of gatherFacts(plan, catalogue).parts) expect(() => owner.part.kernel).not.toThrow()
    expect(() => findingsOf(plan)).not.toThrow()
  })

  it('as a limit or a figure changes nothing that exists', () => {
    const plan = planOf('forty-classic', { h: 'humidity-i2c' })
    const before = findingsOf(plan).map(finding => finding.id)
    const odd = applyEdit(plan, { edit: 'set-figure', node: '@board', figure: name, value: 3 }).plan
    expect(findingsOf(odd).map(finding => finding.id)).toEqual(before)
  })
})
