import { statSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { connect } from '../../server/database/connection'
import { expect, step, test, untilSaved } from './fixtures'
import { meant } from '../meant'

test.use({ opensOn: 'destinations' })

const known = 'live_77aa_the-flower-opens-once'

/** All that the page holds: markup, values of fields, what the browser keeps. */
const pageInFull = (page: Page): Promise<string> =>
  page.evaluate(() =>
    [
      document.documentElement.outerHTML,
      ...[...document.querySelectorAll('input, textarea')].map(
        (field) => (field as HTMLInputElement).value,
      ),
      JSON.stringify(localStorage),
      JSON.stringify(sessionStorage),
      location.href,
    ].join(' '),
  )

test('a key is in no page, answer, export, address or log', async ({ page, demo, stack }) => {
  const answers: Promise<string>[] = []
  const addresses: string[] = []
  page.on('response', (response) => {
    addresses.push(response.url())
    // Those to what the page sends are asked for again below.
    if (response.url().includes('/api/') && response.request().method() === 'GET')
      answers.push(response.text().catch(() => ''))
  })
  await step(page, 'Destinations').click()
  await page.getByLabel('Paste the key').fill(known)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByTestId('key-state')).toContainText('lasting key, pasted just now')
  await page.getByRole('textbox', { name: 'Note', exact: true }).fill('seen')
  await page.keyboard.press('Enter')
  await untilSaved(page)

  const downloads: string[] = []
  for (const label of ['Save the show as a file', 'Save the settings sheet']) {
    const download = page.waitForEvent('download')
    await page.keyboard.press('Control+k')
    await expect(page.getByRole('combobox', { name: 'A step, source, scene' })).toBeFocused()
    await page.getByRole('combobox').fill(label)
    await page.keyboard.press('Enter')
    const stream = await (await download).createReadStream()
    downloads.push(Buffer.concat(await stream.toArray()).toString())
  }
  const paths = [
    '',
    '/api/shows',
    `/api/shows/${demo.id}`,
    `/api/shows/${demo.id}/keys`,
    '/api/lines',
    '/api/profiles',
  ]
  const asked = await Promise.all(
    paths.map(async (path) => (await fetch(`${stack.application.address}${path}`)).text()),
  )
  // A request that is refused says what is wrong without saying it back.
  const keyAddress = `${stack.application.address}/api/shows/${demo.id}/keys/longmeadow`
  const put = async (body: string) => {
    const headers = { ...meant, 'content-type': 'application/json' }
    const response = await fetch(keyAddress, { method: 'PUT', headers, body })
    return { status: response.status, text: await response.text() }
  }
  const refused = await put(JSON.stringify({ key: `${known} with spaces`, more: known }))
  expect(refused.status).toBe(422)
  const broken = await put(`{"key": "${known}"`)
  expect(broken.status).toBe(400)
  const taken = await put(JSON.stringify({ key: known }))
  expect(taken.status).toBe(204)
  const everything = [
    await pageInFull(page),
    ...(await Promise.all(answers)),
    ...addresses,
    ...downloads,
    ...asked,
    refused.text,
    broken.text,
    taken.text,
    stack.output.join(''),
  ]
  for (const text of everything)
    expect(text.includes(known) || text.includes(encodeURIComponent(known))).toBe(false)

  const revealed = await fetch(`${keyAddress}/reveal`, { method: 'POST', headers: meant })
  expect(await revealed.json()).toEqual({ key: known })
  expect(revealed.headers.get('cache-control')).toBe('no-store')
  expect(statSync(join(stack.directory, 'installation.key')).mode & 0o777).toBe(0o600)
})

test('a stored key that was altered is said to be damaged, and pasted again', async ({
  page,
  demo,
  stack,
}) => {
  const keys = `/api/shows/${demo.id}/keys`
  await page.request.put(`${keys}/longmeadow`, { headers: meant, data: { key: known } })
  const database = connect(stack.databaseUrl)
  const sealed = database.raw("CONCAT(LEFT(sealed, CHAR_LENGTH(sealed) - 6), 'AAAAAA')")
  await database('stream_keys').where({ show_id: demo.id }).update({ sealed })
  await database.destroy()
  await page.reload()
  await step(page, 'Destinations').click()
  await expect(page.locator('[data-destination=Longmeadow]')).toContainText('damaged in the store')
  const reveal = await page.request.post(`${keys}/longmeadow/reveal`, { headers: meant })
  expect(reveal.status()).toBe(409)
  expect(await reveal.text()).toContain('The stored key is damaged')
  await page.getByLabel('Paste the key').fill(known)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByTestId('key-state')).toContainText('lasting key, pasted just now')
})
