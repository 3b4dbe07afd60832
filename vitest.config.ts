import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'core/**/*.test.ts',
            'server/**/*.test.ts',
            'demo/**/*.test.ts',
            'tests/architecture/*.test.ts',
            'tests/scripts/*.test.ts',
          ],
          exclude: ['**/node_modules/**'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'database',
          include: ['tests/database/**/*.test.ts'],
          globalSetup: ['tests/database/privateDatabase.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
})
