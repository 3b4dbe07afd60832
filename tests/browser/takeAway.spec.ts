import { expect, expectAccessible, test } from './fixtures'
import { meant } from '../meant'

test.use({ opensOn: 'line' })

test('takes the run-up away as a calendar, and the settings on paper without keys', async ({
  page,
  demo,
}) => {
  await page.request.put(`/api/shows/${demo.id}/keys/longmeadow`, {
    headers: meant,
    data: { key: 'not-on-paper' },
  })
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Take away' }).click()
  await page.getByRole('menuitem', { name: 'Run-up, iCalendar' }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('Night Bloom at Fernhollow.ics')
  const text = Buffer.concat(await (await file.createReadStream()).toArray()).toString()
  expect(text).toContain(`UID:show-${demo.id}@green-mantle`)
  expect(text).not.toContain('not-on-paper')

  await page.getByRole('button', { name: 'Take away' }).click()
  await page.getByRole('menuitem', { name: 'Settings sheet, to print' }).click()
  await expect(page.getByRole('heading', { name: 'Settings of every send' })).toBeVisible()
  await expect(page.getByRole('row', { name: /^Video bitrate/ })).toContainText('5300')
  await expect(page.getByRole('row', { name: /^Server address/ })).toContainText(
    'rtmps://ingest.longmeadow',
  )
  await expect(page.getByRole('row', { name: /^Flickerbrook/ })).toContainText(
    'pressed on its page',
  )
  expect(await page.content()).not.toContain('not-on-paper')
  await expectAccessible(page)
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
})
