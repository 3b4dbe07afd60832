import { demoShow } from '@green-mantle/demo'
import { drag, number, pointOn, row } from './canvasHands'
import { expect, step, test, untilSaved } from './fixtures'

test.describe('with the mouse', () => {
  test('drags a camera on both canvases, keeps the numbers in step, and saves', async ({
    page,
    demo,
  }) => {
    await drag(
      page,
      await pointOn(page, 'landscape', 200, 1000),
      await pointOn(page, 'landscape', 500, 800),
    )
    await expect(page.getByRole('heading', { name: 'Bench camera' })).toBeVisible()
    const movedX = Number(await number(page, 'X on landscape, px').inputValue())
    expect(movedX).toBeGreaterThan(355)
    expect(movedX).toBeLessThan(365)

    await drag(
      page,
      await pointOn(page, 'vertical', 500, 100),
      await pointOn(page, 'vertical', 500, 300),
    )
    await expect(number(page, 'X on vertical, px')).toHaveValue(/^-?\d$/)
    const movedY = Number(await number(page, 'Y on vertical, px').inputValue())
    expect(Math.abs(movedY - 200)).toBeLessThan(6)

    await untilSaved(page)
    const camera = (await demo.read()).scenes[0]!.layers[1]!
    expect(camera.landscape.x).toBe(movedX)
    expect(camera.vertical.y).toBe(movedY)
    await page.reload()
    await row(page, 'Bench camera')
      .getByRole('button', { name: /Bench camera/ })
      .first()
      .click()
    await expect(number(page, 'X on landscape, px')).toHaveValue(String(movedX))
  })

  test('resizes by a handle, and one undo takes the whole drag back', async ({ page, demo }) => {
    const inside = await pointOn(page, 'landscape', 200, 800)
    await page.mouse.click(inside.x, inside.y)
    await drag(
      page,
      await pointOn(page, 'landscape', 720, 1011),
      await pointOn(page, 'landscape', 1050, 1196),
    )
    const width = Number(await number(page, 'W on landscape, px').inputValue())
    expect(width).toBeGreaterThan(900)
    const height = Number(await number(page, 'H on landscape, px').inputValue())
    expect(width / height).toBeCloseTo(660 / 371, 1)
    await page.getByRole('button', { name: /^Undo/ }).click()
    await expect(number(page, 'W on landscape, px')).toHaveValue('660')
    await page.getByRole('button', { name: /^Redo/ }).click()
    await expect(number(page, 'W on landscape, px')).toHaveValue(String(width))
    await untilSaved(page)
    expect((await demo.read()).scenes[0]!.layers[1]!.landscape.width).toBe(width)
  })

  test('shows, hides, locks, and reorders by dragging a row', async ({ page, demo }) => {
    await page.getByRole('button', { name: /Growth chart on vertical: hidden/ }).click()
    await expect(
      page.getByRole('button', { name: /Growth chart on vertical: shown/ }),
    ).toBeVisible()
    await page.getByRole('button', { name: /Bench camera: unlocked/ }).click()
    await expect(number(page, 'X on landscape, px')).toHaveCount(0)
    await row(page, 'Bench camera').getByRole('button').first().click()
    await expect(number(page, 'X on landscape, px')).toBeDisabled()

    const grip = row(page, 'Seed fund goal').locator('.grip')
    await grip.hover()
    await page.mouse.down()
    const target = (await row(page, 'Growth chart').boundingBox())!
    await page.mouse.move(target.x + 12, target.y + 4, { steps: 8 })
    const below = target.y + target.height - 3
    const top = async (name: string): Promise<number> =>
      (await row(page, name).boundingBox())?.y ?? NaN
    // While rows make way no further move counts, which takes longer on a busy machine.
    await expect(async () => {
      await page.mouse.move(target.x + 12, below - 4)
      await page.mouse.move(target.x + 12, below, { steps: 8 })
      expect(await top('Seed fund goal')).toBeGreaterThan(await top('Growth chart'))
    }).toPass()
    await page.mouse.up()
    const inOrder = async (): Promise<string[]> =>
      (await demo.read()).scenes[0]!.layers.map(({ sourceId }) => sourceId)
    await expect
      .poll(inOrder)
      .toEqual(['bench-camera', 'growth-chart', 'seed-fund', 'petal-macro', 'glasshouse'])
    const { layers } = (await demo.read()).scenes[0]!
    expect(layers[1]!.vertical.shown).toBe(true)
    expect(layers[0]!.landscape.locked && layers[0]!.vertical.locked).toBe(true)
  })

  test('switches scenes, adds one with a source, and removes it', async ({ page, demo }) => {
    await page.getByRole('button', { name: 'Bench talk' }).click()
    await expect(row(page, 'Caption')).toBeVisible()
    await page.getByRole('button', { name: 'Scene', exact: true }).click()
    await expect(page.getByText('No source in this scene yet')).toBeVisible()
    await page.getByRole('button', { name: 'Source', exact: true }).click()
    await page.getByRole('button', { name: 'Goal bar', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Goal bar' })).toBeVisible()
    await untilSaved(page)
    expect((await demo.read()).scenes).toHaveLength(5)
    await page.getByRole('button', { name: 'Remove the scene Scene' }).click()
    await untilSaved(page)
    expect((await demo.read()).scenes).toHaveLength(4)
  })

  test('changes the size of a canvas and keeps the arrangement', async ({ page, demo }) => {
    await page.getByRole('button', { name: /Vertical.*size and frame rate/ }).click()
    await page.getByRole('button', { name: '720×1280' }).click()
    await untilSaved(page)
    const { canvasPair, scenes } = await demo.read()
    expect(canvasPair.vertical).toEqual({ width: 720, height: 1280 })
    expect(scenes[0]!.layers[1]!.vertical.width).toBe(720)
  })
})

test.describe('with the keyboard alone', () => {
  test('chooses, nudges, centres, hides, locks and reorders', async ({ page, demo }) => {
    const press = async (...keys: string[]) => {
      for (const key of keys) await page.keyboard.press(key)
    }
    await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
    await press('g', 'l')
    await expect(page.locator('[data-canvas=landscape]')).toBeFocused()
    await press('PageDown', 'PageDown')
    await expect(page.getByRole('heading', { name: 'Bench camera' })).toBeVisible()
    await press('ArrowRight', 'Shift+ArrowRight', 'ArrowUp')
    await expect(number(page, 'X on landscape, px')).toHaveValue('71')
    await expect(number(page, 'Y on landscape, px')).toHaveValue('639')
    await press('c', 'a')
    await expect(number(page, 'X on landscape, px')).toHaveValue('630')
    await press('g', 'v', 'c', 'd')
    await expect(number(page, 'Y on vertical, px')).toHaveValue('656')
    await press('h', 'l')
    await expect(
      page.getByRole('button', { name: /Bench camera on landscape: hidden/ }),
    ).toBeVisible()
    // “H then L” hides; it must not lock as a lone L does.
    await expect(page.getByRole('button', { name: /Bench camera: unlocked/ })).toBeVisible()
    await press('Alt+ArrowUp', 'l')
    await expect(page.getByRole('button', { name: /Bench camera: locked/ })).toBeVisible()
    await untilSaved(page)
    const [front] = (await demo.read()).scenes[0]!.layers
    expect(front).toMatchObject({
      sourceId: 'bench-camera',
      landscape: { x: 630, shown: false, locked: true },
      vertical: { y: 656, locked: true },
    })
    for (
      let count = 0;
      count < 12 && (await page.getByRole('button', { name: /^Undo:/ }).count());
      count += 1
    )
      await press('Control+z')
    await untilSaved(page)
    expect(await demo.read()).toEqual(demoShow)
    await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()
  })

  test('types sums and units into the inspector, and is told what is no number', async ({
    page,
    demo,
  }) => {
    await expect(page.locator('[data-canvas=vertical] canvas').first()).toBeVisible()
    await page.keyboard.press('g')
    await page.keyboard.press('l')
    await page.keyboard.press('PageDown')
    await number(page, 'X on landscape, px').focus()
    await page.keyboard.type('1920/2 - 100')
    await page.keyboard.press('Enter')
    await expect(number(page, 'X on landscape, px')).toHaveValue('860')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('Shift+ArrowUp')
    await expect(number(page, 'X on landscape, px')).toHaveValue('871')
    // Undo works from inside the field too, since nothing in it is left untaken.
    await page.keyboard.press('Control+z')
    await expect(number(page, 'X on landscape, px')).toHaveValue('861')
    await page.keyboard.press('Control+Shift+z')
    // Per cent of the canvas's own side.
    await number(page, 'Y on vertical, px').fill('25 % + 20')
    await page.keyboard.press('Enter')
    await expect(number(page, 'Y on vertical, px')).toHaveValue('500')
    await number(page, 'W on vertical, px').focus()
    await page.keyboard.type('wide')
    await page.keyboard.press('Tab')
    await expect(page.getByText('"wide" is not a number or a sum')).toBeVisible()
    await expect(number(page, 'W on vertical, px')).toHaveValue('560')
    await untilSaved(page)
    expect((await demo.read()).scenes[0]!.layers[0]!.landscape.x).toBe(871)
  })

  test('goes to every step, lists the keys, and finds anything', async ({ page, demo }) => {
    for (const [key, heading] of [
      ['Alt+3', 'What may be spent'],
      ['Alt+4', 'On landscape'],
      ['Alt+5', 'Three sends fit the line'],
      ['Alt+1', 'Canvases'],
    ] as const) {
      await page.keyboard.press(key)
      await expect(page.getByRole('heading', { name: heading }).first()).toBeAttached()
    }
    await page.keyboard.press('Shift+?')
    await expect(page.getByRole('heading', { name: 'Keys on this page' })).toBeVisible()
    await page.keyboard.press('Escape')
    await page.keyboard.press('Control+k')
    await expect(page.getByRole('combobox', { name: 'A step, source, scene' })).toBeFocused()
    await page.keyboard.type('scenes growth')
    await expect(page.getByRole('option')).toHaveText([/Growth chart/])
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: 'Growth chart', exact: true })).toHaveAttribute(
      'aria-current',
      'true',
    )
    await expect(step(page, 'Canvases')).toHaveAttribute('aria-current', 'step')
    // Looking around changes nothing.
    expect(await demo.read()).toEqual(demoShow)
  })
})
