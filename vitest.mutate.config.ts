import { mergeConfig } from 'vitest/config'
import base from './vitest.config'

/** For `npm run mutate`: the tests that judge the mutated rooms, without the long laws over hundreds of plans. */
export default mergeConfig(base, {
  test: {
    exclude: ['**/node_modules/**', 'test/unit/laws.test.ts', 'test/unit/cli/**', 'test/unit/database/**', 'test/unit/stores/**', 'test/unit/devicetree/**', 'test/reference/**', 'test/unit/structure.test.ts', 'test/unit/placement/oracle*.test.ts', 'test/unit/catalogue/**'],
  },
})
