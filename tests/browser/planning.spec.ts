import { lineOf } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { expect, step, test, untilSaved } from './fixtures'

test.use({ opensOn: 'line' })

const strata = 'Upload strata'

test('line: samples, headroom and other traffic move the usable upload and the strata at once', async ({
  page,
  demo,
}) => {
  await step(page, 'Line').click()
  const usable = page.getByTestId('usable')
  await expect(usable).toHaveText('12.4')
  await page.getByRole('textbox', { name: 'Headroom' }).fill('50')
  await page.keyboard.press('Enter')
  await expect(usable).toHaveText('8.8')
  const footer = page.getByRole('contentinfo', { name: strata })
  await expect(footer).toContainText('50 % headroom left alone')
  await expect(footer).toContainText('2.5 Mb/s too much')
  await expect(footer).toContainText('Save on')
  await page.getByRole('slider', { name: 'Headroom, percent' }).fill('20')
  await expect(footer).toContainText('Fits, 2.9 Mb/s spare')
  await page.getByRole('switch', { name: 'Call with the second host counts' }).click()
  await expect(usable).toHaveText('12.7')

  await page.getByRole('textbox', { name: 'Measured upload' }).fill('9 Mb/s')
  await page.getByRole('button', { name: 'Measurement', exact: true }).click()
  await expect(
    page.getByRole('row').filter({ has: page.getByRole('textbox', { name: 'Upload, Mb/s' }) }),
  ).toHaveCount(18)
  await untilSaved(page)
  const line = lineOf(await demo.read())
  expect(line.headroomPercent).toBe(20)
  expect(line.otherTraffic[1]!.on).toBe(true)
  expect(line.samples.at(-1)).toMatchObject({ uploadKbps: 9000, medium: 'cable' })
})

test('line, with the keyboard alone: types a measurement and steps the headroom', async ({
  page,
  demo,
}) => {
  await page.keyboard.press('Alt+3')
  await expect(page.getByTestId('usable')).toHaveText('12.4')
  await page.keyboard.press('n')
  await page.keyboard.type('17500 kb/s')
  await page.keyboard.press('Enter')
  await page.getByRole('slider', { name: 'Headroom, percent' }).focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await untilSaved(page)
  const line = lineOf(await demo.read())
  expect(line.samples.at(-1)!.uploadKbps).toBe(17_500)
  expect(line.headroomPercent).toBe(32)
})

test('destinations: add, edit, switch and remove, each undone', async ({ page, demo }) => {
  await step(page, 'Destinations').click()
  await page
    .getByRole('region', { name: 'On vertical' })
    .getByRole('button', { name: 'Destination', exact: true })
    .click()
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Brackenhurst')
  await page.keyboard.press('Enter')
  await page.getByLabel('Protocol').selectOption('SRT')
  await page.getByRole('tab', { name: 'Accepts' }).click()
  await page.getByRole('textbox', { name: 'Most video' }).fill('2.5 Mb/s')
  await page.keyboard.press('Enter')
  await page.getByLabel('Sizes').selectOption('one of these')
  const card = page.locator('[data-destination=Brackenhurst]')
  await expect(card).toContainText('SRT')
  await expect(card).toContainText('≤ 2,500 kb/s')
  await expect(card).toContainText('rules are not kept on Fit')
  await page.getByRole('switch', { name: 'Tallstory wide is on' }).click()
  await untilSaved(page)
  const stored = (await demo.read()).destinations
  expect(stored).toHaveLength(9)
  expect(stored.at(-1)).toMatchObject({
    name: 'Brackenhurst',
    canvas: 'vertical',
    protocol: 'srt',
    rules: { mostVideoBitrateKbps: 2500, sizes: { type: 'one of' } },
  })
  expect(stored[3]!.on).toBe(true)
  await page.getByRole('button', { name: 'Remove Brackenhurst' }).click()
  await expect(card).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(card).toBeVisible()
  const undo = page.getByRole('button', { name: /^Undo/ })
  while (await undo.isEnabled()) await undo.click()
  await untilSaved(page)
  expect(await demo.read()).toEqual(demoShow)
})

test('fit: every cell by hand, breaches in words with one click to mend, and where to save', async ({
  page,
  demo,
}) => {
  await step(page, 'Fit').click()
  await expect(page.getByRole('heading', { name: 'Three sends fit the line' })).toBeVisible()
  const row = page.locator('[data-send=Flickerbrook]')
  await expect(row.locator('[data-cell=wire]')).toHaveText('3,344')
  await expect(row.locator('[data-cell=level]')).toHaveText('4')
  await page.getByLabel('Frame rate for Flickerbrook', { exact: true }).selectOption('60')
  await expect(row.locator('[data-cell=level]')).toHaveText('4.2')
  await expect(
    page.getByRole('region', { name: 'Rules' }).getByText('Flickerbrook takes 30 fps, not 60.'),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Set 30 fps' }).click()
  await expect(page.getByText('Every destination’s rules are kept.')).toBeVisible()

  await page.getByRole('textbox', { name: 'Video bitrate for Longmeadow, kb/s' }).fill('9 Mb/s')
  await page.keyboard.press('Enter')
  await expect(
    page.getByRole('heading', { name: /Three sends are 2\.[56] Mb\/s too much/ }),
  ).toBeVisible()
  await expect(page.getByRole('heading', { name: 'What the bits buy on Longmeadow' })).toBeVisible()
  await expect(page.getByText(/beats 720p60/)).toBeVisible()
  await page.getByRole('button', { name: 'Lower Longmeadow' }).click()
  await expect(page.getByRole('heading', { name: 'Three sends fit the line' })).toBeVisible()
  await page.getByLabel('Effort', { exact: true }).selectOption('fastest')
  await page.getByLabel('Audio sample rate').selectOption('44.1 kHz')
  await untilSaved(page)
  const [longmeadow, flickerbrook] = (await demo.read()).destinations
  expect(longmeadow!.renditions[0]).toMatchObject({ effort: 'fastest', audioSampleRateHz: 44_100 })
  expect(longmeadow!.renditions[0]!.videoBitrateKbps).toBeLessThan(9000)
  expect(flickerbrook!.renditions[0]!.framesPerSecond).toBe(30)
})

test('a ladder counts every rendition, and takes another step', async ({ page, demo }) => {
  await step(page, 'Destinations').click()
  await page.getByRole('switch', { name: 'Rookery is on' }).click()
  await step(page, 'Fit').click()
  // Three sends, three steps and the recording.
  await expect(page.locator('[data-send]')).toHaveCount(7)
  await page.locator('[data-send="Rookery 3"]').getByRole('button').first().click()
  await page.getByRole('button', { name: 'This rendition' }).click()
  await expect(page.locator('[data-send]')).toHaveCount(6)
  await untilSaved(page)
  expect((await demo.read()).destinations.at(-1)!.renditions).toHaveLength(2)
})

test('a slab of the strata leads to its row on Fit', async ({ page, demo }) => {
  await page
    .getByRole('contentinfo', { name: strata })
    .getByRole('button', { name: /^Commonhall/ })
    .click()
  await expect(page).toHaveURL(new RegExp(`${demo.id}/fit$`))
  await expect(page.getByRole('heading', { name: 'What the bits buy on Commonhall' })).toBeVisible()
})
