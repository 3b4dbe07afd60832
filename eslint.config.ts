import type { Linter } from 'eslint'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

const forbid = (
  files: string[],
  patterns: { group: string[]; message: string }[],
): Linter.Config => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns }] },
})

const node = ['node:*', 'fs', 'path', 'crypto', 'http', 'child_process']
const appOnly = ['~/*', '**/app/**', 'vue', 'pinia', '#app', '#imports', '#components', 'konva']
const serverOnly = ['**/server/**', 'knex', 'mysql2', 'h3', 'nitropack/*']

/** Which other rooms each room of the core may stand on; docs/architecture.md says what they hold. */
const roomsBelow = {
  show: [],
  words: ['show'],
  media: ['show'],
  network: ['show'],
  picture: ['show'],
  sound: ['show', 'words'],
  canvas: ['show', 'media'],
  svg: ['show', 'canvas'],
  matching: ['show', 'canvas'],
  destinations: ['show', 'words', 'media'],
  fit: ['show', 'words', 'media', 'network'],
  plan: ['show', 'words', 'media', 'network', 'fit'],
  simulation: ['show', 'words', 'media', 'network', 'fit'],
  rehearsal: ['show', 'words', 'media', 'network', 'fit', 'plan', 'simulation'],
  encoding: ['show', 'media', 'fit'],
  measured: ['show', 'media'],
  onAir: ['show', 'words', 'encoding'],
  trial: ['show', 'words', 'media', 'network', 'fit', 'encoding', 'arrival'],
  arrival: ['show', 'words', 'media', 'fit'],
  night: [
    'show',
    'words',
    'media',
    'network',
    'canvas',
    'sound',
    'destinations',
    'fit',
    'measured',
    'simulation',
    'rehearsal',
  ],
  formats: [
    'show',
    'words',
    'media',
    'network',
    'fit',
    'plan',
    'destinations',
    'simulation',
    'encoding',
    'night',
  ],
  marks: ['show', 'words', 'network', 'fit', 'plan', 'destinations', 'sound', 'rehearsal', 'night'],
} as const
const rooms = Object.keys(roomsBelow) as (keyof typeof roomsBelow)[]

const nothingOutside = {
  group: [...node, ...appOnly, ...serverOnly, '@green-mantle/*'],
  message:
    'The core computes only: no interface, database or Node code, and nothing of ours outside it.',
}

/**
 * Later ones replace earlier ones for the same file, so each room's holds what all of the core keeps
 * to. In a folder of a room one step up is still that room.
 */
const roomOrder: Linter.Config[] = rooms.flatMap((room) => {
  const allowed: readonly string[] = roomsBelow[room]
  const above = rooms.filter((other) => other !== room && !allowed.includes(other))
  const keptBelow = (files: string, waysUp: string): Linter.Config => ({
    files: [files],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            nothingOutside,
            {
              regex: `^${waysUp}(${above.join('|')})(/|$)`,
              message: `core/${room} stands on ${allowed.join(', ') || 'no other room'} only.`,
            },
          ],
        },
      ],
    },
  })
  return [
    keptBelow(`core/${room}/*.ts`, '(\\.\\./)+'),
    keptBelow(`core/${room}/*/**/*.ts`, '(\\.\\./){2,}'),
  ]
})

/** Imports go one way: app and server → core; the app never reaches into the server. */
const oneWayImports: Linter.Config[] = [
  forbid(['core/**/*.ts'], [nothingOutside]),
  ...roomOrder,
  forbid(
    ['app/**/*.{ts,vue}'],
    [
      {
        group: [...node, ...serverOnly, '**/scripts/**'],
        message: 'The app never imports the server; it asks it over HTTP.',
      },
    ],
  ),
  forbid(
    ['server/**/*.ts'],
    [{ group: [...appOnly, '**/scripts/**'], message: 'The server never imports the app.' }],
  ),
  forbid(
    ['demo/**/*.ts'],
    [{ group: [...node, ...appOnly, ...serverOnly], message: 'The demo is data over the core.' }],
  ),
]

export default [
  { ignores: ['.nuxt/**', '.output/**', '.data/**', 'node_modules/**', 'test-results/**'] },
  ...tseslint.configs.strict,
  ...tseslint.configs.stylistic,
  // What has no component in it has nothing for these rules, and two of them are dear everywhere.
  ...vue.configs['flat/recommended'].map((config): Linter.Config => ({
    files: ['app/**/*.{ts,vue}'],
    ...config,
  })),
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/no-empty-function': 'off',
      'vue/multi-word-component-names': 'off',
      'no-console': ['error', { allow: ['error', 'warn'] }],
      'max-lines': ['error', { max: 420, skipBlankLines: true, skipComments: true }],
    },
  },
  ...oneWayImports,
  {
    files: [
      '**/*.test.ts',
      '**/testShows.ts',
      'core/plan/tests/*.ts',
      'tests/**/*.ts',
      'bench/**/*.ts',
    ],
    rules: {
      'no-restricted-imports': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
  {
    // The search reads arrays side by side by index in its innermost loops, and what is said of its
    // plans follows its numbers.
    files: [
      'core/plan/{problem,search,tests}/**/*.ts',
      'core/plan/advice/{nextStep,obstacles}.ts',
      'core/plan/showPlan.ts',
    ],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
  { files: ['scripts/**', 'bench/**'], rules: { 'no-console': 'off' } },
  prettier,
] as Linter.Config[]
