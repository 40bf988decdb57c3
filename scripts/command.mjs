#!/usr/bin/env node
// Makes the command that `bin/voltaris` starts: a bundle, and the snapshot of a Node.js that has it loaded.
import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { writeCatalogueIndex } from './catalogue-index.mjs'
import { ensureRunPackages, root, run } from './setup.mjs'

ensureRunPackages()
writeCatalogueIndex()
const { bundleBoard, bundleCommand } = await import('./bundle.mjs')
const folder = join(root, 'node_modules', '.cache', 'voltaris')
mkdirSync(folder, { recursive: true })
const bundle = join(folder, `command.${process.pid}.cjs`)
const blob = join(folder, `voltaris.${process.pid}.blob`)
await bundleCommand(bundle)
const board = join(folder, `board.${process.pid}.mjs`)
await bundleBoard(board)
run(process.execPath, ['--snapshot-blob', blob, '--build-snapshot', bundle])
rmSync(bundle)
// Told apart by the Node.js it was taken of: another one cannot read it.
writeFileSync(join(folder, 'node'), process.argv[2] ?? process.execPath)
renameSync(board, join(folder, 'board.mjs'))
renameSync(blob, join(folder, 'voltaris.blob'))
