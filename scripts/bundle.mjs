#!/usr/bin/env node
// Bundles what runs outside the application: the server's worker thread and the command. `node scripts/bundle.mjs FOLDER` writes both.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

const root = join(fileURLToPath(new URL('.', import.meta.url)), '..')
const common = {
  absWorkingDir: root, bundle: true, platform: 'node', format: 'esm', target: 'node20', minifySyntax: true, legalComments: 'none', logLevel: 'warning',
  // Packages of the older module format ask for Node's own modules by `require`.
  banner: { js: 'import { createRequire as makeRequire } from \'node:module\'; const require = makeRequire(import.meta.url);' },
}

/** The worker thread of the server's pool, as one file in a folder. */
export const bundleThread = folder => build({ ...common, entryPoints: { thread: 'server/work/thread.ts' }, outdir: folder, outExtension: { '.js': '.mjs' } })

/** The command: an entry and the pieces that its verbs load when they are asked for. */
export async function bundleCommand(folder) {
  rmSync(folder, { recursive: true, force: true })
  await build({
    ...common, entryPoints: { voltaris: 'cli/index.ts' }, outdir: folder, outExtension: { '.js': '.mjs' }, splitting: true, minify: true,
  })
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await bundleThread(process.argv[2])
  await bundleCommand(join(process.argv[2], 'command'))
}
