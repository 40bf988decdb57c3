// `npm run mutate`: changes the judging rooms of the core one small step at a time, and counts the changes that no
// test notices. Not a part of `npm test`: it takes hours on a small machine. `npm run mutate -- --mutate
// 'core/netlist/**/*.ts'` takes one room, and MUTATE_TESTS='test/unit/netlist/**,test/unit/findings/**' only the
// tests named.
export default {
  packageManager: 'npm',
  testRunner: 'vitest',
  plugins: ['@stryker-mutator/vitest-runner'],
  vitest: { configFile: 'vitest.mutate.config.ts', related: true },
  mutate: ['core/findings/**/*.ts', 'core/netlist/**/*.ts', 'core/placement/**/*.ts', 'core/power/**/*.ts',
    'core/boot/lint/**/*.ts'],
  // Words and prices are read by people, not by tests.
  mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral'] },
  coverageAnalysis: 'perTest',
  // Tables read once at the start would need a run of their own each.
  ignoreStatic: true,
  ignorePatterns: ['.output', '.nuxt', 'test-results', 'docs/screenshots'],
  incremental: true,
  incrementalFile: '.mutation/incremental.json',
  tempDirName: '.mutation/sandbox',
  reporters: ['clear-text', 'progress', 'json'],
  clearTextReporter: { allowColor: false, reportTests: false, logTests: false },
  jsonReporter: { fileName: '.mutation/report.json' },
  thresholds: { high: 80, low: 70, break: null },
  timeoutMS: 20_000,
  dryRunTimeoutMinutes: 30,
}
