import { defineConfig } from 'vitest/config'
import base from './vitest.config'

/** For `npm run mutate`: the tests that judge the mutated rooms, without the long laws over hundreds of plans. */
export default defineConfig({
  ...base,
  test: {
    ...base.test,
    isolate: false,
    include: process.env.MUTATE_TESTS?.split(',') ?? base.test?.include,
    exclude: [
      '**/node_modules/**', 'test/unit/laws.test.ts', 'test/unit/structure.test.ts', 'test/unit/cli/**', 'test/unit/database/**',
      'test/unit/stores/**', 'test/unit/devicetree/**', 'test/unit/catalogue/**', 'test/reference/**',
    ],
  },
})
