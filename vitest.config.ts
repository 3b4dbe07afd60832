import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'
import { bundledWorkers } from './scripts/bundledWorkers'

const alias = { '~': fileURLToPath(new URL('app', import.meta.url)) }

export default defineConfig({
  test: {
    // One more than there are cores: what is sent in real time leaves its own idle.
    maxWorkers: availableParallelism() + 1,
    projects: [
      {
        plugins: [bundledWorkers()],
        test: {
          name: 'unit',
          include: ['{core,server,demo}/**/*.test.ts', 'tests/{architecture,scripts}/*.test.ts'],
          exclude: ['**/node_modules/**'],
          testTimeout: 60_000,
          // They share what they import: it holds no state, and reading it anew for every file took half the time.
          isolate: false,
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
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'database',
          // As the units: each file has a database of its own, and what they import keeps nothing of it.
          isolate: false,
          include: ['tests/database/**/*.test.ts'],
          globalSetup: ['tests/database/privateDatabase.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
})
