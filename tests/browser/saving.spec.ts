import { lineOf, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { startPrivateMariadb } from '../../scripts/mariadb'
import { expect, startStack, step, stopStack, storeShow, test, untilSaved } from './fixtures'
import { isDeep } from '../tier'
import { meant } from '../meant'

test.use({ opensOn: 'line' })

async function setHeadroom(page: Page, percent: string): Promise<void> {
  await page.getByRole('textbox', { name: 'Headroom' }).fill(percent)
  await page.keyboard.press('Enter')
}

async function secondTab(page: Page, id: string): Promise<Page> {
  const tab = await page.context().newPage()
  await tab.goto(`/shows/${id}/line`)
  await expect(tab.getByTestId('usable')).toBeVisible()
  return tab
}

const dialog = (page: Page) => page.getByRole('heading', { name: 'This show was saved elsewhere' })
/** A refused save is reported by the browser itself. */
const only412 = (problems: string[]) => {
  expect(problems.splice(0).filter((words) => !words.includes('412'))).toEqual([])
}

test('two tabs: the second writer is told, sees what differs, and keeps both edits', async ({
  page,
  demo,
  consoleProblems,
}) => {
  await step(page, 'Line').click()
  const other = await secondTab(page, demo.id)
  await setHeadroom(page, '20')
  await untilSaved(page)
  await other.getByRole('textbox', { name: 'Name of this line' }).fill('Barn fibre')
  await other.keyboard.press('Enter')
  await expect(dialog(other)).toBeVisible()
  await expect(other.getByRole('row', { name: /lines .* name/ })).toContainText('Barn fibre')
  await expect(other.getByRole('row', { name: /lines .* headroom percent/ })).toContainText('20')
  await other.getByRole('button', { name: 'Save both together as chosen' }).click()
  await untilSaved(other)
  expect(lineOf(await demo.read())).toMatchObject({ name: 'Barn fibre', headroomPercent: 20 })
  only412(consoleProblems)
})

test('two tabs on the same place: a choice, which undo leads back from', async ({
  page,
  demo,
  consoleProblems,
}) => {
  await step(page, 'Line').click()
  const other = await secondTab(page, demo.id)
  await setHeadroom(page, '20')
  await untilSaved(page)
  await setHeadroom(other, '40')
  await expect(dialog(other)).toBeVisible()
  // Closing the dialog decides nothing: the edit stays unsaved, and is said to be.
  await other.keyboard.press('Escape')
  await expect(other.getByText('Not saved: the show was changed elsewhere.')).toBeVisible()
  expect(lineOf(await demo.read()).headroomPercent).toBe(20)
  await other.getByRole('button', { name: 'Choose what to keep' }).click()
  await other.getByRole('radio').nth(1).check()
  await other.getByRole('button', { name: 'Save both together as chosen' }).click()
  await untilSaved(other)
  await expect(other.getByRole('textbox', { name: 'Headroom' })).toHaveValue('20')
  await other.getByRole('button', { name: /^Undo/ }).click()
  await untilSaved(other)
  expect(lineOf(await demo.read()).headroomPercent).toBe(40)
  only412(consoleProblems)
})

test('an edit that a closed tab had not saved is taken up again', async ({
  page,
  demo,
  consoleProblems,
}) => {
  await step(page, 'Line').click()
  await page.route('**/api/shows/**', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  )
  await setHeadroom(page, '44')
  await expect(page.getByText(/Your edit is kept in this browser/)).toBeVisible()
  await page.close()
  const again = await secondTab(page, demo.id)
  await expect(again.getByRole('textbox', { name: 'Headroom' })).toHaveValue('44')
  await untilSaved(again)
  expect(lineOf(await demo.read()).headroomPercent).toBe(44)
  expect(consoleProblems.splice(0).filter((words) => !words.includes('ERR_FAILED'))).toEqual([])
})

interface SaveAnswer {
  status: number
  revision: number
  title: string
  detail: string
}

/** The middle is the same: a kill, then saves that are refused until the database is there again. */
const saves = isDeep
  ? { all: 200, killedAt: 100, backAt: 130 }
  : { all: 30, killedAt: 10, backAt: 25 }

test('the database is killed in the middle of many saves: what was acknowledged is there, and the browser saves its edit later', async ({
  page,
  consoleProblems,
}) => {
  const stack = await startStack()
  try {
    const { address } = stack.application
    const { id } = await storeShow(address, demoShow)
    const { id: shown } = await storeShow(address, demoShow)
    page.on('request', () => consoleProblems.splice(0))
    await page.goto(`${address}/shows/${shown}/line`)
    await expect(page.getByTestId('usable')).toBeVisible()

    const save = async (revision: number, show: Show) => {
      const response = await fetch(`${address}/api/shows/${id}`, {
        method: 'PUT',
        headers: { ...meant, 'content-type': 'application/json', 'if-match': `"${revision}"` },
        body: JSON.stringify(show),
      })
      return { status: response.status, body: (await response.json()) as SaveAnswer }
    }
    const stored = async () => (await (await fetch(`${address}/api/shows/${id}`)).json()) as Show

    let revision = 1
    let acknowledgedTitle = demoShow.title
    const refusals: SaveAnswer[] = []
    let killed: Promise<void> | undefined
    for (let count = 1; count <= saves.all; count += 1) {
      if (count === saves.killedAt) setTimeout(() => (killed = stack.mariadb.kill()), 5)
      if (count === saves.backAt) {
        await killed
        await setHeadroom(page, '33')
        await expect(
          page.getByText(/Not saved yet; trying again by itself. Your edit is kept/),
        ).toBeVisible()
        const { port } = stack.mariadb
        stack.mariadb = await startPrivateMariadb({ directory: stack.directory, port })
        // The save that was on its way may have been committed without its answer; no other.
        const { title } = await stored()
        const onItsWay = `Save ${Number(acknowledgedTitle.slice(5)) + 1}`
        expect([acknowledgedTitle, onItsWay]).toContain(title)
        if (title === onItsWay) revision += 1
      }
      const title = `Save ${count}`
      const { status, body } = await save(revision, { ...demoShow, title })
      if (status === 200) {
        revision = body.revision
        acknowledgedTitle = title
      } else refusals.push({ ...body, status })
    }
    expect(refusals.length).toBeGreaterThan(0)
    expect(refusals.length).toBeLessThanOrEqual(saves.backAt - saves.killedAt)
    for (const { status, title, detail } of refusals) {
      expect({ status, title }).toEqual({ status: 503, title: 'The database does not answer' })
      expect(detail).toContain('not confirmed as saved')
    }
    expect(acknowledgedTitle).toBe(`Save ${saves.all}`)
    expect((await stored()).title).toBe(`Save ${saves.all}`)

    await untilSaved(page)
    const edited = (await (await fetch(`${address}/api/shows/${shown}`)).json()) as Show
    expect(lineOf(edited).headroomPercent).toBe(33)
  } finally {
    await page.goto('about:blank')
    consoleProblems.splice(0)
    await stopStack(stack)
  }
})

test('the server refuses what is not the application’s own', async ({ stack }) => {
  const { address } = stack.application
  const status = async (init: RequestInit, path = '/api/shows') =>
    (await fetch(address + path, init)).status
  const { id } = await storeShow(address, demoShow)
  const json = { ...meant, 'content-type': 'application/json' }
  // What was not meant to change something does not, wherever it comes from.
  expect(await status({ method: 'DELETE' }, `/api/shows/${id}`)).toBe(403)
  expect(await status({ headers: { origin: 'http://elsewhere.example' } })).toBe(403)
  expect(await status({ headers: { origin: address } })).toBe(200)
  expect(await status({ headers: { 'sec-fetch-site': 'cross-site' } })).toBe(403)
  expect(await status({ method: 'PUT', headers: json, body: '{}' }, `/api/shows/${id}`)).toBe(428)
  expect(await status({ method: 'POST', headers: json, body: '{' })).toBe(400)
  expect(
    await status({
      method: 'POST',
      headers: { ...meant, 'content-type': 'text/plain' },
      body: '{}',
    }),
  ).toBe(415)
  expect(await status({ method: 'POST', headers: json, body: ' '.repeat(4_000_001) })).toBe(413)
  expect(await status({}, '/api/shows/nobody')).toBe(404)
  expect(await status({}, '/api/nothing')).toBe(404)
  const response = await fetch(`${address}/api/shows`, {
    method: 'POST',
    headers: json,
    body: JSON.stringify({ ...demoShow, durationMinutes: 0 }),
  })
  expect(response.status).toBe(422)
  expect(response.headers.get('content-type')).toContain('application/problem+json')
  expect(await response.json()).toMatchObject({
    title: 'A show breaks its schema',
    problems: [{ place: 'durationMinutes' }],
  })
})

/** Asked in the protocol’s own words, since fetch sets the host and the length itself. */
async function answerTo(address: string, lines: readonly string[], body = ''): Promise<string> {
  const { connect } = await import('node:net')
  const { hostname, port } = new URL(address)
  return new Promise((resolve, reject) => {
    const socket = connect({ host: hostname, port: Number(port) }, () => {
      socket.write(`${lines.join('\r\n')}\r\n\r\n${body}`)
    })
    let text = ''
    socket.on('data', (chunk) => (text += chunk.toString()))
    socket.on('close', () => resolve(text))
    socket.on('error', (error) => (text === '' ? reject(error) : resolve(text)))
  })
}

test('the server refuses a host name that is not its own, and its own with another port', async ({
  stack,
}) => {
  const { address } = stack.application
  for (const host of [
    'rebound.example',
    'localhost:9',
    `127.0.0.1:${Number(new URL(address).port) + 1}`,
    'localhost',
  ])
    for (const path of ['/api/shows', '/api/accounts/start'])
      expect(
        await answerTo(address, [`GET ${path} HTTP/1.1`, `Host: ${host}`, 'Connection: close']),
      ).toMatch(/^HTTP\/1\.1 403 /)
  const own = `localhost:${new URL(address).port}`
  expect(
    await answerTo(address, ['GET /api/health HTTP/1.1', `Host: ${own}`, 'Connection: close']),
  ).toMatch(/^HTTP\/1\.1 200 /)
})
