import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { isDeep } from '../tier'
import { expect, storeShow, test } from './fixtures'

const pages = [
  'canvases',
  'sound',
  'line',
  'destinations',
  'fit',
  'encoders',
  'rehearse',
  'trial',
  'run-sheet',
] as const

/** A small notebook, 1280×800 at 200 %, and a phone. */
const windows = [
  { width: 1024, height: 700 },
  { width: 640, height: 400 },
  { width: 360, height: 740 },
] as const

/** Controls that no scrolling brings into sight, and how much wider than its window the page is. */
const outOfReach = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const { clientWidth, scrollWidth, clientHeight, scrollHeight } = document.documentElement
    const scrolls = (from: Element, axis: 'x' | 'y'): boolean => {
      for (let box = from.parentElement; box; box = box.parentElement) {
        const style = getComputedStyle(box)
        const overflow = axis === 'x' ? style.overflowX : style.overflowY
        const isLonger =
          axis === 'x' ? box.scrollWidth > box.clientWidth : box.scrollHeight > box.clientHeight
        if (/auto|scroll/.test(overflow) && isLonger && box !== document.documentElement)
          return true
      }
      return false
    }
    const found = scrollWidth > clientWidth + 1 ? [`${scrollWidth} wide`] : []
    for (const control of document.querySelectorAll('a, button, input, select, summary')) {
      const { left, right, bottom, width } = control.getBoundingClientRect()
      if (width === 0) continue
      const name = (control.getAttribute('aria-label') ?? control.textContent ?? '').trim()
      if ((left < -1 || right > clientWidth + 1) && !scrolls(control, 'x')) found.push(name)
      else if (bottom > clientHeight && scrollHeight <= clientHeight && !scrolls(control, 'y'))
        found.push(`${name}, below`)
    }
    return found
  })

for (const window of windows.filter(({ width }) => isDeep || width !== 1024))
  test(`at ${window.width} by ${window.height} every control can be reached, and every step`, async ({
    page,
    stack,
  }) => {
    const { id } = await storeShow(stack.application.address, demoShow)
    await page.setViewportSize(window)
    for (const name of pages) {
      await page.goto(`/shows/${id}/${name}`)
      await expect(page.locator('main h2').first()).toBeAttached()
      expect(await page.getByRole('navigation', { name: 'Steps' }).getByRole('link').count()).toBe(
        7,
      )
      await expect.poll(() => outOfReach(page), name).toEqual([])
    }
  })

test('what ends below its box says so, until its end is in sight', async ({ page, stack }) => {
  const { id } = await storeShow(stack.application.address, demoShow)
  await page.setViewportSize(windows[0])
  await page.goto(`/shows/${id}/run-sheet`)
  const checks = page.getByRole('region', { name: 'Checks' })
  const more = checks.locator('xpath=..').locator('[data-more=below]')
  await expect(more).toBeVisible()
  expect((await checks.boundingBox())!.height).toBeGreaterThan(120)
  await checks.focus()
  await page.keyboard.press('End')
  await expect(more).toBeHidden()
  await page.goto(`/shows/${id}/fit`)
  await expect(
    page.getByRole('region', { name: 'Sends' }).locator('xpath=..').locator('[data-more=right]'),
  ).toBeVisible()
})
