import { newShow } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, step, storeShow, test, untilSaved } from './fixtures'

test('a new show begins with a usual arrangement, and what is added finds its place', async ({
  page,
  stack,
}) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New show', exact: true }).first().click()
  await page.getByRole('button', { name: 'Camera and screen' }).click()
  const list = page.getByRole('table', { name: 'Sources of this scene, front to back' })
  await expect(list.getByRole('row')).toHaveCount(3)
  for (const kind of ['Alerts', 'Text']) {
    await page.locator('#add-source').click()
    await page.getByRole('button', { name: kind, exact: true }).click()
    await expect(page.getByRole('heading', { name: kind, exact: true })).toBeVisible()
  }
  await untilSaved(page)
  const id = new URL(page.url()).pathname.split('/')[2]
  const read = async () => (await fetch(`${stack.application.address}/api/shows/${id}`)).json()
  const show = await read()
  const kinds = show.scenes[0].layers.map(
    ({ sourceId }: { sourceId: string }) =>
      show.sources.find((source: { id: string }) => source.id === sourceId).kind,
  )
  expect(kinds).toEqual(['alerts', 'text', 'camera', 'screen'])
  await expect(page.getByText('is hidden behind')).toHaveCount(0)

  // Hidden by hand it is said, with the way out.
  await list
    .getByRole('button', { name: /^Camera/ })
    .first()
    .click()
  await page.keyboard.press('g')
  await page.keyboard.press('l')
  await page.keyboard.press('Alt+Shift+ArrowDown')
  await expect(page.getByText('Camera is hidden behind Screen on landscape.')).toBeVisible()
  await page
    .getByRole('button', { name: 'Camera on landscape: put it in front', exact: true })
    .click()
  await expect(page.getByText('is hidden behind')).toHaveCount(0)

  // Both canvases from the sources alone, in one step of undo.
  await page.getByRole('button', { name: 'Match' }).click()
  await page.getByRole('menuitem', { name: 'Arrange both from the sources' }).click()
  const dialog = page.getByRole('dialog', { name: 'Arrange both canvases' })
  await expectAccessible(page)
  const before = await read()
  await dialog.getByRole('button', { name: /Camera in the left corner/ }).click()
  await untilSaved(page)
  const after = await read()
  expect(after.scenes[0].layers).not.toEqual(before.scenes[0].layers)
  await page.keyboard.press('Control+z')
  await untilSaved(page)
  expect((await read()).scenes[0].layers).toEqual(before.scenes[0].layers)
})

test('rules are read out of a help page, and nothing changes until they are taken', async ({
  page,
  demo,
}) => {
  await step(page, 'Destinations').click()
  await page.getByRole('tab', { name: 'Accepts' }).click()
  await page.getByRole('button', { name: 'Paste what its help page says …' }).click()
  const dialog = page.getByRole('dialog', { name: 'Paste what its help page says' })
  await dialog.getByLabel('Text of the page; tables too').fill(
    `Resolution\tBitrate (kbps)
1280x720\t2500-4500
Keyframe interval: 2 s. Latency is low.
Use the High profile.`,
  )
  await expect(dialog.getByRole('row', { name: /Video bitrate at most/ })).toContainText(
    '4,500 kb/s',
  )
  await expect(dialog.getByRole('row', { name: /Keyframe every/ })).toContainText('2 s at most')
  await expect(dialog).toContainText('Latency is low.')
  await expectAccessible(page)
  await dialog.getByRole('checkbox', { name: /Take Video bitrate at least/ }).uncheck()
  expect((await demo.read()).destinations[0]!.rules).toEqual(demoShow.destinations[0]!.rules)
  await dialog.getByRole('button', { name: /^Take 3 rules/ }).click()
  await untilSaved(page)
  expect((await demo.read()).destinations[0]!.rules).toEqual({
    ...demoShow.destinations[0]!.rules,
    sizes: { type: 'up to', width: 1280, height: 720 },
    mostVideoBitrateKbps: 4500,
    longestKeyframeIntervalSeconds: 2,
  })
})

test('Escape takes back what was typed first, and closes second', async ({ page, demo }) => {
  expect(demo.id).toBeTruthy()
  await page.getByTitle('Title, date and length').click()
  const dialog = page.getByRole('dialog', { name: 'The show' })
  const title = dialog.getByLabel('Title')
  await title.fill('Something else')
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(1)
  await expect(title).toHaveValue(demoShow.title)
  // The start is typed part by part, in the application's own order, and taken when it is left.
  await tabTo(page, /day/)
  const parts = [
    ['28', /month/],
    ['03', /year/],
    ['2027', /hour/],
    ['01', /minute/],
  ] as const
  for (const [typed, next] of parts) {
    await page.keyboard.type(typed)
    // A person sees where they are; on a starved machine keys come before the next part is there.
    await expect(dialog.getByRole('spinbutton', { name: next })).toBeFocused()
  }
  await page.keyboard.type('30')
  await page.keyboard.press('Tab')
  await expect(dialog).toContainText('The clocks skip 01:30 that day in Europe/London')
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
  await untilSaved(page)
  expect((await demo.read()).startsAt).toBe('2027-03-28T01:30')
})

test('the guide is found, and shows its pictures', async ({ page, stack }) => {
  const show = newShow(() => 'id', { startsAt: '2026-12-12T21:00', timeZone: 'UTC' })
  const { id } = await storeShow(stack.application.address, show)
  await page.goto(`/shows/${id}/sound`)
  await page.getByRole('button', { name: /^Find anything/ }).click()
  await page.getByRole('dialog').getByRole('combobox').fill('guide')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('A show from first to last')
  const pictures = await page.getByRole('img').all()
  expect(pictures.length).toBeGreaterThan(4)
  for (const picture of pictures)
    await expect
      .poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalWidth))
      .toBeGreaterThan(0)
  await expectAccessible(page)
})
