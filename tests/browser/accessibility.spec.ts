import { newShow, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { isDeep } from '../tier'
import { expect, expectAccessible, step, storeShow, test } from './fixtures'

const views = {
  canvases: 'Canvases',
  sound: 'Sound',
  line: 'Line',
  destinations: 'Destinations',
  fit: 'Fit',
  rehearse: 'Rehearse',
  'run-sheet': 'Run sheet',
} as const
type View = keyof typeof views | 'encoders'

/** Walked through in two halves, side by side. */
const walks: readonly (readonly View[])[] = [
  ['canvases', 'sound', 'line', 'destinations'],
  ['fit', 'encoders', 'rehearse', 'run-sheet'],
]

const when = { startsAt: '2026-12-01T20:00', timeZone: 'UTC' }
const long = 'Grand midwinter glasshouse gala of every night-flowering cactus there is '
let last = 0

const emptyShow = newShow(() => `id-${(last += 1)}`, when)
const shows: Record<string, Show> = {
  'the demo': demoShow,
  'an empty show': emptyShow,
  'one that does not fit, with long names': {
    ...demoShow,
    title: long.repeat(2).trim(),
    destinations: demoShow.destinations.map((each) => ({
      ...each,
      on: true,
      name: `${each.name} ${long}`.trim(),
    })),
  },
}

/** By day in full; in the deep tier by night for what alone differs there, the contrast of the colours. */
async function expectAccessibleByDayAndNight(page: Page): Promise<void> {
  await expectAccessible(page)
  if (!isDeep) return
  await page.emulateMedia({ colorScheme: 'dark' })
  await expectAccessible(page, ['color-contrast'])
  await page.emulateMedia({ colorScheme: 'light' })
}

/** Goes to a view as a person does, without opening the page anew, until the one before it is gone. */
async function goTo(page: Page, view: View): Promise<void> {
  const leaving = await page.locator('h2').first().elementHandle()
  const link =
    view === 'encoders' ? page.getByRole('link', { name: 'Encoders …' }) : step(page, views[view])
  await link.click()
  await leaving?.waitForElementState('hidden')
}

/** Until there is what a view shows only after a while. */
async function untilDrawn(page: Page, view: View, show: Show): Promise<void> {
  await expect(page.locator('h2').first()).toBeAttached()
  if (view === 'canvases' && show === emptyShow)
    await expect(page.getByRole('heading', { name: 'What is on air?' })).toBeVisible()
  else if (view === 'canvases') {
    await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
    if (show === demoShow) await page.getByRole('button', { name: /^Bench camera camera/ }).click()
  }
  if (view === 'rehearse' && show !== emptyShow)
    await expect(page.getByRole('heading', { name: /^Night \d/ })).toBeVisible()
}

for (const [name, show] of Object.entries(shows))
  for (const walk of walks)
    test(
      `${name}, from ${walk[0]} to ${walk.at(-1)}`,
      {
        tag: show === demoShow ? [] : ['@deep'],
      },
      async ({ page, stack }) => {
        const { id, read } = await storeShow(stack.application.address, show)
        await page.goto(`/shows/${id}/${walk[0]}`)
        for (const view of walk)
          await test.step(view, async () => {
            if (view !== walk[0]) await goTo(page, view)
            await untilDrawn(page, view, show)
            await expectAccessibleByDayAndNight(page)
            const overflow = await page.evaluate(
              () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
            )
            expect(overflow).toBeLessThanOrEqual(0)
          })
        // Looking around changes nothing.
        if (show === demoShow) expect(await read()).toEqual(demoShow)
      },
    )

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
