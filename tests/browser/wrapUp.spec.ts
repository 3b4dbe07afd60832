import type { Happening } from '@green-mantle/core/night'
import { demoShow } from '@green-mantle/demo'
import { expect, expectAccessible, storeShow, test } from './fixtures'
import { meant } from '../meant'

let last = 0

/** Puts happenings into the log of a show, as a window or the sender would. */
async function happened(address: string, id: string, ...happenings: Happening[]): Promise<void> {
  const answer = await fetch(`${address}/api/shows/${id}/night/events`, {
    method: 'POST',
    headers: { ...meant, 'content-type': 'application/json', origin: address },
    body: JSON.stringify(
      happenings.map((happening) => ({
        ...{ id: `wrapped-${(last += 1)}-of-${id}`.slice(0, 40), who: 'sender', agoSeconds: 0 },
        happening,
      })),
    ),
  })
  expect(answer.status).toBeLessThan(300)
}

const main = demoShow.destinations[0]!.renditions[0]!
const plannedKbps = main.videoBitrateKbps + main.audioBitrateKbps
const sent: Happening = {
  ...{ kind: 'sent', destinationId: 'longmeadow', name: 'Longmeadow', isBackup: false },
  ...{ seconds: 7200, meanKbps: plannedKbps, plannedKbps, reconnects: 1 },
  ...{ sentFrames: 200_000, lostFrames: 16_000 },
  viewed: { awaySeconds: 20, freezes: 2, frozenSeconds: 14 },
}
const carried: Happening = {
  ...{ kind: 'carried', seconds: 7200, meanKbps: 9000 },
  shortages: [{ startedAt: '2026-12-12T21:10:00Z', seconds: 40, carriedKbps: 6100 }],
}
const encoded: Happening = {
  ...{ kind: 'encoded', canvas: 'landscape', seconds: 7200, speed: 1 },
  ...{ processorShare: 0.6, pictureShare: 0, plannedShare: 0.4 },
}

test('a wrap-up says what viewers had, and what was learnt goes into the next show', async ({
  page,
  stack,
}) => {
  const { address } = stack.application
  const { id } = await storeShow(address, demoShow)
  await happened(address, id, { kind: 'begun' }, sent, carried, encoded, { kind: 'over' })
  await page.goto(`/wrap-ups/${id}`)
  const row = page.getByRole('row', { name: /^Longmeadow/ })
  await expect(row).toContainText(/score [\d.]+, planned [\d.]+/)
  await expect(row).toContainText('stood still twice, 14 s')
  await expect(page.getByText(/Short from .* for 40 s: it carried 6\.1 Mb\/s\./)).toBeVisible()
  await expect(
    page.getByText(/landscape canvas took 60 % of the processor, planned 40 %/).first(),
  ).toBeVisible()
  await expectAccessible(page)

  // The processor as it was planned with is left; the measurement is taken.
  await page.getByRole('switch', { name: 'Take what the encodes took of the processor' }).click()
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page).toHaveURL(/\/destinations$/)
  const nextId = /shows\/([^/]+)/.exec(page.url())?.[1]
  const answer = await fetch(`${address}/api/shows/${nextId}`)
  const { lines, lineId, computer } = (await answer.json()) as typeof demoShow
  const samples = lines.find((line) => line.id === lineId)!.samples
  expect(samples.at(-1)).toMatchObject({ uploadKbps: 6100, measuredAt: '2026-12-12T21:10:00Z' })
  expect(computer).toEqual(demoShow.computer)
})

test('an earlier night keeps its page after another was begun', async ({ page, stack }) => {
  const { address } = stack.application
  const { id } = await storeShow(address, demoShow)
  const noted = (text: string): Happening => ({ kind: 'noted', text })
  await happened(address, id, { kind: 'begun' }, noted('A bulb broke'), sent, { kind: 'new night' })
  // What is changed for the next night says nothing of the one before.
  const changed = await fetch(`${address}/api/shows/${id}`, {
    method: 'PUT',
    headers: { ...meant, 'content-type': 'application/json', origin: address, 'if-match': '"1"' },
    body: JSON.stringify({ ...demoShow, title: 'Second Bloom' }),
  })
  expect(changed.status).toBe(200)
  await happened(address, id, { kind: 'begun' }, noted('All is well'))
  await page.goto(`/wrap-ups/${id}`)
  await expect(page.getByText('All is well')).toBeVisible()
  await expect(page.getByText('A bulb broke')).toBeHidden()
  const night = page.getByRole('combobox', { name: 'Night' })
  await night.selectOption({ index: 1 })
  await expect(page.getByText('A bulb broke')).toBeVisible()
  await expect(page.getByText('All is well')).toBeHidden()
  await expect(page.getByText(/held against the show as it stood when the next/)).toBeVisible()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`${demoShow.title}: wrap-up`)
  await expect(page.getByRole('row', { name: /^Longmeadow/ })).toContainText('stood still twice')
  await expectAccessible(page)
  await night.selectOption('the last one')
  await expect(page.getByText('All is well')).toBeVisible()
})

test('a wrap-up has the colours of the night on the screen and those of the day on paper', async ({
  page,
  stack,
}) => {
  const { id } = await storeShow(stack.application.address, demoShow)
  const colours = () =>
    page.evaluate(() => {
      const { backgroundColor, color } = getComputedStyle(document.body)
      return { backgroundColor, color }
    })
  await page.emulateMedia({ colorScheme: 'dark' })
  await page.goto(`/wrap-ups/${id}`)
  // Nothing was kept of it, so that there is nothing to read but that.
  await expect(page.getByText(/This night has not begun/)).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Kept as it happened' })).toBeHidden()
  expect(await colours()).toEqual({
    backgroundColor: 'rgb(17, 25, 20)',
    color: 'rgb(236, 239, 226)',
  })
  await expectAccessible(page)
  await page.emulateMedia({ colorScheme: 'dark', media: 'print' })
  expect((await colours()).color).toBe('rgb(31, 42, 35)')
})
