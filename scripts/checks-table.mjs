#!/usr/bin/env node
// Lists every check against something outside the project, with its source: docs/checks.md.
// A test fails where the list is not that of the tests.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { root } from './setup.mjs'

const SOURCE = /\/\/\s*((?:.*?)\b(published|reference program|reference library|textbook|open data)\b.*)$/
const HEAD = /Debian|reference program|reference library|ngspice|second opinion|published by/
const TITLE = /^\s*(?:describe|it|test)(?:\.\w+)*(?:\(.*?\))?(?:\.\w+\(.*?\))*\(\s*(['"`])((?:\\.|(?!\1).)*)\1/

const filesOf = folder => readdirSync(folder, { withFileTypes: true }).flatMap(entry => entry.isDirectory()
  ? filesOf(join(folder, entry.name))
  : /\.test\.ts$/.test(entry.name) ? [join(folder, entry.name)] : [])

const cell = text => text.replace(/\\(['"`])/g, '$1').replaceAll('|', '\\|').trim()

/** Rows of one file: what is checked, and by which source. */
function rowsOf(file) {
  let title = ''
  const lines = readFileSync(file, 'utf8').split('\n')
  // What a whole file is held against stands in its first words.
  const [, head = ''] = /^\/\*\*(.*?)\*\//s.exec(lines.slice(0, 8).join(' ').replace(/ \* /g, ' ')) ?? []
  const whole = HEAD.test(head) ? [{ title: 'the whole file', source: cell(head.replace(/\s+/g, ' ')) }] : []
  return [...whole, ...lines.flatMap((line) => {
    const named = TITLE.exec(line) ?? /^\s*\]?\)?\(?(['"`])((?:\\.|(?!\1).)+)\1, (?:async )?\(.*=> \{$/.exec(line)
    if (named) title = named[2]
    const source = SOURCE.exec(line)
    return source ? [{ title: cell(title), source: cell(source[1]) }] : []
  })]
}

/** The document as it should be. */
export function checksTable() {
  const files = filesOf(join(root, 'test')).sort()
  const parts = files.map(file => ({ file: relative(root, file), rows: rowsOf(file) })).filter(part => part.rows.length)
  const count = parts.reduce((sum, part) => sum + part.rows.length, 0)
  return [
    '# Checks against something outside', '',
    'Every check of the tests that holds Voltaris against a standard, a textbook\'s formula, a program or a '
    + 'library that is not ours, with its source as it stands beside the check. `node scripts/checks-table.mjs` '
    + 'writes this list; a test holds it to the tests. What is common practice or comes from memory says so there '
    + 'and is not listed.', '',
    `${count} checks in ${parts.length} files.`, '',
    ...parts.flatMap(({ file, rows }) => [
      `## ${file}`, '', '| what | source |', '|---|---|',
      ...rows.map(({ title, source }) => `| ${title} | ${source} |`), '',
    ]),
  ].join('\n')
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(join(root, 'docs', 'checks.md'), checksTable())
