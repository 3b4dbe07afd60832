import { demoShow } from '@green-mantle/demo'
import { expect, storeShow, test } from './fixtures'
import type { Page } from '@playwright/test'

test.use({ ownContext: true })

const drawn = (page: Page): Promise<string> =>
  page
    .locator('[data-canvas=vertical] canvas')
    .first()
    .evaluate((canvas) => (canvas as HTMLCanvasElement).toDataURL())

/** Once nothing has changed for a while; several fonts come one after the other. */
async function settled(page: Page): Promise<string> {
  for (let last = ''; ;) {
    const now = await drawn(page)
    if (now === last) return now
    last = now
    await page.waitForTimeout(1000)
  }
}

test('words on the stage stand as they should where fonts come late, as on a first visit', async ({
  page,
  stack,
}) => {
  const talk = demoShow.scenes.find(({ layers }) =>
    layers.some(({ sourceId }) =>
      demoShow.sources.some(({ id, kind }) => id === sourceId && kind === 'text'),
    ),
  )!
  // Only its words, so that nothing else that comes late is taken for them.
  const words = talk.layers.filter(({ sourceId }) =>
    demoShow.sources.some(({ id, kind }) => id === sourceId && kind === 'text'),
  )
  const { id } = await storeShow(stack.application.address, {
    ...demoShow,
    scenes: [
      {
        ...talk,
        layers: words.map((layer) => ({ ...layer, vertical: { ...layer.vertical, shown: true } })),
      },
    ],
  })
  let comeOn = (): void => {}
  const held = new Promise<void>((resolve) => (comeOn = resolve))
  await page.route('**/*.woff2', async (route) => {
    await held
    await route.continue()
  })
  await page.goto(`/shows/${id}/canvases`, { waitUntil: 'domcontentloaded' })
  await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
  const early = await drawn(page)
  comeOn()
  await page.evaluate(() => document.fonts.ready)
  await expect.poll(() => drawn(page)).not.toBe(early)
  const late = await settled(page)
  // With the fonts in the browser's store they are there before the first word is drawn.
  await page.reload()
  await page.evaluate(() => document.fonts.ready)
  await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
  expect((await settled(page)) === late).toBe(true)
})
