import { execFileSync } from 'node:child_process'
import { plannedDemoShow } from '@green-mantle/demo'
import { expect, expectAccessible, storeShow, test, untilSaved } from './fixtures'
import { meant } from '../meant'

test('a clip of mine is measured, and the show is judged by it', async ({
  page,
  stack,
}, testInfo) => {
  const clip = testInfo.outputPath('Repotting.mp4')
  execFileSync('ffmpeg', [
    ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi'],
    ...['-i', 'mandelbrot=size=320x180:rate=60', '-t', '1'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '14', '-pix_fmt', 'yuv420p', clip],
  ])
  const still = testInfo.outputPath('Bench.mp4')
  execFileSync('ffmpeg', [
    ...['-loglevel', 'error', '-nostdin', '-y', '-i', clip, '-vf', 'trim=end_frame=1,loop=60:1'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '14', '-pix_fmt', 'yuv420p', still],
  ])
  const stored = await storeShow(stack.application.address, plannedDemoShow)
  await page.goto(`/shows/${stored.id}/fit`)
  await page.getByRole('link', { name: 'Measure mine' }).click()
  const card = page.getByRole('region', { name: 'Measure my picture' })
  // Three make no picture; a still scene and a lively one do.
  const choose = async (...files: string[]): Promise<void> => {
    const choosing = page.waitForEvent('filechooser')
    await card.getByRole('button', { name: /^Measure/ }).click()
    await (await choosing).setFiles(files)
  }
  await choose(clip, still, clip)
  await expect(card).toContainText('At most 2 clips are measured at once')
  await choose(clip, still)
  await expect(card.getByRole('progressbar')).toBeVisible()
  // This computer is not measured meanwhile.
  const second = await fetch(`${stack.application.address}/api/computer/measuring`, {
    method: 'POST',
    headers: { ...meant, 'content-type': 'application/json' },
    body: JSON.stringify({ pass: 'quick' }),
  })
  expect(second.status).toBe(409)
  const use = card.getByRole('button', { name: 'Use in this show' })
  // Sixteen encodes, at whatever pace this computer has.
  await expect(use).toBeVisible({ timeout: 300_000 })
  await use.click()
  await expect(card).toContainText('This show uses it')
  await card.getByText('The 16 encodes').click()
  await expect(card.getByRole('row')).toHaveCount(17)
  await expectAccessible(page)
  await untilSaved(page)
  expect((await stored.read()).pictureKind).toBe('own')

  await page.getByRole('link', { name: 'Fit', exact: true }).first().click()
  const picture = page.getByLabel('Picture', { exact: true })
  await expect(picture).toHaveValue('own')
  await expect(picture).toContainText('my clip: Repotting.mp4 and Bench.mp4')
  // What was measured stays with the show when another kind is chosen.
  await picture.selectOption('hands')
  await untilSaved(page)
  const show = await stored.read()
  expect([show.pictureKind, show.ownPicture?.points.length]).toEqual(['hands', 16])
})
