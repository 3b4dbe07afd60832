import { newShow } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { expect, expectAccessible, step, storeShow, test } from './fixtures'

for (const colours of ['day', 'night'] as const) {
  test.describe(`${colours} colours`, () => {
    test.use({ colorScheme: colours === 'day' ? 'light' : 'dark' })

    test('every view of the demo', async ({ page, demo }) => {
      await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
      await page.getByRole('button', { name: /^Bench camera camera/ }).click()
      await expectAccessible(page)
      for (const name of ['Sound', 'Line', 'Destinations', 'Fit']) {
        await step(page, name).click()
        await expect(page.locator('h2').first()).toBeAttached()
        await expectAccessible(page)
      }
      await page.getByRole('link', { name: 'Encoders …' }).click()
      await expect(page.getByRole('heading', { name: 'Encoders of this computer' })).toBeVisible()
      await expectAccessible(page)
      await page.keyboard.press('Shift+?')
      await expect(page.getByRole('heading', { name: 'Keys on this page' })).toBeVisible()
      await expectAccessible(page)
      await page.goto('/')
      await expect(page.locator(`[data-show="${demoShow.title}"]`).first()).toBeVisible()
      await expectAccessible(page)
      // Looking around changes nothing.
      expect(await demo.read()).toEqual(demoShow)
    })

    test('an empty show, and one that does not fit with long names', async ({ page, stack }) => {
      let last = 0
      const when = { startsAt: '2026-12-01T20:00', timeZone: 'UTC' }
      const empty = newShow(() => `id-${(last += 1)}`, when)
      const long = 'Grand midwinter glasshouse gala of every night-flowering cactus there is '
      const crowded = {
        ...demoShow,
        title: long.repeat(2).trim(),
        destinations: demoShow.destinations.map((each) => ({
          ...each,
          on: true,
          name: `${each.name} ${long}`.trim(),
        })),
      }
      for (const show of [empty, crowded]) {
        const { id } = await storeShow(stack.application.address, show)
        for (const name of ['canvases', 'sound', 'line', 'destinations', 'fit']) {
          await page.goto(`/shows/${id}/${name}`)
          await expect(page.locator('h2').first()).toBeAttached()
          await expectAccessible(page)
          const overflow = await page.evaluate(
            () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
          )
          expect(overflow).toBeLessThanOrEqual(0)
        }
      }
    })
  })
}
