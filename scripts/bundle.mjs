// Bundles what runs outside the application: the server's worker thread, and the command.
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

const root = join(fileURLToPath(new URL('.', import.meta.url)), '..')
const common = {
  absWorkingDir: root, bundle: true, platform: 'node', format: 'esm', target: 'node20', minifySyntax: true,
  legalComments: 'none', logLevel: 'warning',
  // Packages of the older module format ask for Node's own modules by `require`.
  banner: { js: 'import { createRequire as makeRequire } from \'node:module\'; const require = '
    + 'makeRequire(import.meta.url);' },
}

/** The worker thread of the server's pool, as one file in a folder. */
export const bundleThread = folder => build(
  { ...common, entryPoints: { thread: 'server/work/thread.ts' }, outdir: folder, outExtension: { '.js': '.mjs' } },
)

/** The command, as one file that a snapshot can be taken of. */
export const bundleCommand = outfile => build({
  ...common, banner: {}, format: 'cjs', minify: true, entryPoints: ['cli/snapshot.ts'], outfile,
})

/** The simulated board at a prompt: a program beside the snapshot. */
export const bundleBoard = outfile => build({ ...common, minify: true, entryPoints: ['cli/board-main.ts'], outfile })
