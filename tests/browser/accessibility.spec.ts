import { newShow, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { expect, expectAccessible, storeShow, test } from './fixtures'

const steps = ['canvases', 'sound', 'line', 'destinations', 'fit', 'rehearse', 'run-sheet'] as const
type View = (typeof steps)[number] | 'encoders'

const when = { startsAt: '2026-12-01T20:00', timeZone: 'UTC' }
const long = 'Grand midwinter glasshouse gala of every night-flowering cactus there is '
let last = 0

const shows: Record<string, { show: Show; views: readonly View[] }> = {
  'the demo': { show: demoShow, views: [...steps, 'encoders'] },
  'an empty show': { show: newShow(() => `id-${(last += 1)}`, when), views: steps },
  'one that does not fit, with long names': {
    show: {
      ...demoShow,
      title: long.repeat(2).trim(),
      destinations: demoShow.destinations.map((each) => ({
        ...each,
        on: true,
        name: `${each.name} ${long}`.trim(),
      })),
    },
    views: steps,
  },
}

/** By day in full; by night for what alone differs there, the contrast of the colours. */
async function expectAccessibleByDayAndNight(page: Page): Promise<void> {
  await expectAccessible(page)
  await page.emulateMedia({ colorScheme: 'dark' })
  await expectAccessible(page, ['color-contrast'])
}

for (const [name, { show, views }] of Object.entries(shows))
  for (const view of views)
    test(`${view} of ${name}`, async ({ page, stack }) => {
      const { id, read } = await storeShow(stack.application.address, show)
      await page.goto(`/shows/${id}/${view}`)
      await expect(page.locator('h2').first()).toBeAttached()
      if (view === 'canvases' && show.sources.length === 0)
        await expect(page.getByRole('heading', { name: 'What is on air?' })).toBeVisible()
      else if (view === 'canvases') {
        await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
        if (show === demoShow)
          await page.getByRole('button', { name: /^Bench camera camera/ }).click()
      }
      if (view === 'rehearse' && show !== shows['an empty show']?.show)
        await expect(page.getByRole('heading', { name: /^Night \d/ })).toBeVisible()
      await expectAccessibleByDayAndNight(page)
      const overflow = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      )
      expect(overflow).toBeLessThanOrEqual(0)
      // Looking around changes nothing.
      if (show === demoShow) expect(await read()).toEqual(demoShow)
    })

test('the list of keys', async ({ page, demo }) => {
  expect(demo.id).toBeTruthy()
  await page.keyboard.press('Shift+?')
  await expect(page.getByRole('heading', { name: 'Keys on this page' })).toBeVisible()
  await expectAccessibleByDayAndNight(page)
})

test('Home', async ({ page, stack }) => {
  await storeShow(stack.application.address, demoShow)
  await page.goto('/')
  await expect(page.locator(`[data-show="${demoShow.title}"]`).first()).toBeVisible()
  await expectAccessibleByDayAndNight(page)
})
