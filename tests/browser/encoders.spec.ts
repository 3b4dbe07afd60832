import { execFileSync } from 'node:child_process'
import { plannedDemoShow } from '@green-mantle/demo'
import { expect, expectAccessible, storeShow, test, untilSaved } from './fixtures'
import { meant } from '../meant'

test(
  'this computer is measured until it is stopped, and what is known is used in the show',
  { tag: '@real-time' },
  async ({ page, stack }) => {
    const stored = await storeShow(stack.application.address, plannedDemoShow)
    await page.goto(`/shows/${stored.id}/encoders`)
    const card = page.getByRole('region', { name: 'Measure this computer' })
    await card.getByRole('button', { name: /^Quick/ }).click()
    await expect(card.getByRole('progressbar')).toBeVisible()
    // Another window sees the same measuring, and cannot begin a second one.
    const second = await fetch(`${stack.application.address}/api/computer/measuring`, {
      method: 'POST',
      headers: { ...meant, 'content-type': 'application/json' },
      body: JSON.stringify({ pass: 'quick' }),
    })
    expect(second.status).toBe(409)
    await expect(card.getByRole('rowheader', { name: /H\.264/ })).toBeVisible()
    await card.getByRole('button', { name: /^Stop/ }).click()
    await card.getByRole('button', { name: 'Use what was measured in this show' }).click()
    await expect(card).toContainText('were measured on this computer')
    await expectAccessible(page)
    await untilSaved(page)
    const { computer } = await stored.read()
    expect(computer.measured?.carries.rtmps).toEqual(['h264', 'hevc', 'av1'])
    expect(computer.devices[0]?.throughputs[0]?.codec).toBe('h264')
    expect(computer.freeDiskGigabytes).toBeGreaterThan(0)
    // Kept for every other show of this installation.
    await page.reload()
    await expect(card).toContainText('This show uses what was measured')
    await page.keyboard.press('Control+z')
  },
)

test(
  'what encoders get out of a bit is measured by a clip that is chosen, and one that is none is said',
  { tag: '@deep' },
  async ({ page, stack }, info) => {
    const stored = await storeShow(stack.application.address, plannedDemoShow)
    await page.goto(`/shows/${stored.id}/encoders`)
    const card = page.getByRole('region', { name: 'Measure this computer' })
    await card.getByLabel('Thorough, by').selectOption({ label: 'a file …' })
    const choose = async (path: string): Promise<void> => {
      const choosing = page.waitForEvent('filechooser')
      await card.getByRole('button', { name: /^Thorough/ }).click()
      await (await choosing).setFiles(path)
    }
    const clip = (seconds: number): string => {
      const path = info.outputPath(`clip-${seconds}.mp4`)
      const made = ['-f', 'lavfi', '-i', `testsrc2=size=320x180:rate=30:duration=${seconds}`]
      execFileSync('ffmpeg', ['-v', 'error', ...made, '-pix_fmt', 'yuv420p', path])
      return path
    }
    await choose(clip(0.5))
    await expect(card.getByRole('alert')).toContainText('This clip is 0.5 s long')
    await choose(clip(3))
    await expect(card.getByRole('progressbar')).toBeVisible()
    await expect(card).toContainText(/Decoding|libx264/)
    await card.getByRole('button', { name: /^Stop/ }).click()
    await expect(card.getByRole('button', { name: /^Thorough/ })).toBeVisible()
    await expectAccessible(page)
  },
)

test(
  'the browser’s own encoders are measured by keyboard, stopped, and used in the show',
  { tag: '@real-time' },
  async ({ page, stack }) => {
    const stored = await storeShow(stack.application.address, plannedDemoShow)
    await page.goto(`/shows/${stored.id}/encoders`)
    const card = page.getByRole('region', { name: 'Measure this browser’s computer' })
    await card.getByRole('button', { name: /^Measure/ }).press('Enter')
    await expect(card.getByRole('progressbar')).toBeVisible()
    // Both sizes of the first way of working.
    await expect(card).toContainText('balanced')
    await card.getByRole('button', { name: /^Stop/ }).press('Enter')
    await expect(
      card.getByRole('rowheader', { name: /^Processor, \d+ threads, H\.264$/ }),
    ).toBeVisible()
    await expectAccessible(page)
    await card.getByRole('button', { name: 'Use what it measured' }).press('Enter')
    await expect(page.getByText('by this browser, on the machine that it runs on')).toBeVisible()
    await untilSaved(page)
    const { computer } = await stored.read()
    expect(computer.measured?.program).toMatch(/, WebCodecs$/)
    const [speed] = computer.devices[0]!.throughputs
    expect(speed).toMatchObject({ codec: 'h264', effort: 'fastest' })
    expect(speed!.megapixelsPerSecond).toBeGreaterThan(5)
    // Remembered by the browser, not by the server; what somebody spoilt there is as if it were not.
    await page.reload()
    await expect(card).toContainText('This show uses what it measured')
    await page.evaluate(() => localStorage.setItem('green-mantle.browser-computer', '{"name":'))
    await page.reload()
    await expect(card.getByRole('button', { name: /^Measure/ })).toBeVisible()
    await expect(card).not.toContainText('This show uses what it measured')
  },
)
