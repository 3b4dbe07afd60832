import { availableParallelism } from 'node:os'
import { defineConfig } from '@playwright/test'
import { findProgram } from '../../server/programs/systemPrograms'

export const chromiumPath =
  findProgram('chromium-headless-shell') ?? '/usr/bin/chromium-headless-shell'

/** What a root user in a closed network needs of Debian's Chromium. */
export const chromiumArguments = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // A camera of the browser's own making, allowed without asking.
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
]

export default defineConfig({
  testDir: '.',
  outputDir: '../../test-results',
  globalSetup: './globalSetup.ts',
  // Any test may run beside any other: each makes what it needs, in its worker's own database.
  fullyParallel: true,
  // One more than two cores, since a page that waits for an answer leaves its own idle.
  workers: Math.min(3, availableParallelism() + 1),
  timeout: 90_000,
  // On a machine three times as slow nothing has to fail.
  expect: { timeout: 15_000 },
  reporter: process.env.CI
    ? [['line'], ['./countReporter.ts']]
    : [['list'], ['./countReporter.ts']],
  use: {
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: chromiumPath,
      args: chromiumArguments,
    },
  },
})
