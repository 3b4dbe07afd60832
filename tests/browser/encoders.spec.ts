import { plannedDemoShow } from '@green-mantle/demo'
import { expect, expectAccessible, storeShow, test, untilSaved } from './fixtures'

test('this computer is measured until it is stopped, and what is known is used in the show', async ({
  page,
  stack,
}) => {
  test.setTimeout(150_000)
  const stored = await storeShow(stack.application.address, plannedDemoShow)
  await page.goto(`/shows/${stored.id}/encoders`)
  const card = page.getByRole('region', { name: 'Measure this computer' })
  await card.getByRole('button', { name: /^Quick/ }).click()
  await expect(card.getByRole('progressbar')).toBeVisible()
  // Another window sees the same measuring, and cannot begin a second one.
  const second = await fetch(`${stack.application.address}/api/computer/measuring`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ pass: 'quick' }),
  })
  expect(second.status).toBe(409)
  await expect(card.getByRole('rowheader', { name: /H\.264/ })).toBeVisible({ timeout: 60_000 })
  await card.getByRole('button', { name: /^Stop/ }).click()
  await card.getByRole('button', { name: 'Use what was measured in this show' }).click()
  await expect(card).toContainText('were measured on this computer')
  await expectAccessible(page)
  await untilSaved(page)
  const { computer } = await stored.read()
  expect(computer.measured?.carries.rtmps).toEqual(['h264'])
  expect(computer.devices[0]?.throughputs[0]?.codec).toBe('h264')
  expect(computer.freeDiskGigabytes).toBeGreaterThan(0)
  // Kept for every other show of this installation.
  await page.reload()
  await expect(card).toContainText('This show uses what was measured')
  await page.keyboard.press('Control+z')
})
