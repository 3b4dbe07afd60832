import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'
import { bundledWorkers } from './scripts/bundledWorkers'

const alias = { '~': fileURLToPath(new URL('app', import.meta.url)) }

// What is slow is told after a run, not failed: the limits only end what hangs.
const limits = { testTimeout: 600_000, hookTimeout: 600_000 }
const setupFiles = ['tests/propertySetup.ts', 'tests/costSetup.ts']
const realTime = '**/*.realtime.test.ts'

export default defineConfig({
  test: {
    maxWorkers: availableParallelism(),
    projects: [
      {
        plugins: [bundledWorkers()],
        test: {
          name: 'unit',
          include: ['{core,server,demo}/**/*.test.ts', 'tests/{architecture,scripts}/*.test.ts'],
          exclude: ['**/node_modules/**', realTime],
          ...limits,
          setupFiles,
          // They share what they import: it holds no state, and reading it anew for every file took half the time.
          isolate: false,
        },
      },
      {
        plugins: [bundledWorkers()],
        test: {
          name: 'real time',
          include: [realTime],
          exclude: ['**/node_modules/**'],
          ...limits,
          setupFiles,
          isolate: false,
          // What is sent in real time has nothing beside it.
          fileParallelism: false,
          // A computer that is shared may stop for seconds: what passes when it is tried again is told, not failed.
          retry: 1,
          sequence: { groupOrder: 1 },
        },
      },
      {
        resolve: { alias },
        plugins: [vue()],
        test: {
          name: 'app',
          include: ['tests/app/*.test.ts'],
          environment: 'happy-dom',
          // Making the environment anew in a process for each file took more than the tests.
          pool: 'vmThreads',
          ...limits,
          setupFiles,
        },
      },
      {
        test: {
          name: 'database',
          // As the units: each file has a database of its own, and what they import keeps nothing of it.
          isolate: false,
          include: ['tests/database/**/*.test.ts'],
          globalSetup: ['tests/database/privateDatabase.ts'],
          // As in real time: what passes when it is tried again is told, not failed.
          retry: 1,
          ...limits,
          setupFiles,
        },
      },
    ],
  },
})
