import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const root = fileURLToPath(new URL('.', import.meta.url))

export default defineConfig({
  resolve: { alias: { '~~': root, '~': `${root}app` } },
  test: { include: [
    'test/unit/**/*.test.ts', 'test/reference/**/*.test.ts',
  ], setupFiles: ['test/setup.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
})
