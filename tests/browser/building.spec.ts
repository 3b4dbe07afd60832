import { readFileSync } from 'node:fs'
import { newShow, type Placement, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import {
  drag,
  goToCanvas,
  goToNumbers,
  number,
  pointOn,
  redoAll,
  row,
  tabTo,
  undoAll,
} from './canvasHands'
import { expect, storeShow, test, untilSaved } from './fixtures'

const glasshouse = new URL('../../demo/pictures/glasshouse-night.svg', import.meta.url).pathname
const canvas = (page: Page, name: string) => page.locator(`[data-canvas=${name}]`)

function emptyShow(): Show {
  let last = 0
  return {
    ...newShow(() => `id-${(last += 1)}`, { startsAt: '2026-12-12T21:00', timeZone: 'UTC' }),
    title: 'From nothing',
  }
}

type Box = readonly [x: number, y: number, width: number, height: number]
const boxOf = ({ x, y, width, height }: Placement): Box => [x, y, width, height]
const petals = demoShow.scenes[0]!.layers
/** The demo's boxes of a source in Petals wide. */
const wanted = (sourceId: string, on: 'landscape' | 'vertical'): Box =>
  boxOf(petals.find((layer) => layer.sourceId === sourceId)![on])

/** Within a few canvas pixels, which is one or two on the screen. */
function expectNear(placement: Placement, box: Box, within: number): void {
  boxOf(placement).forEach((value, index) => {
    expect(Math.abs(value - box[index]!), `${boxOf(placement)} against ${box}`).toBeLessThanOrEqual(
      within,
    )
  })
}

async function textOf(address: string, id: string): Promise<string> {
  return (await fetch(`${address}/api/shows/${id}`)).text()
}

/** Where the chosen source stands, as the fields say. */
async function boxNow(page: Page, on: string): Promise<Box> {
  const read = async (label: string) =>
    Number(await number(page, `${label} on ${on}, px`).inputValue())
  return [await read('X'), await read('Y'), await read('W'), await read('H')]
}

/** From the box that a new source has to the one that is wanted: its place, then its size by the lower right handle. */
async function placeByHand(page: Page, on: string, from: Box, to: Box, keys: string[] = []) {
  const [x, y, width, height] = from
  // A little beside the middle, where a guide's line could not be in the way; Ctrl moves freely.
  const grip = { x: width / 2 + 3, y: height / 2 + 3 }
  await drag(
    page,
    await pointOn(page, on, x + grip.x, y + grip.y),
    await pointOn(page, on, to[0] + grip.x, to[1] + grip.y),
    ['Control'],
  )
  // A handle on the canvas's very edge is taken by its inner half.
  const handle = await pointOn(page, on, to[0] + width - 4, to[1] + height - 4)
  await drag(page, handle, await pointOn(page, on, to[0] + to[2] - 4, to[1] + to[3] - 4), [
    ...keys,
    'Control',
  ])
}

async function pickKind(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'Source', exact: true }).click()
  await page.getByRole('button', { name: kind, exact: true }).click()
}

/** Waits until the new one is chosen, since the one before it would be renamed and moved else. */
async function untilChosen(page: Page, kind: string): Promise<void> {
  await expect(
    page
      .getByRole('complementary', { name: 'The chosen source' })
      .getByRole('heading', { name: kind, exact: true }),
  ).toBeVisible()
}

async function addByMouse(page: Page, kind: string): Promise<void> {
  await pickKind(page, kind)
  await untilChosen(page, kind)
}

async function rename(page: Page, name: string): Promise<void> {
  await page.getByLabel('Name', { exact: true }).fill(name)
  await page.getByLabel('Name', { exact: true }).press('Enter')
  await expect(page.getByRole('heading', { name })).toBeVisible()
}

test('builds Petals wide from an empty show with the mouse, and undoes and redoes the lot', async ({
  page,
  stack,
}) => {
  const stored = await storeShow(stack.application.address, emptyShow())
  await page.goto(`/shows/${stored.id}/canvases`)
  await page.getByRole('button', { name: 'Begin empty' }).click()
  await expect(canvas(page, 'vertical').locator('canvas').first()).toBeVisible()
  const before = await textOf(stack.application.address, stored.id)

  const chooser = page.waitForEvent('filechooser')
  await pickKind(page, 'Picture …')
  await (await chooser).setFiles(glasshouse)
  await expect(page.getByRole('heading', { name: 'glasshouse-night' })).toBeVisible()
  for (const on of ['landscape', 'vertical']) {
    const point = await pointOn(page, on, 500, 900)
    await page.mouse.click(point.x, point.y)
    await page.getByRole('button', { name: 'Fill', exact: true }).click()
  }

  // The petal camera fills the landscape and, trimmed at its sides, the lower part of the vertical.
  await addByMouse(page, 'Camera')
  await rename(page, 'Petal macro')
  const middle = await pointOn(page, 'landscape', 960, 540)
  await page.mouse.click(middle.x, middle.y)
  await page.getByRole('button', { name: 'Fill', exact: true }).click()
  const [x, y, width, height] = wanted('petal-macro', 'vertical')
  for (const [from, to] of [
    [2, 290],
    [1078, 790],
  ] as const)
    await drag(
      page,
      await pointOn(page, 'vertical', from, 960),
      await pointOn(page, 'vertical', to, 960),
      ['Alt'],
    )
  await placeByHand(page, 'vertical', [290, 656, 500, 608], [x, y, width, height])
  await row(page, 'Petal macro')
    .getByRole('button', { name: /unlocked, lock it/ })
    .click()
  await row(page, 'glasshouse-night')
    .getByRole('button', { name: /unlocked, lock it/ })
    .click()

  await addByMouse(page, 'Screen')
  await rename(page, 'Growth chart')
  await page.getByRole('button', { name: /Growth chart on vertical: shown/ }).click()
  await placeByHand(
    page,
    'landscape',
    await boxNow(page, 'landscape'),
    wanted('growth-chart', 'landscape'),
  )

  await addByMouse(page, 'Camera')
  await rename(page, 'Bench camera')
  await placeByHand(
    page,
    'landscape',
    await boxNow(page, 'landscape'),
    wanted('bench-camera', 'landscape'),
  )
  await placeByHand(
    page,
    'vertical',
    await boxNow(page, 'vertical'),
    wanted('bench-camera', 'vertical'),
  )

  await addByMouse(page, 'Goal bar')
  await rename(page, 'Seed fund goal')
  await placeByHand(
    page,
    'landscape',
    await boxNow(page, 'landscape'),
    wanted('seed-fund', 'landscape'),
    ['Shift'],
  )
  await placeByHand(
    page,
    'vertical',
    await boxNow(page, 'vertical'),
    wanted('seed-fund', 'vertical'),
    ['Shift'],
  )
  await untilSaved(page)

  const built = await stored.read()
  const layers = new Map(
    built.scenes[0]!.layers.map((layer) => [
      built.sources.find(({ id }) => id === layer.sourceId)!.name,
      layer,
    ]),
  )
  expect([...layers.keys()]).toEqual([
    'Seed fund goal',
    'Bench camera',
    'Growth chart',
    'Petal macro',
    'glasshouse-night',
  ])
  expectNear(layers.get('Bench camera')!.landscape, wanted('bench-camera', 'landscape'), 8)
  expectNear(layers.get('Bench camera')!.vertical, wanted('bench-camera', 'vertical'), 8)
  expectNear(layers.get('Growth chart')!.landscape, wanted('growth-chart', 'landscape'), 8)
  expect(layers.get('Growth chart')!.vertical.shown).toBe(false)
  expectNear(layers.get('Seed fund goal')!.landscape, wanted('seed-fund', 'landscape'), 8)
  expectNear(layers.get('Seed fund goal')!.vertical, wanted('seed-fund', 'vertical'), 8)
  expectNear(layers.get('Petal macro')!.landscape, wanted('petal-macro', 'landscape'), 8)
  expectNear(layers.get('Petal macro')!.vertical, wanted('petal-macro', 'vertical'), 12)
  // 1031 of 3840 is 515 of the stand-in's 1920.
  expect(Math.abs(layers.get('Petal macro')!.vertical.trim.left - 515)).toBeLessThan(12)
  expect(layers.get('glasshouse-night')!.vertical).toMatchObject({
    y: 0,
    height: 1920,
    locked: true,
  })

  const after = await textOf(stack.application.address, stored.id)
  await canvas(page, 'landscape').focus()
  expect(await undoAll(page)).toBeGreaterThan(20)
  await untilSaved(page)
  expect(await textOf(stack.application.address, stored.id)).toBe(before)
  await redoAll(page)
  await untilSaved(page)
  expect(await textOf(stack.application.address, stored.id)).toBe(after)
})

test(
  'builds Petals wide from an empty show by keyboard alone',
  { tag: '@deep' },
  async ({ page, stack }) => {
    const stored = await storeShow(stack.application.address, emptyShow())
    await page.goto(`/shows/${stored.id}/canvases`)
    await tabTo(page, 'Begin empty')
    await page.keyboard.press('Enter')
    await expect(canvas(page, 'vertical').locator('canvas').first()).toBeVisible()
    const press = async (...keys: string[]) => {
      for (const key of keys) await page.keyboard.press(key)
    }
    const addSource = async (kind: string, name: string) => {
      await press('n')
      await tabTo(page, kind)
      await press('Enter')
      await untilChosen(page, kind)
      await goToNumbers(page)
      await tabTo(page, 'Name')
      await page.keyboard.type(name)
      await press('Enter', 'Escape')
      await expect(page.getByRole('heading', { name })).toBeVisible()
    }
    /** X, Y, W and H stand in two columns: landscape, then vertical. */
    const typeBoxes = async (landscape: Box, vertical: Box) => {
      await goToNumbers(page)
      for (const index of [0, 1, 2, 3])
        for (const box of [landscape, vertical]) {
          await page.keyboard.type(String(box[index]))
          await press('Tab')
        }
      await press('Escape')
    }

    const chooser = page.waitForEvent('filechooser')
    await press('n')
    await tabTo(page, 'Picture …')
    await press('Enter')
    await (
      await chooser
    ).setFiles({
      name: 'Glasshouse night.svg',
      mimeType: 'image/svg+xml',
      buffer: readFileSync(glasshouse),
    })
    await expect(page.getByRole('heading', { name: 'Glasshouse night' })).toBeVisible()
    await goToCanvas(page, 'landscape')
    await press('Shift+F')
    await goToCanvas(page, 'vertical')
    await press('Shift+F', 'l')

    await addSource('Camera', 'Petal macro')
    await tabTo(page, /^Trim, in its own pixels/)
    await press('Enter')
    // The section stays open from here on.
    for (const label of ['Left trim on vertical, px', 'Right trim on vertical, px']) {
      await tabTo(page, label)
      await page.keyboard.type('515')
      await press('Tab')
    }
    await press('Escape')
    await typeBoxes(wanted('petal-macro', 'landscape'), wanted('petal-macro', 'vertical'))
    await goToCanvas(page, 'landscape')
    await press('l')

    await addSource('Screen', 'Growth chart')
    await typeBoxes(wanted('growth-chart', 'landscape'), [0, 0, 1080, 608])
    await goToCanvas(page, 'landscape')
    await press('h', 'v')

    await addSource('Camera', 'Bench camera')
    await typeBoxes(wanted('bench-camera', 'landscape'), wanted('bench-camera', 'vertical'))

    await addSource('Goal bar', 'Seed fund goal')
    await typeBoxes(wanted('seed-fund', 'landscape'), wanted('seed-fund', 'vertical'))
    await untilSaved(page)

    const { scenes, sources } = await stored.read()
    const names = new Map(sources.map(({ id, name }) => [id, name]))
    expect(scenes[0]!.layers.map(({ sourceId }) => names.get(sourceId))).toEqual([
      'Seed fund goal',
      'Bench camera',
      'Growth chart',
      'Petal macro',
      'Glasshouse night',
    ])
    scenes[0]!.layers.slice(0, 4).forEach((layer, index) => {
      const { sourceId } = petals[index]!
      expectNear(layer.landscape, wanted(sourceId, 'landscape'), 0)
      if (sourceId !== 'growth-chart') expectNear(layer.vertical, wanted(sourceId, 'vertical'), 0)
    })
    expect(scenes[0]!.layers[3]!.vertical.trim).toEqual({
      left: 515,
      top: 0,
      right: 515,
      bottom: 0,
    })
    expect(scenes[0]!.layers[3]!.vertical.locked).toBe(true)
    expect(scenes[0]!.layers[2]!.vertical.shown).toBe(false)
    await expect(number(page, 'X on landscape, px')).toHaveValue('1330')
  },
)
