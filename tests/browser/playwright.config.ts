import { availableParallelism } from 'node:os'
import { defineConfig } from '@playwright/test'
import { isDeep } from '../tier'
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
  projects: [
    { name: 'pages', grepInvert: isDeep ? /@real-time/ : /@real-time|@deep/ },
    {
      name: 'real time',
      grep: /@real-time/,
      grepInvert: isDeep ? /(?!)/ : /@deep/,
      // What is sent and measured in real time has nothing beside it.
      workers: 1,
      // A computer that is shared may stop for seconds: what passes when it is tried again is told, not failed.
      retries: 1,
    },
  ],
  // Any test may run beside any other: each makes what it needs, in its worker's own database.
  fullyParallel: true,
  // One more than two cores, since a page that waits for an answer leaves its own idle.
  workers: Math.min(3, availableParallelism() + 1),
  // The limits only end what hangs; what is slow is told after a run.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  reporter: process.env.CI
    ? [['line'], ['./countReporter.ts']]
    : [['list'], ['./countReporter.ts']],
  use: {
    actionTimeout: 120_000,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: chromiumPath,
      args: chromiumArguments,
    },
  },
})
