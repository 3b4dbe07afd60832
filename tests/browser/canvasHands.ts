import type { Locator, Page } from '@playwright/test'
import { expect } from './fixtures'

export interface Point {
  x: number
  y: number
}

/** A point of a canvas, in its own pixels, on the page. */
export async function pointOn(page: Page, canvas: string, x: number, y: number): Promise<Point> {
  const surface = page.locator(`[data-canvas=${canvas}]`)
  await expect(surface.locator('canvas').first()).toBeVisible()
  const box = (await surface.boundingBox())!
  const scale = Number(await surface.getAttribute('data-scale'))
  return { x: box.x + x * scale, y: box.y + y * scale }
}

/** Drags in a few steps; `keys` are held down meanwhile. */
export async function drag(
  page: Page,
  from: Point,
  to: Point,
  keys: readonly string[] = [],
): Promise<void> {
  for (const key of keys) await page.keyboard.down(key)
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 })
  await page.mouse.move(to.x, to.y, { steps: 4 })
  await page.mouse.up()
  for (const key of keys) await page.keyboard.up(key)
}

export const number = (page: Page, label: string): Locator =>
  page.getByRole('textbox', { name: label, exact: true })
export const row = (page: Page, name: string): Locator =>
  page.getByRole('row', { name: new RegExp(name) })

/** Chooses a source by its row. */
export const choose = (page: Page, name: string): Promise<void> =>
  row(page, name)
    .getByRole('button', { name: new RegExp(name) })
    .first()
    .click()

/**
 * Goes to a canvas by its keys. A starved machine may take longer between two presses than a sequence
 * waits, and what follows would then be typed elsewhere.
 */
export async function goToCanvas(page: Page, canvas: 'landscape' | 'vertical'): Promise<void> {
  await expect(async () => {
    await page.keyboard.press('g')
    await page.keyboard.press(canvas === 'landscape' ? 'l' : 'v')
    await expect(page.locator(`[data-canvas=${canvas}]`)).toBeFocused({ timeout: 1000 })
  }).toPass()
}

/** Goes on from a canvas to the numbers of the chosen source; those of one that is locked take no focus. */
export async function goToNumbers(page: Page): Promise<void> {
  await expect(async () => {
    await goToCanvas(page, 'landscape')
    await page.keyboard.press('Enter')
    await expect(number(page, 'X on landscape, px')).toBeFocused({ timeout: 1000 })
  }).toPass()
}

const focusedLabel = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const element = document.activeElement
    if (!(element instanceof HTMLElement)) return ''
    const labels = (element as HTMLInputElement).labels
    return (
      element.getAttribute('aria-label') ??
      (labels?.length ? labels[0]!.textContent : element.textContent) ??
      ''
    ).trim()
  })

/** What a page is still waiting for cannot have the focus yet. */
const tabbingMilliseconds = 10_000

/** Presses Tab until what has the focus is called so. */
export async function tabTo(page: Page, name: string | RegExp, most = 150): Promise<void> {
  const isIt = (label: string): boolean =>
    typeof name === 'string' ? label === name : name.test(label)
  const begunAt = Date.now()
  for (let count = 0; count < most || Date.now() - begunAt < tabbingMilliseconds; count += 1) {
    // Twice: a dialog that has just opened may yet take the focus to its first control.
    if (isIt(await focusedLabel(page))) {
      await page.evaluate(() => new Promise((resolve) => setTimeout(resolve, 100)))
      if (isIt(await focusedLabel(page))) return
    }
    await page.keyboard.press('Tab')
  }
  throw new Error(`Tab never reached ${name}`)
}

/** Takes every edit back, and tells how many there were. */
export async function undoAll(page: Page): Promise<number> {
  let count = 0
  const undo = page.getByRole('button', { name: /^Undo/ })
  while (await undo.isEnabled()) {
    await page.keyboard.press('Control+z')
    count += 1
    if (count > 300) throw new Error('undo does not end')
  }
  return count
}

export async function redoAll(page: Page): Promise<void> {
  const redo = page.getByRole('button', { name: /^Redo/ })
  for (let count = 0; (await redo.isEnabled()) && count < 300; count += 1)
    await page.keyboard.press('Control+Shift+z')
}
