import { readFileSync } from 'node:fs'
import {
  changeInWords,
  fitShow,
  nextStepInWords,
  nextStepOf,
  planChanges,
  planOf,
  planRows,
  withPlan,
} from '@green-mantle/core/plan'
import { lineOf, type Show } from '@green-mantle/core/show'
import { plannedDemoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, step, storeShow, test, untilSaved } from './fixtures'

test.use({ opensOn: 'fit' })

const plannedShow = withPlan(plannedDemoShow, fitShow(plannedDemoShow).parts ?? [])
const best = /^The best possible plan for/

/** The demo with the planner at work, on Fit. */
async function onFit(page: Page, address: string, show: Show = plannedShow) {
  const stored = await storeShow(address, show)
  await page.goto(`/shows/${stored.id}/fit`)
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(show.title)
  await expect(page.getByText(best)).toBeVisible()
  return stored
}
const bitrate = (page: Page, name: string) =>
  page.getByRole('textbox', { name: `Video bitrate for ${name}, kb/s` })

test('plans again by itself when the line changes, and undo takes both back', async ({
  page,
  stack,
}) => {
  const stored = await onFit(page, stack.application.address)
  const before = await bitrate(page, 'Longmeadow').inputValue()
  await step(page, 'Line').click()
  await page.getByRole('slider', { name: /Headroom/ }).focus()
  await page.keyboard.press('Home')
  const verdict = page.getByRole('contentinfo', { name: 'Upload strata' }).getByRole('status')
  await expect(verdict).toContainText('Fits')
  await step(page, 'Fit').click()
  // Without headroom there is still room for the peaks of the sends: 17.8 / 1.15.
  await expect(page.getByText('The best possible plan for 15.5 Mb/s')).toBeVisible()
  await expect(bitrate(page, 'Longmeadow')).not.toHaveValue(before)
  expect(Number(await bitrate(page, 'Longmeadow').inputValue())).toBeGreaterThan(Number(before))
  await untilSaved(page)
  const saved = await stored.read()
  expect(lineOf(saved).headroomPercent).toBe(0)
  expect(withPlan(saved, fitShow(saved).parts ?? [])).toEqual(saved)
  await page.getByRole('button', { name: /^Undo/ }).first().click()
  await expect(bitrate(page, 'Longmeadow')).toHaveValue(before)
})

test('a cell set by hand is pinned, kept by the planner, and unpinned', async ({ page, stack }) => {
  const stored = await onFit(page, stack.application.address)
  await page.getByLabel('Size for Longmeadow', { exact: true }).selectOption('1280×720')
  const pin = page.getByRole('button', { name: 'Unpin the size for Longmeadow' })
  await expect(pin).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByText(best)).toBeVisible()
  await expect(page.getByLabel('Size for Longmeadow', { exact: true })).toHaveValue('1280×720')
  await untilSaved(page)
  expect((await stored.read()).destinations[0]!.renditions[0]!.pins).toEqual(['size'])
  await page.getByRole('button', { name: 'Unpin all' }).click()
  await expect(page.getByLabel('Size for Longmeadow', { exact: true })).toHaveValue('1920×1080')
  await expectAccessible(page)
})

test('the next step up of the chosen send says what it costs the others', async ({
  page,
  stack,
}) => {
  await onFit(page, stack.application.address)
  for (const name of ['Flickerbrook', 'Longmeadow']) {
    await bitrate(page, name).focus()
    const next = nextStepOf(
      plannedShow,
      plannedShow.destinations.find((destination) => destination.name.startsWith(name))!.id,
    )
    expect(next).not.toBeNull()
    await expect(page.getByTestId('next-step')).toHaveText(nextStepInWords(next!))
  }
})

test('pins that collide are named, and what is left out', async ({ page, stack }) => {
  await onFit(page, stack.application.address)
  await bitrate(page, 'Longmeadow').fill('8900')
  await page.keyboard.press('Enter')
  await bitrate(page, 'Flickerbrook').fill('5900')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Left out, since not everything fits')).toBeVisible()
  const collision = page.getByText(/These cannot all be met at once/)
  await expect(collision).toContainText('the video bitrate for Longmeadow is pinned')
  await expect(collision).toContainText('the video bitrate for Flickerbrook is pinned')
})

test(
  'what has to be kept and does not fit is said, with how much is missing',
  { tag: '@deep' },
  async ({ page, stack }) => {
    await onFit(page, stack.application.address)
    await page.getByLabel('How much Longmeadow matters, 1 to 5').selectOption('3, keep')
    await page.getByLabel('How much Flickerbrook matters, 1 to 5').selectOption('3, keep')
    await bitrate(page, 'Longmeadow').fill('8900')
    await page.keyboard.press('Enter')
    await bitrate(page, 'Flickerbrook').fill('5900')
    await page.keyboard.press('Enter')
    await expect(page.getByText('No plan keeps what has to be kept')).toBeVisible()
    const missing = page.getByText(/The nearest plan misses by [\d.]+ Mb\/s of upload/)
    await expect(missing).toBeVisible()
    const [missMbps] = (await missing.innerText()).match(/\d+\.\d/)!
    // The plan that nearly fits is there to be looked at, and the strata say the same of it.
    await expect(page.getByText('This is the one that nearly does')).toBeVisible()
    const verdict = page.getByRole('contentinfo', { name: 'Upload strata' }).getByRole('status')
    await expect(verdict).toContainText(/[\d.]+ Mb\/s/)
    const [overMbps] = (await verdict.innerText()).match(/\d+\.\d/)!
    expect(Math.abs(Number(overMbps) - Number(missMbps))).toBeLessThanOrEqual(0.1)
  },
)

test('a recording is added, switched off and removed, and a route is left to the planner', async ({
  page,
  stack,
}) => {
  const stored = await onFit(page, stack.application.address)
  await page.getByRole('button', { name: 'Record the vertical canvas' }).click()
  await expect(page.locator('[data-send=Recording]')).toBeVisible()
  await page.getByRole('switch', { name: 'Archive file is on' }).click()
  await expect(page.locator('[data-send="Archive file"]')).toHaveCount(0)
  await page.getByRole('button', { name: 'Remove Recording' }).click()
  await page.locator('[data-send=Commonhall]').getByRole('button').first().click()
  await page.getByLabel('Route', { exact: true }).selectOption('planner chooses')
  await untilSaved(page)
  const saved = await stored.read()
  expect(saved.recordings.map(({ name, on }) => [name, on])).toEqual([['Archive file', false]])
  expect(saved.destinations[2]!.plan.routePinned).toBe(false)
})

test('ways to gain are ranked, tried with one click and undone with one', async ({
  page,
  stack,
}) => {
  const stored = await onFit(page, stack.application.address)
  const ways = page.getByRole('region', { name: 'Ways to gain' })
  await expect(ways.getByText('trying one after the other')).toHaveCount(0)
  await expect(ways.getByRole('listitem').first()).toContainText(/\+[\d.]+ points/)
  // Seven measurements are too few to give headroom up.
  await expect(ways.getByText(/Headroom of/)).toHaveCount(0)
  await expect(
    page.getByText(/One more Mb\/s of upload would lift .+ from \d+ to \d+/),
  ).toBeVisible()
  await ways.getByRole('button', { name: 'Try: Run at 30 fps everywhere' }).click()
  await expect(page.getByLabel('Frame rate for Longmeadow', { exact: true })).toHaveValue('30')
  const tried = ways.getByRole('group', { name: 'What was tried last' })
  await expect(tried).toContainText('Tried: Run at 30 fps everywhere')
  const after = fitShow({
    ...plannedShow,
    canvasPair: { ...plannedShow.canvasPair, framesPerSecond: 30 },
  })
  const changes = planChanges(
    planRows(plannedShow, planOf(plannedShow)),
    planRows(plannedShow, after.parts!),
  )
  expect(changes.length).toBeGreaterThan(0)
  await expect(tried.getByRole('listitem')).toHaveText(changes.map(changeInWords))
  await expectAccessible(page)
  await tried.getByRole('button', { name: 'Undo' }).click()
  await expect(tried).toHaveCount(0)
  await expect(page.getByLabel('Frame rate for Longmeadow', { exact: true })).toHaveValue('60')
  await untilSaved(page)
  expect((await stored.read()).canvasPair.framesPerSecond).toBe(60)
})

test('plans are kept, held side by side and chosen', async ({ page, stack }) => {
  const stored = await onFit(page, stack.application.address)
  // Everything that the planner chose, as the page shows it.
  const cells = (): Promise<string[]> =>
    page
      .getByRole('region', { name: 'Sends' })
      .locator('select, input[type=text]')
      .evaluateAll((fields) => fields.map((field) => (field as HTMLInputElement).value))
  const before = await cells()
  await page.getByRole('button', { name: 'Keep the present plan' }).click()
  // A plan that is still as good stays whole, so that it takes more than another priority.
  await page.getByLabel('Picture', { exact: true }).selectOption('action')
  await expect.poll(cells).not.toEqual(before)
  const plans = page.getByRole('region', { name: 'Plans side by side' })
  await expect(plans.getByText('(differs)').first()).toBeAttached()
  await plans.getByRole('button', { name: 'Choose Plan' }).click()
  await expect.poll(cells).toEqual(before)
  await expect(page.getByText(/^Cells are set by hand/)).toBeVisible()
  await page.getByRole('button', { name: 'Take the best plan' }).click()
  await expect.poll(cells).not.toEqual(before)
  await untilSaved(page)
  expect((await stored.read()).keptPlans).toHaveLength(1)
})

test(
  'how plans are chosen is set, and a plan is made afresh',
  { tag: '@deep' },
  async ({ page, stack }) => {
    const stored = await onFit(page, stack.application.address)
    await page.getByRole('button', { name: 'How plans are chosen' }).click()
    await page.getByLabel('Margin, points a destination').fill('0')
    await page.keyboard.press('Tab')
    await page.getByRole('switch', { name: 'Newer codecs where they are accepted' }).click()
    await page.keyboard.press('Escape')
    await expect(page.getByText(/proven to the hundredth of a point/)).toBeVisible()
    await expect(page.getByLabel('Codec for Longmeadow', { exact: true })).not.toHaveValue('h264')
    await page.getByRole('button', { name: 'Plan afresh' }).click()
    // What was saved before the plan came back says "saved" as well.
    await expect
      .poll(async () => {
        const { destinations, fit } = await stored.read()
        return { fit, isPlanned: destinations.every(({ on, plan }) => !on || plan.planned) }
      })
      .toMatchObject({ fit: { marginPoints: 0, newerCodecs: true }, isPlanned: true })
  },
)

test('the computer’s encoders are edited, and a speed is taken from a log', async ({
  page,
  stack,
}) => {
  const stored = await onFit(page, stack.application.address)
  await page.getByRole('link', { name: 'Encoders …' }).click()
  await page.getByRole('button', { name: 'Use Travel laptop' }).click()
  await expect(page.getByRole('region', { name: 'Built-in graphics encoder' })).toBeVisible()
  await page.getByRole('button', { name: 'Bring in a log of Processor, 4 cores' }).click()
  const log = page.getByRole('textbox', { name: 'The log, pasted' })
  await log.fill('frame=10 fps=30 speed=2x')
  await expect(page.getByRole('alert')).toContainText('does not say the size')
  await log.fill('Video: h264, yuv420p, 1280x720\nframe=900 fps=200 speed=3.3x')
  await expect(page.getByText('184 megapixels a second')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Take the speed' }).click()
  const speed = page.getByRole('textbox', {
    name: 'Processor, 4 cores: H.264, balanced, megapixels a second',
  })
  await expect(speed).toHaveValue('184.3')
  const free = page.getByRole('textbox', { name: 'Free for recordings' })
  const before = await free.inputValue()
  await page.getByRole('button', { name: 'Read what is free for recordings' }).click()
  await expect(free).not.toHaveValue(before)
  await untilSaved(page)
  const { computer } = await stored.read()
  expect(computer.name).toBe('Travel laptop')
  expect(computer.devices[0]!.throughputs).toContainEqual({
    codec: 'h264',
    effort: 'balanced',
    megapixelsPerSecond: 184.3,
  })
  await page.getByRole('link', { name: 'Fit', exact: true }).first().click()
  await expect(page.getByText('Built-in graphics encoder, encodes')).toBeVisible()
})

test('a simple question is answered without touching the show', async ({ page, stack }) => {
  const stored = await onFit(page, stack.application.address)
  const answer = page.locator('section', { hasText: 'One upload, one place' })
  await answer.getByRole('textbox', { name: 'Upload I have' }).fill('10 Mb/s')
  await page.keyboard.press('Enter')
  await answer.getByLabel('I want').selectOption('1080p60')
  await expect(answer).toContainText('6,700 kb/s, constant')
  await expect(answer).toContainText('H.264, High profile, level 4.2')
  expect(await stored.read()).toEqual(plannedShow)
})

test('with the keyboard alone: frees the planner, pins, tries and takes a plan', async ({
  page,
  stack,
}) => {
  const stored = await onFit(page, stack.application.address)
  await tabTo(page, 'Plan by itself')
  await page.keyboard.press('Space')
  await tabTo(page, 'Video bitrate for Longmeadow, kb/s')
  await page.keyboard.type('4000')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Cells are set by hand/)).toBeVisible()
  await tabTo(page, 'Pin the codec for Longmeadow', 400)
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Cells are set by hand/)).toBeVisible()
  await tabTo(page, 'Take the best plan', 400)
  await page.keyboard.press('Enter')
  await expect(page.getByText(best)).toBeVisible()
  await untilSaved(page)
  const [longmeadow] = (await stored.read()).destinations
  expect(longmeadow!.renditions[0]!.pins).toEqual(['codec'])
  expect(longmeadow!.renditions[0]!.videoBitrateKbps).not.toBe(4000)
})

test('the plan leaves as JSON and as an encoder script', async ({ page, stack }) => {
  await onFit(page, stack.application.address)
  const take = async (name: string): Promise<string> => {
    await page.getByRole('button', { name: 'Take away' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('menuitem', { name }).click()
    return readFileSync(await (await download).path(), 'utf8')
  }
  expect(JSON.parse(await take('Plan, JSON')).plan.encodes).toHaveLength(4)
  expect(await take('Encoder script, shell')).toContain('LONGMEADOW_URL')
})
