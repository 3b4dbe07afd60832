import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import AxeBuilder from '@axe-core/playwright'
import { demoShow } from '@green-mantle/demo'
import type { Show } from '@green-mantle/core/show'
import { test as base, expect, type Page } from '@playwright/test'
import { type RunningApplication, startApplication } from '../../scripts/application'
import { type PrivateMariadb, startPrivateMariadb } from '../../scripts/mariadb'

export interface Stack {
  mariadb: PrivateMariadb
  application: RunningApplication
  directory: string
  /** Everything that the application wrote. */
  output: string[]
}

/** A database of its own and the production build on it. */
export async function startStack(): Promise<Stack> {
  const directory = mkdtempSync(join(tmpdir(), 'green-mantle-e2e-'))
  const mariadb = await startPrivateMariadb({ directory, firstPort: 4400 })
  const output: string[] = []
  const application = await startApplication({
    databaseUrl: mariadb.url,
    port: 4500,
    keyFile: join(directory, 'installation.key'),
    onOutput: (text) => {
      output.push(text)
      // What went wrong in the application is seen beside the test that met it.
      if (/^A request failed/m.test(text)) process.stderr.write(text)
    },
  })
  return { mariadb, application, directory, output }
}

export async function stopStack({ mariadb, application, directory }: Stack): Promise<void> {
  await application.stop()
  await mariadb.stop()
  rmSync(directory, { recursive: true, force: true })
}

export interface StoredShow {
  id: string
  read(): Promise<Show>
}

/** Stores a show over HTTP, as another tab would. */
export async function storeShow(address: string, show: Show): Promise<StoredShow> {
  const response = await fetch(`${address}/api/shows`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(show),
  })
  const { id } = (await response.json()) as { id: string }
  return {
    id,
    read: async () => (await fetch(`${address}/api/shows/${id}`)).json() as Promise<Show>,
  }
}

interface Fixtures {
  /** A fresh copy of the demo, opened on Canvases. */
  demo: StoredShow
  /** Problems that the console showed; expected ones are taken out by the test. */
  consoleProblems: string[]
}
interface WorkerFixtures {
  stack: Stack
}

export const test = base.extend<Fixtures, WorkerFixtures>({
  stack: [
    async ({}, use) => {
      const stack = await startStack()
      await use(stack)
      await stopStack(stack)
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ stack }, use) => use(stack.application.address),
  consoleProblems: [
    async ({ page, stack }, use) => {
      const problems: string[] = []
      page.on('console', (message) => {
        if (['error', 'warning'].includes(message.type())) problems.push(message.text())
      })
      // Asked for from the start: asked for only when a key is pressed, it can come too late.
      page.on('filechooser', () => {})
      page.on('pageerror', (error) => problems.push(error.message))
      page.on('request', (request) => {
        const url = new URL(request.url())
        const isOurs =
          url.origin === stack.application.address || ['data:', 'blob:'].includes(url.protocol)
        if (!isOurs) problems.push(`request off the machine: ${request.url()}`)
      })
      await use(problems)
      expect(problems).toEqual([])
    },
    { auto: true },
  ],
  demo: async ({ page, stack }, use) => {
    const stored = await storeShow(stack.application.address, demoShow)
    await page.goto(`/shows/${stored.id}/canvases`)
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(demoShow.title)
    await use(stored)
  },
})
export { expect }

export const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name })

/** Waits until the server has acknowledged everything. */
export async function untilSaved(page: Page): Promise<void> {
  await expect(page.getByText(/saved just now/)).toBeVisible({ timeout: 15_000 })
}

export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze()
  expect(
    violations.map(
      ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`,
    ),
  ).toEqual([])
}
