import { readFileSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { choose, drag, pointOn, row } from './canvasHands'
import { expect, expectAccessible, test, untilSaved } from './fixtures'

const canvas = (page: Page, name: string) => page.locator(`[data-canvas=${name}]`)
const placement = async (demo: { read(): Promise<typeof demoShow> }, index: number, scene = 0) =>
  (await demo.read()).scenes[scene]!.layers[index]!

test.describe('by hand', () => {
  test('trims with Alt on an edge, and the rest stays where it is', async ({ page, demo }) => {
    await choose(page, 'Bench camera')
    await drag(
      page,
      await pointOn(page, 'landscape', 62, 800),
      await pointOn(page, 'landscape', 160, 800),
      ['Alt'],
    )
    await untilSaved(page)
    const { landscape, vertical } = await placement(demo, 1)
    // 100 of 660 canvas pixels are 291 of the camera's 1920.
    expect(Math.abs(landscape.trim.left - 291)).toBeLessThan(12)
    expect(landscape.x + landscape.width).toBeCloseTo(720, 0)
    expect(landscape.height).toBe(371)
    expect(vertical.trim.left).toBe(0)
  })

  test('holds to edges and centres with a guide, and moves freely with Ctrl', async ({
    page,
    demo,
  }) => {
    await choose(page, 'Growth chart')
    const from = await pointOn(page, 'landscape', 1600, 200)
    const nearCorner = await pointOn(page, 'landscape', 1600 + 54, 200 - 54)
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(nearCorner.x, nearCorner.y, { steps: 6 })
    await expect(canvas(page, 'landscape').locator('[data-guide]')).toHaveCount(2)
    await page.mouse.up()
    await expect(canvas(page, 'landscape').locator('[data-guide]')).toHaveCount(0)
    await untilSaved(page)
    expect((await placement(demo, 2)).landscape).toMatchObject({ x: 1390, y: 0 })
    await drag(page, nearCorner, await pointOn(page, 'landscape', 1640, 162), ['Control'])
    await untilSaved(page)
    expect((await placement(demo, 2)).landscape.y).toBeGreaterThan(2)
  })

  test('chooses several, moves them together and aligns them in one step', async ({
    page,
    demo,
  }) => {
    await choose(page, 'Seed fund goal')
    await row(page, 'Growth chart').click({ modifiers: ['Shift'] })
    await expect(page.getByText('and 1 more')).toBeVisible()
    await page.getByRole('button', { name: 'Align left' }).click()
    await canvas(page, 'landscape').focus()
    await page.keyboard.press('Shift+ArrowLeft')
    await untilSaved(page)
    const { layers } = (await demo.read()).scenes[0]!
    expect([layers[0]!.landscape.x, layers[2]!.landscape.x]).toEqual([1320, 1320])
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('button', { name: /^Undo: Align 2 sources/ })).toBeVisible()
    const grip = await pointOn(page, 'landscape', 1600, 200)
    await drag(page, grip, { x: grip.x - 40, y: grip.y + 30 }, ['Control'])
    await untilSaved(page)
    const moved = (await demo.read()).scenes[0]!.layers
    expect(moved[0]!.landscape.x).toBeLessThan(1300)
    expect(moved[0]!.landscape.x).toBe(moved[2]!.landscape.x)
  })

  test('copies to the other canvas and to another scene', async ({ page, demo }) => {
    await choose(page, 'Growth chart')
    await canvas(page, 'landscape').focus()
    await page.keyboard.press('Control+c')
    await canvas(page, 'vertical').focus()
    await page.keyboard.press('Control+v')
    await expect(
      page.getByRole('button', { name: /Growth chart on vertical: shown/ }),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Starting soon' }).click()
    await canvas(page, 'landscape').focus()
    await page.keyboard.press('Control+v')
    await untilSaved(page)
    const { scenes } = await demo.read()
    expect(scenes[0]!.layers).toHaveLength(5)
    expect(scenes[0]!.layers[2]!.vertical.shown).toBe(true)
    expect(scenes[3]!.layers[0]).toMatchObject({
      sourceId: 'growth-chart',
      landscape: { x: 1330, y: 60, width: 530 },
      vertical: { shown: false },
    })
  })
})

test.describe('scenes', () => {
  test('share a vertical, switch with it, and keep a copy of it', async ({ page, demo }) => {
    await page
      .getByLabel('Vertical canvas', { exact: true })
      .selectOption({ label: 'of Bench talk' })
    await expect(page.getByRole('note')).toContainText('Uses the vertical of Bench talk')
    await untilSaved(page)
    const shared = (await demo.read()).scenes[0]!
    expect(shared.verticalOf).toBe('bench-talk')
    expect(shared.layers).toEqual(demoShow.scenes[0]!.layers)
    // Keys and commands alter nothing that could not be seen.
    await choose(page, 'Bench camera')
    await page.keyboard.press('h')
    await page.keyboard.press('v')
    await expect(page.getByText('Alter it there, or keep a copy of it here')).toBeVisible()
    await page.getByRole('button', { name: 'Keep a copy' }).click()
    await expect(page.getByRole('note')).toHaveCount(0)
    await untilSaved(page)
    const copied = (await demo.read()).scenes[0]!
    const onVertical = copied.layers.filter(({ vertical }) => vertical.shown)
    expect(onVertical.map(({ sourceId }) => sourceId)).toEqual(
      expect.arrayContaining(['alerts', 'caption', 'bench-camera', 'petal-macro', 'glasshouse']),
    )
    await page.getByRole('button', { name: /^Undo/ }).click()
    await page.getByRole('button', { name: 'Own again' }).click()
    await untilSaved(page)
    expect((await demo.read()).scenes).toEqual(demoShow.scenes)
  })

  test('are marked, duplicated, reordered by keys and joined by a fade', async ({ page, demo }) => {
    await page.getByRole('button', { name: 'Bench talk' }).click()
    await page.getByLabel('Used as').selectOption('break')
    await page.keyboard.press('Alt+Shift+PageUp')
    await page.getByRole('button', { name: 'Duplicate the scene Bench talk' }).click()
    await page.getByLabel('Fade', { exact: true }).fill('0.5 s')
    await page.getByLabel('Fade', { exact: true }).press('Enter')
    await untilSaved(page)
    const { scenes, transition } = await demo.read()
    expect(scenes.map(({ name, role }) => [name, role])).toEqual([
      ['Bench talk', 'break'],
      ['Bench talk copy', null],
      ['Petals wide', null],
      ['Growth chart', null],
      ['Starting soon', 'starting'],
    ])
    expect(transition).toEqual({ kind: 'fade', milliseconds: 500 })
  })
})

test.describe('as viewers see it', () => {
  test('says what is covered, and moves the goal clear in one step', async ({ page, demo }) => {
    await expect(canvas(page, 'vertical').locator('[data-zone]')).toHaveCount(3)
    await expect(row(page, 'Seed fund goal')).toContainText('100 %')
    await page.getByRole('button', { name: 'Seed fund goal on vertical: move it clear' }).click()
    await expect(row(page, 'Seed fund goal')).not.toContainText('100 %')
    await untilSaved(page)
    const { vertical } = await placement(demo, 0)
    expect([vertical.x, vertical.width, vertical.height]).toEqual([60, 560, 110])
    expect(vertical.y + vertical.height).toBeLessThanOrEqual(0.68 * 1920 + 0.01)
    await page.keyboard.press('Control+z')
    await untilSaved(page)
    expect(await demo.read()).toEqual(demoShow)
  })

  test('shows every screen of a destination, its bars and its share, accessibly', async ({
    page,
    demo,
  }) => {
    await page.getByRole('button', { name: 'As viewers see it' }).click()
    await expect(
      page.getByRole('img', { name: /Flickerbrook, feed: no bars, 100 %/ }),
    ).toBeVisible()
    await expect(
      page.getByRole('img', { name: /Flickerbrook, phone turned: bars beside it, 32 %/ }),
    ).toBeVisible()
    await page.getByLabel('Destination', { exact: true }).selectOption('Longmeadow')
    await expect(page.getByRole('img', { name: /full screen on a desk: no bars/ })).toBeVisible()
    await expectAccessible(page)
    expect(await demo.read()).toEqual(demoShow)
  })

  test('lays safe areas over, and takes a zone that was drawn for a destination', async ({
    page,
    demo,
  }) => {
    await page.getByRole('button', { name: 'Show the safe areas' }).click()
    await expect(canvas(page, 'landscape').locator('[data-safe-area]')).toHaveCount(2)
    await choose(page, 'Bench camera')
    await expect(canvas(page, 'landscape').locator('[data-focus]')).toHaveCount(1)
    await choose(page, 'Growth chart')
    await expect(canvas(page, 'landscape').locator('[data-focus]')).toHaveCount(0)
    await page.keyboard.press('Alt+4')
    await page
      .getByRole('region', { name: 'On landscape' })
      .getByRole('button', { name: /Longmeadow/ })
      .first()
      .click()
    await page.getByRole('tab', { name: 'Covers' }).click()
    await page.getByRole('button', { name: 'Cover zone' }).click()
    await page.getByLabel('X %').fill('10')
    await page.getByLabel('X %').press('Enter')
    await untilSaved(page)
    expect((await demo.read()).destinations[0]!.coverZones).toMatchObject([
      { name: 'comments', mode: 'full screen', x: 0.1, y: 0.7, width: 0.6, height: 0.25 },
    ])
    await page.keyboard.press('Alt+1')
    await expect(canvas(page, 'landscape').locator('[data-zone]')).toHaveCount(1)
  })
})

test.describe('matching', () => {
  test('proposes arrangements, takes one in one step, and says what differs', async ({
    page,
    demo,
  }) => {
    await expect(page.getByText('Growth chart is on landscape only.')).toBeVisible()
    await page.keyboard.press('m')
    await page.keyboard.press('v')
    const first = page.getByRole('button', { name: /^Use arrangement 1/ })
    await expect(first).toBeFocused()
    await expectAccessible(page)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('dialog')).toHaveCount(0)
    await expect(page.getByText('Growth chart is on landscape only.')).toHaveCount(0)
    await untilSaved(page)
    const { layers } = (await demo.read()).scenes[0]!
    expect(layers.every(({ vertical }) => vertical.shown)).toBe(true)
    expect(layers.map(({ landscape }) => landscape)).toEqual(
      demoShow.scenes[0]!.layers.map(({ landscape }) => landscape),
    )
    await page.keyboard.press('Control+z')
    await untilSaved(page)
    expect(await demo.read()).toEqual(demoShow)
  })
})

test.describe('dressing', () => {
  test('dresses both canvases, is edited, saved as a file and read again', async ({
    page,
    demo,
  }) => {
    await page.getByRole('button', { name: 'Dressing: Lichen' }).click()
    await page.getByRole('button', { name: 'Night glass' }).click()
    await page.getByLabel('Corners', { exact: true }).fill('40')
    await page.getByLabel('Corners', { exact: true }).press('Enter')
    await expectAccessible(page)
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Save as a file' }).last().click()
    const file = readFileSync(await (await download).path())
    expect(JSON.parse(file.toString()).dressing.cornerRadiusPixels).toBe(40)
    await page.getByRole('button', { name: 'Clay label' }).click()

    const open = async (name: string, text: string) => {
      const chooser = page.waitForEvent('filechooser')
      await page.getByRole('button', { name: 'Open a file …' }).click()
      await (
        await chooser
      ).setFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
    }
    await open(
      'broken.json',
      file.toString().replace('"cornerRadiusPixels": 40', '"cornerRadiusPixels": -4'),
    )
    await expect(
      page.getByText(/broken.json was not taken: dressing.cornerRadiusPixels/),
    ).toBeVisible()
    await open('night.dressing.json', file.toString())
    await page.keyboard.press('Escape')
    // The file is read by itself; what was saved before it would be there at once.
    await expect
      .poll(async () => (await demo.read()).dressing)
      .toMatchObject({ name: 'Night glass', cornerRadiusPixels: 40 })

    await choose(page, 'Bench camera')
    await page.getByRole('button', { name: 'Look', exact: true }).click()
    await page.getByRole('switch', { name: 'Dressed on vertical' }).click()
    await untilSaved(page)
    const { landscape, vertical } = await placement(demo, 1)
    expect([landscape.dressed, vertical.dressed]).toEqual([true, false])
  })
})
