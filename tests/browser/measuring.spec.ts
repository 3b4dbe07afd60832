import { lineOf } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, storeShow, test, untilSaved } from './fixtures'

test.use({ opensOn: 'line' })

const before = lineOf(demoShow).samples.length

test(
  'measures the practice line with the mouse, and stores what it measured',
  { tag: '@real-time' },
  async ({ page, demo }) => {
    await page.keyboard.press('Alt+3')
    await page.getByRole('button', { name: 'Measure …' }).click()
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('this measures a practice line')
    await dialog.getByRole('combobox', { name: 'For' }).selectOption('10 s')
    await dialog.getByRole('textbox', { name: 'Hour of the day' }).fill('12')
    await expectAccessible(page)
    await dialog.getByRole('button', { name: 'Start measuring' }).click()
    await expect(page.getByTestId('measured-rate')).toBeVisible()
    await expect(page.getByRole('heading', { name: 'Measure the upload' })).toBeHidden()
    await untilSaved(page)
    const added = lineOf(await demo.read()).samples.slice(before)
    expect(added).toHaveLength(2)
    for (const sample of added) {
      // Rural copper gives 18.5 Mb/s at noon, wandering by a few per cent; the rest is the machine's.
      expect(sample.uploadKbps).toBeGreaterThan(6000)
      expect(sample.uploadKbps).toBeLessThan(20_500)
      expect(sample.roundTripMilliseconds).toBeGreaterThanOrEqual(29)
      expect(sample).toMatchObject({ medium: 'cable', note: 'practice line: Rural copper' })
    }
    await page.keyboard.press('Control+z')
    await untilSaved(page)
    expect(await demo.read()).toEqual(demoShow)
  },
)

test(
  'is stopped with the keyboard alone, keeping what there is',
  { tag: '@real-time' },
  async ({ page, demo }) => {
    await page.keyboard.press('Alt+3')
    await expect(page.getByRole('heading', { name: 'What may be spent' })).toBeVisible()
    await tabTo(page, 'Measure …')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Measure the upload' })).toBeVisible()
    await tabTo(page, 'Start measuring')
    await page.keyboard.press('Enter')
    await expect(page.getByText(/second [78] of 30/)).toBeVisible()
    await tabTo(page, 'Stop')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Measure the upload' })).toBeHidden()
    await untilSaved(page)
    expect(lineOf(await demo.read()).samples).toHaveLength(before + 1)
  },
)

test('keeps several lines, brings one from another show, and counts what is chosen', async ({
  page,
  demo,
  stack,
}) => {
  const other = structuredClone(demoShow)
  other.title = 'Last month'
  lineOf(other).name = 'Village hall fibre'
  await storeShow(stack.application.address, other)
  await page.keyboard.press('Alt+3')
  await expect(page.getByTestId('usable')).toHaveText('12.4')
  await page.getByRole('combobox', { name: 'The show goes up' }).selectOption('Second host’s phone')
  await expect(page.getByTestId('usable')).toHaveText('5.0')
  await expect(page.getByText(/it runs out 1 h \d+ min after the start/)).toBeVisible()
  await page.getByRole('button', { name: 'Bring a line from another show' }).click()
  await page
    .getByRole('button', { name: /Village hall fibre of Last month/ })
    .first()
    .click()
  await expect(page.getByLabel('Name of this line')).toHaveValue('Village hall fibre')
  await page.getByRole('combobox', { name: 'What counts' }).selectOption('those by Wi-Fi')
  await expect(page.getByText('Measurements that carry it')).toBeVisible()
  await page.getByRole('textbox', { name: 'Low percentile' }).fill('50')
  await page.getByRole('textbox', { name: 'Low percentile' }).press('Enter')
  // The middle of 9.8, 11.6, 12.7, 13.3 and 14.1, less 30 % and the till.
  await expect(page.getByTestId('usable')).toHaveText('8.7')
  await page.getByRole('button', { name: 'Camera or link' }).click()
  await expect(page.getByTestId('local-load')).toContainText('300.0 of 1,000.0 Mb/s, 30 %')
  await untilSaved(page)
  const saved = await demo.read()
  expect(saved.lines.map(({ name }) => name)).toEqual([
    'Glasshouse copper line',
    'Second host’s phone',
    'Village hall fibre',
  ])
  expect(lineOf(saved)).toMatchObject({ medium: 'wifi', lowPercentile: 50 })
  await expectAccessible(page)
})
