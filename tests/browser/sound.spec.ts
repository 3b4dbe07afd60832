import { demoShow } from '@green-mantle/demo'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, test, untilSaved } from './fixtures'

test.use({ opensOn: 'sound' })

test('sound, with the mouse: mixes, a doubled sound and its remedy, levels', async ({
  page,
  demo,
}) => {
  await page.keyboard.press('Alt+2')
  await expect(page.getByRole('heading', { name: 'What is heard' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('switch', { name: 'Bench camera’s own is in the live mix' }).click()
  const checks = page.getByRole('region', { name: 'What will be heard' })
  await expect(checks).toContainText(
    'Lapel microphone and Bench camera’s own carry the same sound in the live mix',
  )
  await checks.getByRole('button', { name: 'Take Bench camera’s own out' }).first().click()
  await expect(checks).not.toContainText('carry the same sound')
  await page.getByRole('switch', { name: 'Music bed is in the archive mix' }).click()
  await expect(checks).toContainText('there is no right to keep it')
  await page.getByRole('textbox', { name: 'Name of the sound' }).nth(3).click()
  await page.getByRole('switch', { name: 'This music may be kept' }).click()
  await expect(checks).not.toContainText('no right')
  await page.getByRole('combobox', { name: 'Audio codec for Longmeadow' }).isVisible()
  await page.getByRole('textbox', { name: 'Audio bitrate for Flickerbrook' }).fill('256')
  await page.getByRole('textbox', { name: 'Audio bitrate for Flickerbrook' }).press('Enter')
  await page.getByRole('button', { name: 'Set 128 kb/s' }).click()
  await page.getByRole('button', { name: 'Show levels' }).click()
  await expect(page.getByRole('columnheader', { name: 'Heard now' })).toBeVisible()
  // The browser of the tests has a stand-in microphone that beeps, under a name of its own.
  const input = page.getByRole('combobox', { name: 'Lapel microphone is taken from' })
  const name = await input.locator('option').nth(1).textContent()
  await input.selectOption(name)
  await expect(page.locator('[data-sound="Lapel microphone"]')).toContainText(/−[1-7]\d dB|−\d dB/)
  await page.getByRole('button', { name: 'Stop listening' }).click()
  await untilSaved(page)
  const { sounds, destinations } = await demo.read()
  expect(sounds.find(({ id }) => id === 'bench-own')?.mixes.live).toBe(false)
  expect(sounds.find(({ id }) => id === 'bed')).toMatchObject({
    mixes: { live: true, archive: true },
    mayBeKept: true,
  })
  expect(sounds[0]?.input).toBe(name)
  expect(destinations[1]?.renditions[0]?.audioBitrateKbps).toBe(128)
})

test('sound, with the keyboard alone: adds, names, mutes and removes', async ({ page, demo }) => {
  await page.keyboard.press('Alt+2')
  await expect(page.getByRole('heading', { name: 'What is heard' })).toBeVisible()
  await page.keyboard.press('n')
  await expect(page.locator('[data-sound="Microphone"]')).toBeVisible()
  await tabTo(page, 'Mute Microphone')
  await page.keyboard.press('Space')
  await untilSaved(page)
  expect((await demo.read()).sounds.at(-1)).toMatchObject({
    name: 'Microphone',
    muted: true,
    channels: 1,
  })
  await tabTo(page, 'Remove Microphone')
  await page.keyboard.press('Enter')
  await untilSaved(page)
  expect((await demo.read()).sounds).toEqual(demoShow.sounds)
})
