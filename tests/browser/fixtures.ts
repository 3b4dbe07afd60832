import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { demoShow } from '@green-mantle/demo'
import type { Show } from '@green-mantle/core/show'
import {
  test as base,
  type BrowserContext,
  type BrowserContextOptions,
  devices,
  expect,
  type Page,
} from '@playwright/test'
import axe from 'axe-core'
import { type RunningApplication, startApplication } from '../../scripts/application'
import { type PrivateMariadb, startPrivateMariadb } from '../../scripts/mariadb'
import { connect } from '../../server/database/connection'
import { familySeconds, noteCost } from '../processorSeconds'
import { meant } from '../meant'

export interface Stack {
  application: RunningApplication
  databaseUrl: string
  directory: string
  /** Everything that the application wrote. */
  output: string[]
}
/** With a database server that is nobody else's, which may be ended and started again. */
export interface OwnStack extends Stack {
  mariadb: PrivateMariadb
}

const ownDirectory = (): string => mkdtempSync(join(tmpdir(), 'green-mantle-e2e-'))

async function startOn(
  databaseUrl: string,
  directory: string,
  port: number,
  databaseFolder?: string,
): Promise<Stack> {
  const output: string[] = []
  const application = await startApplication({
    databaseUrl,
    databaseFolder,
    port,
    keyFile: join(directory, 'installation.key'),
    recordingsFolder: join(directory, 'recordings'),
    onOutput: (text) => {
      output.push(text)
      // What went wrong in the application is seen beside the test that met it.
      if (/^A request failed/m.test(text)) process.stderr.write(text)
    },
  })
  return { application, databaseUrl, directory, output }
}

/** A database server of its own and the production build on it. */
export async function startStack(): Promise<OwnStack> {
  const directory = ownDirectory()
  const mariadb = await startPrivateMariadb({ directory, firstPort: 4450 })
  return { ...(await startOn(mariadb.url, directory, 4500, mariadb.folder)), mariadb }
}

/** The application of a stack is killed without a word and started again on what is there. */
export async function killAndStartAgain(stack: Stack): Promise<void> {
  const { process: child, address } = stack.application
  child.kill('SIGKILL')
  await new Promise((resolve) => child.once('exit', resolve))
  const { application } = await startOn(
    stack.databaseUrl,
    stack.directory,
    Number(new URL(address).port),
  )
  stack.application = application
}

export async function stopStack({ mariadb, ...stack }: OwnStack): Promise<void> {
  await stack.application.stop()
  await mariadb.stop()
  rmSync(stack.directory, { recursive: true, force: true })
}

/** A database of a worker's own on the server that all share, and the production build on it. */
async function startSharing(worker: number): Promise<Stack> {
  const server = process.env.GREEN_MANTLE_TEST_DATABASE_SERVER ?? ''
  const name = `green_mantle_worker_${worker}`
  const database = connect(`${server}information_schema`)
  await database.raw(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`)
  await database.destroy()
  return startOn(server + name, ownDirectory(), 4520 + 10 * (worker % 50))
}

export interface StoredShow {
  id: string
  read(): Promise<Show>
}

/** Stores a show over HTTP, as another tab would. */
export async function storeShow(address: string, show: Show): Promise<StoredShow> {
  const response = await fetch(`${address}/api/shows`, {
    method: 'POST',
    headers: { ...meant, 'content-type': 'application/json' },
    body: JSON.stringify(show),
  })
  if (!response.ok) throw new Error(`The show was not stored: ${await response.text()}`)
  const { id } = (await response.json()) as { id: string }
  return {
    id,
    read: async () => (await fetch(`${address}/api/shows/${id}`)).json() as Promise<Show>,
  }
}

interface Fixtures {
  /** The step on which the demo is opened; Canvases costs most to draw. */
  opensOn: 'canvases' | 'sound' | 'line' | 'destinations' | 'fit' | 'rehearse' | 'run-sheet'
  /** For a test that has to be the first in its browser context, or does to it what cannot be undone. */
  ownContext: boolean
  /** A fresh copy of the demo, opened. */
  demo: StoredShow
  /** Tells what the test used of the processor, its browser and server included. */
  cost: void
  /** Problems that the console showed; expected ones are taken out by the test. */
  consoleProblems: string[]
}
interface WorkerFixtures {
  stack: Stack
  /** What all tests of a worker open their pages in, one after the other. */
  sharedContext: BrowserContext
  /** The page that one test leaves to the next, once there is one. */
  sharedPage: { page?: Page }
}

const { defaultBrowserType: _, ...desktop } = devices['Desktop Chrome']
const viewport = { width: 1280, height: 800 }
const contextOptions: BrowserContextOptions = {
  ...desktop,
  viewport,
  locale: 'en-GB',
  timezoneId: 'Europe/London',
}

/** Leaves nothing of a test behind but a page, and what the browser has read and compiled of the application. */
async function cleanUp(context: BrowserContext, page: Page, address: string): Promise<void> {
  const origins = new Set([address, ...context.pages().map((each) => new URL(each.url()).origin)])
  for (const other of context.pages()) if (other !== page) await other.close()
  await context.setOffline(false)
  await context.clearPermissions()
  await context.clearCookies()
  const session = await context.newCDPSession(page)
  for (const origin of origins)
    if (origin !== 'null')
      await session.send('Storage.clearDataForOrigin', {
        origin,
        storageTypes: 'cookies,file_systems,indexeddb,local_storage,service_workers',
      })
  await session.detach()
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await page.emulateMedia({ colorScheme: null, media: null })
  await page.setViewportSize(viewport)
}

export const test = base.extend<Fixtures, WorkerFixtures>({
  stack: [
    async ({}, use, { workerIndex }) => {
      const stack = await startSharing(workerIndex)
      await use(stack)
      await stack.application.stop()
      rmSync(stack.directory, { recursive: true, force: true })
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ stack }, use) => use(stack.application.address),
  // Reading and compiling the scripts anew for every test takes a quarter of the whole.
  sharedContext: [
    async ({ browser, stack }, use) => {
      const baseURL = stack.application.address
      const context = await browser.newContext({ ...contextOptions, baseURL })
      await use(context)
      await context.close()
    },
    { scope: 'worker' },
  ],
  // So does what a page that was left has in its memory: the next one is opened in place of it.
  sharedPage: [async ({}, use) => use({}), { scope: 'worker' }],
  ownContext: [false, { option: true }],
  context: async ({ browser, sharedContext, stack, ownContext }, use) => {
    const baseURL = stack.application.address
    if (!ownContext) return use(sharedContext)
    const context = await browser.newContext({ ...contextOptions, baseURL })
    await use(context)
    await context.close()
  },
  page: async ({ context, sharedPage, stack, ownContext }, use) => {
    if (ownContext) return use(await context.newPage())
    sharedPage.page ??= await context.newPage()
    await use(sharedPage.page)
    if (sharedPage.page.isClosed()) sharedPage.page = await context.newPage()
    await cleanUp(context, sharedPage.page, stack.application.address)
  },
  cost: [
    async ({}, use, { file }) => {
      const before = familySeconds()
      await use()
      noteCost(file, familySeconds() - before)
    },
    { auto: true },
  ],
  consoleProblems: [
    async ({ page, stack }, use) => {
      const problems: string[] = []
      let isOpened = false
      const note = (problem: string): void => {
        // What the page says that another test left is nothing of this one's.
        if (isOpened) problems.push(problem)
      }
      page.on('framenavigated', () => (isOpened = true))
      page.on('console', (message) => {
        if (['error', 'warning'].includes(message.type())) note(message.text())
      })
      // Asked for from the start: asked for only when a key is pressed, it can come too late.
      page.on('filechooser', () => {})
      page.on('pageerror', (error) => note(error.message))
      page.on('request', (request) => {
        const url = new URL(request.url())
        const isOurs =
          url.origin === stack.application.address || ['data:', 'blob:'].includes(url.protocol)
        if (!isOurs) note(`request off the machine: ${request.url()}`)
      })
      await use(problems)
      for (const event of ['framenavigated', 'console', 'filechooser', 'pageerror', 'request'])
        page.removeAllListeners(event)
      expect(problems).toEqual([])
    },
    { auto: true },
  ],
  opensOn: ['canvases', { option: true }],
  demo: async ({ page, stack, opensOn }, use) => {
    const stored = await storeShow(stack.application.address, demoShow)
    await page.goto(`/shows/${stored.id}/${opensOn}`)
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(demoShow.title)
    await use(stored)
  },
})
export { expect }

export const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name })

/** Waits until the server has acknowledged everything; after a minute the note tells the hour. */
export async function untilSaved(page: Page): Promise<void> {
  await expect(page.getByText(/^saved (just now|at \d\d:\d\d)$/)).toBeVisible()
}

const wcag22aa = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

/** By all rules of WCAG 2.2 AA that can be checked by themselves, or by some of them. */
export async function expectAccessible(page: Page, rules?: string[]): Promise<void> {
  // Reading the checker anew for every look at a page took as long as the look.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  const violations = await page.evaluate(
    async (options) =>
      (await (window as unknown as { axe: typeof axe }).axe.run(options)).violations,
    {
      runOnly: rules
        ? { type: 'rule' as const, values: rules }
        : { type: 'tag' as const, values: wcag22aa },
      // What is told of the thousands of elements that break no rule costs most of the time.
      resultTypes: ['violations' as const],
    },
  )
  expect(
    violations.map(
      ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`,
    ),
  ).toEqual([])
}
