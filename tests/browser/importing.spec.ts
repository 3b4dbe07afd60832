import { lineOf } from '@green-mantle/core/show'
import { readFileSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, test, untilSaved } from './fixtures'

test.use({ opensOn: 'line' })

const report = new URL('../../core/formats/measurements/fixtures/iperf3-tcp.json', import.meta.url)

test('brings measurements in from a table and a report, and says what is wrong with the rest', async ({
  page,
  demo,
}) => {
  await page.keyboard.press('Alt+3')
  await page.getByRole('button', { name: 'Bring in …' }).click()
  const text = page.getByRole('textbox', { name: 'Measurements' })
  const add = page.getByRole('button', { name: 'Add them' })
  await text.fill('time,upload Mb/s,by\n2026-12-12 20:00,17.1,wlan\n2026-12-12 20:20,slow,cable')
  await expect(page.getByRole('alert')).toContainText('line 3, upload: "slow" is not a number')
  await expect(add).toBeDisabled()
  await expectAccessible(page)
  expect(await demo.read()).toEqual(demoShow)

  await text.fill('time,upload Mb/s,by\n2026-12-12 20:00,17.1,wlan\n2026-12-12 20:20,16.4,cable')
  await expect(page.getByRole('status').first()).toContainText(
    'Two measurements, 16.4 Mb/s to 17.1 Mb/s.',
  )
  await add.click()
  await untilSaved(page)
  const { samples } = lineOf(await demo.read())
  expect(samples.slice(-2)).toMatchObject([
    // London is on UTC in December.
    { measuredAt: '2026-12-12T20:00:00.000Z', uploadKbps: 17_100, medium: 'wifi' },
    { uploadKbps: 16_400, medium: 'cable' },
  ])

  await page.getByRole('button', { name: 'Bring in …' }).click()
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Open a file …' }).click()
  await (await chooser).setFiles(report.pathname)
  await expect(page.getByRole('status').first()).toContainText('Three measurements')
  await add.click()
  await untilSaved(page)
  const intervals = JSON.parse(readFileSync(report, 'utf8')).intervals.length
  expect(lineOf(await demo.read()).samples).toHaveLength(
    lineOf(demoShow).samples.length + 2 + intervals,
  )
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await untilSaved(page)
  expect(await demo.read()).toEqual(demoShow)
})

test('takes a pasted column by keyboard alone, and asks for its unit', async ({ page, demo }) => {
  await page.keyboard.press('Alt+3')
  await expect(page.getByRole('heading', { name: 'What may be spent' })).toBeVisible()
  await tabTo(page, 'Bring in …')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Bring measurements in' })).toBeVisible()
  await tabTo(page, 'Measurements')
  await page.keyboard.insertText('18.2\n17.9\n18.4')
  await expect(page.getByRole('alert')).toContainText('Choose the unit')
  await tabTo(page, 'Rates are in')
  await page.keyboard.press('M')
  await expect(page.getByRole('status').first()).toContainText('Three measurements')
  await tabTo(page, 'Add them')
  await page.keyboard.press('Enter')
  await untilSaved(page)
  expect(
    lineOf(await demo.read())
      .samples.slice(-3)
      .map(({ uploadKbps }) => uploadKbps),
  ).toEqual([18_200, 17_900, 18_400])
})
