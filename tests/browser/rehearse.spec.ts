import { fitShow, withPlan } from '@green-mantle/core/plan'
import { lineOf, type Show } from '@green-mantle/core/show'
import { plannedDemoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { tabTo, undoAll } from './canvasHands'
import { expect, expectAccessible, storeShow, test, untilSaved } from './fixtures'

const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])
/** Twenty minutes, with measurements enough to set a headroom by. */
const short = planned({
  ...plannedDemoShow,
  durationMinutes: 20,
  lines: plannedDemoShow.lines.map((line) => ({
    ...line,
    headroomPercent: 45,
    samples: Array.from({ length: 24 }, (_, index) => ({
      ...line.samples[0]!,
      id: `sample-${index}`,
      uploadKbps: 17_000 + 150 * (index % 12),
    })),
  })),
})

async function onRehearse(page: Page, address: string, show: Show) {
  const stored = await storeShow(address, show)
  await page.goto(`/shows/${stored.id}/rehearse`)
  return stored
}
const night = (page: Page) => page.getByRole('heading', { name: /^Night 1$/ })

test('an incident is put in, moved and stretched by mouse, and told in the log', async ({
  page,
  stack,
}) => {
  const stored = await onRehearse(page, stack.application.address, short)
  await expect(night(page)).toBeVisible()
  await page.getByRole('button', { name: 'Add: The line is cut' }).click()
  const flag = page.getByRole('button', { name: /^cut, 10 s, at/ })
  await expect(flag).toBeVisible()
  const log = page.getByRole('region', { name: 'What happened that night' })
  await expect(log).toContainText('loses its connection. The line, not the computer.')
  await expect(page.locator('[data-lane=Commonhall]')).toContainText('%')

  await flag.scrollIntoViewIfNeeded()
  const before = (await flag.boundingBox())!
  await page.mouse.move(before.x + 8, before.y + 8)
  await page.mouse.down()
  await page.mouse.move(before.x + 60, before.y + 8, { steps: 5 })
  await page.mouse.up()
  await expect
    .poll(async () => (await stored.read()).rehearsal.incidents[0]?.atSeconds ?? 0)
    .toBeGreaterThan(400)
  await expectAccessible(page)
  await page.getByLabel('For', { exact: true }).fill('1')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^cut, 1 s, at/ })).toBeVisible()
  // The whole drag is one step.
  expect(await undoAll(page)).toBe(3)
  await untilSaved(page)
  expect((await stored.read()).rehearsal.incidents).toEqual([])
})

test('many nights are run and stopped, headroom is found and set with one undo', async ({
  page,
  stack,
}) => {
  const stored = await onRehearse(page, stack.application.address, short)
  await expect(night(page)).toBeVisible()
  await page.getByRole('button', { name: 'Run 1,000 nights' }).click()
  await expect(page.getByRole('heading', { name: /^Clean on \d+ of 100 nights$/ })).toBeVisible()
  await page.getByRole('button', { name: /^Stop at \d+/ }).click()
  await expect(page.getByRole('button', { name: 'Run 1,000 nights' })).toBeVisible()
  // What was known when it was stopped is kept with the show.
  await expect(page.getByRole('contentinfo')).toContainText(/clean on \d+ of 100 nights/)
  await untilSaved(page)
  const { last } = (await stored.read()).rehearsal
  expect(last!.nights).toBeGreaterThan(0)
  expect(last!.nights).toBeLessThan(1000)
  await page.getByRole('button', { name: 'the worst' }).click()

  await page.getByRole('button', { name: 'Find it' }).click()
  await expect(page.getByText(/of 12 headrooms/)).toBeVisible()
  await expect(page.getByText('headrooms, each planned anew')).toHaveCount(0)
  const set = page.getByRole('button', { name: /^Set \d+ %$/ })
  await expect(set).toBeVisible()
  const percent = Number(/\d+/.exec((await set.textContent())!)![0])
  await set.click()
  await untilSaved(page)
  expect(lineOf(await stored.read()).headroomPercent).toBe(percent)
  await expect(page.getByRole('contentinfo')).toContainText('rehearsed before it changed')
  await page.keyboard.press('Control+z')
  await untilSaved(page)
  expect(lineOf(await stored.read()).headroomPercent).toBe(45)
})

test(
  'the headroom follows the wish for clean nights while that is kept on',
  { tag: '@deep' },
  async ({ page, stack }) => {
    const stored = await onRehearse(page, stack.application.address, short)
    await expect(night(page)).toBeVisible()
    await page.getByRole('switch', { name: 'Let the headroom follow this wish' }).click()
    await expect.poll(async () => lineOf(await stored.read()).headroomPercent).toBeLessThan(45)
    const show = await stored.read()
    expect(show.rehearsal.headroomFollows).toBe(true)
    expect(fitShow(show).parts).not.toBeNull()
  },
)

test('with the keyboard alone: runs, adds an incident, moves and stretches it, looks along the night', async ({
  page,
  stack,
}) => {
  const stored = await onRehearse(page, stack.application.address, short)
  await expect(night(page)).toBeVisible()
  await tabTo(page, 'Add: A sync starts')
  await page.keyboard.press('Enter')
  const flag = /^sync, 6 Mb\/s, 8 min, at/
  await expect(page.getByRole('button', { name: flag })).toBeVisible()
  await page.keyboard.press('Alt+5')
  await page.keyboard.press('Alt+6')
  await expect(page.getByRole('button', { name: flag })).toBeVisible()
  await tabTo(page, flag)
  for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowRight']) await page.keyboard.press(key)
  await untilSaved(page)
  const [incident] = (await stored.read()).rehearsal.incidents
  expect(incident).toMatchObject({ atSeconds: 380, durationSeconds: 490 })
  await tabTo(page, 'Time of the night')
  for (let count = 0; count < 5; count += 1) await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('at-cursor')).toContainText('21:00:05')
  await expect(page.getByTestId('at-cursor')).toContainText('Longmeadow steady')
  await page.keyboard.press('Delete')
  await tabTo(page, flag)
  await page.keyboard.press('Delete')
  await untilSaved(page)
  expect((await stored.read()).rehearsal.incidents).toEqual([])
})

test('a show that does not fit rehearses all the same, and blames the line', async ({
  page,
  stack,
}) => {
  const over = {
    ...short,
    fit: { ...short.fit, automatic: false },
    destinations: short.destinations.map((each) => ({
      ...each,
      sending: { ...each.sending, whenBehind: 'drop' as const },
      renditions: each.renditions.map((one) => ({ ...one, videoBitrateKbps: 9000 })),
    })),
  }
  await onRehearse(page, stack.application.address, over)
  await expect(night(page)).toBeVisible()
  const log = page.getByRole('region', { name: 'What happened that night' })
  await expect(log).toContainText('begins to drop frames. The line, not the computer.')
})
