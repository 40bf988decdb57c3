import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import Imports from 'unimport/unplugin'
import { defineConfig } from 'vitest/config'
// @ts-expect-error A script without types.
import { writeCatalogueIndex } from './scripts/catalogue-index.mjs'

writeCatalogueIndex()

const root = fileURLToPath(new URL('.', import.meta.url))

export default defineConfig({
  // Shared controls are tried by themselves: what the framework imports for them is imported here.
  plugins: [vue(), Imports.vite({ presets: ['vue'], include: [/app\/shared\/.*\.vue/], dirs: [] })],
  resolve: { alias: { '~~': root, '~': `${root}app` } },
  test: {
    include: ['test/unit/**/*.test.ts', 'test/reference/**/*.test.ts'],
    setupFiles: ['test/setup.ts'],
    // The core has no state of its own, and modules are read once for all files of a worker: a fifth less time.
    isolate: false,
    // One for each of two cores: by itself it leaves one of them idle.
    maxWorkers: 2,
    // A law ends by its count, not by a clock: a loaded machine is slow, not wrong. What hangs is ended by CI.
    testTimeout: 900_000, hookTimeout: 900_000,
    server: { deps: { inline: ['vuetify'] } },
  },
})
