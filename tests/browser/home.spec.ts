import { readFile } from 'node:fs/promises'
import { readShowFile } from '@green-mantle/core/formats'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { expect, storeShow, test, untilSaved } from './fixtures'
import { meant } from '../meant'

const card = (page: Page, title: string) => page.locator(`[data-show="${title}"]`)

async function openMenu(page: Page, title: string, action: string): Promise<void> {
  await page.getByRole('button', { name: `What to do with ${title}`, exact: true }).click()
  await page.getByRole('menuitem', { name: action }).click()
}

/** Every test here has a show under a title of its own. */
async function stored(address: string, title: string) {
  return storeShow(address, { ...demoShow, title })
}

async function chooseFile(page: Page, name: string, text: string): Promise<void> {
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Open a file' }).click()
  await (await chooser).setFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
}

test('an empty house offers a new show and the demo', async ({ page, stack }) => {
  const { shows } = (await (await fetch(`${stack.application.address}/api/shows`)).json()) as {
    shows: { id: string }[]
  }
  for (const { id } of shows)
    await fetch(`${stack.application.address}/api/shows/${id}`, {
      method: 'DELETE',
      headers: meant,
    })
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo show' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(demoShow.title)
  await page.getByRole('link', { name: 'Home, all shows' }).click()
  await expect(card(page, demoShow.title)).toContainText('Three sends fit the line')
  await expect(card(page, demoShow.title)).toContainText('Saturday 12 December 2026, 21:00')
  await expect(card(page, demoShow.title)).toContainText('Flickerbrook')
})

test('new, rename, duplicate, delete, each taken back', async ({ page, stack }) => {
  await stored(stack.application.address, 'Moth night')
  await page.goto('/')
  await openMenu(page, 'Moth night', 'Rename')
  await page.getByRole('textbox', { name: 'Title of the show' }).fill('Moths by lamplight')
  await page.keyboard.press('Enter')
  await expect(card(page, 'Moths by lamplight')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(card(page, 'Moth night')).toBeVisible()

  await openMenu(page, 'Moth night', 'Duplicate')
  await expect(card(page, 'Moth night copy')).toBeVisible()
  await openMenu(page, 'Moth night', 'Delete')
  await expect(card(page, 'Moth night')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(card(page, 'Moth night')).toBeVisible()

  await page.getByRole('button', { name: 'New show', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('New show')
  await expect(page.getByRole('contentinfo')).toContainText('No sends yet')
  await page.getByRole('heading', { level: 1 }).getByRole('button').click()
  await page.getByRole('textbox', { name: 'Title' }).fill('First light')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await untilSaved(page)
  await page.getByRole('link', { name: 'Home, all shows' }).click()
  await expect(card(page, 'First light')).toContainText('Nothing is sent yet')
})

test('with the keyboard alone: opens a show and comes back', async ({ page, stack }) => {
  await stored(stack.application.address, 'By keys')
  await page.goto('/')
  await card(page, 'By keys').getByRole('link').focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('By keys')
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox', { name: 'A step, source, scene' })).toBeFocused()
  await page.keyboard.type('home')
  await expect(page.getByRole('option')).toHaveText([/Home, all shows/])
  await page.keyboard.press('Enter')
  await expect(card(page, 'By keys')).toBeVisible()
  await page.getByRole('button', { name: 'What to do with By keys' }).focus()
  for (const key of ['Enter', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'Enter'])
    await page.keyboard.press(key)
  await expect(card(page, 'By keys')).toHaveCount(0)
})

test('a show goes out as a file and comes back the same', async ({ page, stack }) => {
  await stored(stack.application.address, 'There and back')
  await page.goto('/')
  const download = page.waitForEvent('download')
  await openMenu(page, 'There and back', 'Save as a file')
  const file = await download
  expect(file.suggestedFilename()).toBe('There and back.show.json')
  const text = await readFile((await file.path())!, 'utf8')
  const read = readShowFile(text)
  expect(read).toEqual({ ok: true, show: { ...demoShow, title: 'There and back' } })
  await chooseFile(page, 'again.show.json', text.replace('There and back', 'Back again'))
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Back again')
})

test('a file that can’t be read is refused with the place, and nothing changes', async ({
  page,
  stack,
}) => {
  await stored(stack.application.address, 'Untouched')
  const list = async () => (await fetch(`${stack.application.address}/api/shows`)).json()
  const before = await list()
  await page.goto('/')
  const whole = JSON.stringify({ format: 'green-mantle-show', version: 1, show: demoShow }, null, 2)
  for (const [text, words] of [
    [whole.slice(0, 300), /not opened \(damaged\)[\s\S]*line \d+, column \d+/],
    [whole.replace('"version": 1', '"version": 99'), /\(too new\)[\s\S]*version 99/],
    [' '.repeat(4_100_000), /\(too large\)[\s\S]*at most 4 MB/],
    [
      whole.replace('"durationMinutes": 120', '"durationMinutes": -1'),
      /breaks the schema[\s\S]*show\.durationMinutes/,
    ],
  ] as const) {
    await chooseFile(page, 'odd.show.json', text)
    const note = page.getByText(words)
    await expect(note).toBeVisible()
    await page.getByRole('button', { name: 'Dismiss' }).first().click()
    await expect(note).toHaveCount(0)
  }
  expect(await list()).toEqual(before)
})

test('the settings sheet goes out as CSV', async ({ page, demo }) => {
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Take away' }).click()
  await page.getByRole('menuitem', { name: 'Settings sheet, CSV' }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('Night Bloom at Fernhollow settings.csv')
  const lines = (await readFile((await file.path())!, 'utf8')).split('\r\n')
  // Names, three sends, a recording, and the end of the last line.
  expect(lines).toHaveLength(6)
  expect(lines[1]).toMatch(
    /^Longmeadow,landscape,address and key,RTMPS,rtmps:\/\/[^,]+,,1920,1080,60,H\.264,High,4\.2,CBR,5300,/,
  )
  expect(demo.id).not.toBe('')
})

test('a show that is not there says so', async ({ page, consoleProblems }) => {
  await page.goto('/shows/nobody/canvases')
  await expect(page.getByText('There is no such show')).toBeVisible()
  // The browser itself reports the 404.
  expect(consoleProblems.splice(0)).toEqual([expect.stringContaining('404')])
})
