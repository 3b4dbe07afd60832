import { ESLint } from 'eslint'
import { describe, expect, it } from 'vitest'

const eslint = new ESLint()

async function rulesBroken(filePath: string, code: string): Promise<(string | null)[]> {
  const [result] = await eslint.lintText(code, { filePath })
  return (result?.messages ?? []).map(({ ruleId }) => ruleId)
}
const asComponent = (code: string): string =>
  `<script setup lang="ts">\n${code}\n</script>\n\n<template><p>Hello</p></template>\n`

describe('imports go one way', () => {
  it.each([
    ['core/fit/budget.ts', "import { ref } from 'vue'\nexport const a = ref\n"],
    [
      'core/fit/budget.ts',
      "import { readFileSync } from 'node:fs'\nexport const a = readFileSync\n",
    ],
    [
      'core/fit/budget.ts',
      "import { demoShow } from '@green-mantle/demo'\nexport const a = demoShow\n",
    ],
    ['core/fit/budget.ts', "import { a } from '../../app/stores/show'\nexport const b = a\n"],
    [
      'app/stores/show.ts',
      "import { connect } from '../../server/database/connection'\nexport const a = connect\n",
    ],
    [
      'app/components/home/ShowCard.vue',
      asComponent("import { connect } from '../../../server/database/connection'\nconnect('')"),
    ],
    ['app/components/home/ShowCard.vue', asComponent("import knex from 'knex'\nknex({})")],
    [
      'server/http/problem.ts',
      "import { useShowStore } from '../../app/stores/show'\nexport const a = useShowStore\n",
    ],
    ['core/words/names.ts', "import { budgetOf } from '../fit'\nexport const a = budgetOf\n"],
    [
      'core/plan/search/solve.ts',
      "import { readShowFile } from '../../formats'\nexport const a = readShowFile\n",
    ],
    ['core/show/show.ts', "import type { Pin } from '../words/names'\nexport type A = Pin\n"],
    ['demo/show.ts', "import { readFileSync } from 'node:fs'\nexport const a = readFileSync\n"],
  ])('catches a forbidden one in %s', async (file, code) => {
    expect(await rulesBroken(file, code)).toContain('no-restricted-imports')
  })

  it.each([
    [
      'app/stores/show.ts',
      "import { verdictOf } from '@green-mantle/core/fit'\nexport const a = verdictOf\n",
    ],
    [
      'server/shows/summary.ts',
      "import { verdictOf } from '@green-mantle/core/fit'\nexport const a = verdictOf\n",
    ],
  ])('lets %s call the core', async (file, code) => {
    expect(await rulesBroken(file, code)).not.toContain('no-restricted-imports')
  })
})
