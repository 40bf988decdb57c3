import { defineConfig } from '@playwright/test'

const PORT = 4187

export default defineConfig({
  testDir: 'test/e2e',
  fullyParallel: true,
  workers: 2,
  retries: 0,
  // Where nothing waits for luck, a limit only tells of a loaded machine: it is wide.
  timeout: 600_000,
  expect: { timeout: 90_000 },
  grepInvert: process.env.VOLTARIS_SCREENS === 'whole' ? undefined : /@whole/,
  use: {
    testIdAttribute: 'data-test',
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // Every test is a new browser: only those about working without a net fetch all files for later.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
        '--disable-component-update', '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node .output/server/index.mjs',
    url: `http://127.0.0.1:${PORT}/`,
    env: { PORT: String(PORT), HOST: '127.0.0.1', NODE_ENV: 'production' },
    reuseExistingServer: false,
  },
})
