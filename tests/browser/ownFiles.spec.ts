import { readFileSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { imageSize } from 'image-size'
import { choose, number, pointOn } from './canvasHands'
import { expect, storeShow, test, untilSaved } from './fixtures'
import { meant } from '../meant'

const canvas = (page: Page, name: string) => page.locator(`[data-canvas=${name}]`)

async function savedFile(page: Page, item: string): Promise<Buffer> {
  await page.getByRole('button', { name: 'Pictures of the canvases' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: item }).click()
  return readFileSync(await (await download).path())
}

test.describe('files', () => {
  test('takes a picture as it is, cleans an SVG of scripts, and says what it does not take', async ({
    page,
    demo,
    stack,
    consoleProblems,
  }) => {
    const add = async (name: string, mimeType: string, buffer: Buffer) => {
      const chooser = page.waitForEvent('filechooser')
      await page.getByRole('button', { name: 'Source', exact: true }).click()
      await page.getByRole('button', { name: 'Picture …', exact: true }).click()
      await (await chooser).setFiles({ name, mimeType, buffer })
    }
    const png = await page.locator('body').screenshot()
    await add('A view.png', 'image/png', png)
    await expect(page.getByRole('heading', { name: 'A view' })).toBeVisible()
    await expect(page.getByText('1280×800').first()).toBeVisible()
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20" onload="alert(1)"><script>alert(1)</script><rect width="40" height="20" fill="#2f5d3a"/></svg>`
    await add('leaf.svg', 'image/svg+xml', Buffer.from(svg))
    await expect(page.getByText(/Taken out of leaf.svg: .*script/)).toBeVisible()
    await add('not a picture.png', 'image/png', Buffer.from('nothing of the kind'))
    await expect(
      page.getByText(/not a picture.png was not taken. This is no picture/),
    ).toBeVisible()
    // The browser notes the refusal too.
    expect(consoleProblems.splice(0)).toEqual([expect.stringContaining('422')])
    await untilSaved(page)
    const { sources } = await demo.read()
    const fileIds = sources.flatMap(({ appearance }) =>
      appearance.type === 'picture file' ? [appearance.fileId] : [],
    )
    expect(fileIds).toHaveLength(2)
    const [view, leaf] = await Promise.all(
      fileIds.map(async (id) => {
        const answer = await fetch(`${stack.application.address}/api/files/${id}`)
        return Buffer.from(await answer.arrayBuffer())
      }),
    )
    expect(view!.equals(png)).toBe(true)
    expect(leaf!.toString()).not.toMatch(/script|onload/)
  })

  test('reads a media file’s facts and plays it muted', async ({ page, demo }) => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Source', exact: true }).click()
    await page.getByRole('button', { name: 'Media file …', exact: true }).click()
    await (await chooser).setFiles(new URL('files/clip.webm', import.meta.url).pathname)
    await expect(page.getByRole('heading', { name: 'clip' })).toBeVisible()
    await page.getByRole('button', { name: 'Let moving sources move' }).click()
    await page.waitForTimeout(600)
    await page.getByRole('button', { name: 'Hold moving sources still' }).click()
    await untilSaved(page)
    const source = (await demo.read()).sources.at(-1)!
    // As ffmpeg was told to make it: 640×360 at 25 for 2 s in VP8.
    expect(source).toMatchObject({ nativeWidth: 640, nativeHeight: 360, nativeFramesPerSecond: 25 })
    expect(source.appearance).toMatchObject({ type: 'media file', codec: 'vp8' })
    expect(
      source.appearance.type === 'media file' && source.appearance.durationSeconds,
    ).toBeCloseTo(2, 1)
  })

  test('says when a picture or a media file of a show is not kept here', async ({
    page,
    stack,
    consoleProblems,
  }) => {
    const show = structuredClone(demoShow)
    show.sources[0]!.appearance = {
      type: 'media file',
      fileId: 'a'.repeat(64),
      fileName: 'bench.webm',
      durationSeconds: 3,
      codec: 'vp8',
    }
    show.sources[2]!.appearance = {
      type: 'picture file',
      fileId: 'b'.repeat(64),
      fileName: 'growth.png',
    }
    const { id } = await storeShow(stack.application.address, show)
    await page.goto(`/shows/${id}/canvases`)
    for (const name of ['Bench camera', 'Growth chart']) {
      await choose(page, name)
      await expect(page.getByText('Its file is not kept here.')).toBeVisible()
    }
    // Else Home would look for its pictures in the tests that come after.
    await fetch(`${stack.application.address}/api/shows/${id}`, {
      method: 'DELETE',
      headers: meant,
    })
    await page.goto('about:blank')
    // The browser notes what it did not find.
    for (const problem of consoleProblems.splice(0)) expect(problem).toContain('404')
  })

  test('gives a canvas as PNG at full size and as SVG, and takes the SVG back as it was', async ({
    page,
    demo,
  }) => {
    expect(imageSize(await savedFile(page, 'Vertical as PNG'))).toMatchObject({
      width: 1080,
      height: 1920,
      type: 'png',
    })
    const svg = await savedFile(page, 'Landscape as SVG')
    expect(svg.toString()).toContain('>Seed fund 62 %</tspan>')
    expect(svg.toString()).toContain('href="data:image/svg+xml;base64,')
    // Another program, Chromium itself, draws it.
    const drawn = await page.evaluate(async (text) => {
      const image = new Image()
      image.src = `data:image/svg+xml;base64,${btoa(unescape(encodeURIComponent(text)))}`
      await image.decode()
      return [image.naturalWidth, image.naturalHeight]
    }, svg.toString())
    expect(drawn).toEqual([1920, 1080])

    await page.getByRole('button', { name: 'Scene', exact: true }).click()
    await page.getByRole('button', { name: 'Pictures of the canvases' }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('menuitem', { name: 'Place an SVG on landscape …' }).click()
    await (await chooser).setFiles({ name: 'wide.svg', mimeType: 'image/svg+xml', buffer: svg })
    await expect(page.getByText('5 placed from wide.svg.')).toBeVisible()
    await untilSaved(page)
    const { scenes } = await demo.read()
    const boxes = (scene: number) =>
      scenes[scene]!.layers.map(({ landscape }) => [landscape.x, landscape.y, landscape.width])
    expect(boxes(4)).toEqual(boxes(0))
    await page.keyboard.press('Control+z')
    await expect(page.getByText('No source in this scene yet')).toBeVisible()
  })
})

test.describe('cameras', () => {
  test('shows a real camera with its real size, in this tab only', async ({ page, demo }) => {
    await choose(page, 'Bench camera')
    await page.getByRole('button', { name: 'Use a real camera' }).click()
    await expect(page.getByText('nothing of it is stored or sent')).toBeVisible()
    await untilSaved(page)
    const [camera] = (await demo.read()).sources
    const { width, height } = await page.evaluate(async () => {
      const stream = await navigator.mediaDevices.getUserMedia({
        video: { width: { ideal: 1920 } },
      })
      const settings = stream.getVideoTracks()[0]!.getSettings()
      stream.getTracks().forEach((track) => track.stop())
      return settings
    })
    expect([camera!.nativeWidth, camera!.nativeHeight]).toEqual([width, height])
    await page.getByRole('button', { name: 'Back to the stand-in' }).click()
    await expect(page.getByRole('button', { name: 'Use a real camera' })).toBeVisible()
  })

  test('keys out a backdrop of the colour that was picked from the picture', async ({
    page,
    demo,
  }) => {
    const pixelAt = (x: number, y: number) =>
      page.evaluate(
        ([left, top]) => {
          const surface = document.querySelector<HTMLCanvasElement>(
            '[data-canvas=landscape] canvas',
          )!
          const scale = surface.width / 1920
          const context = surface.getContext('2d')!
          return [...context.getImageData(left! * scale, top! * scale, 1, 1).data].slice(0, 3)
        },
        [x, y],
      )
    await expect(canvas(page, 'landscape').locator('canvas').first()).toBeVisible()
    await choose(page, 'Bench camera')
    await expect.poll(() => pixelAt(100, 680)).not.toEqual([0x24, 0x33, 0x2b])
    const before = await pixelAt(100, 680)
    await page.getByRole('button', { name: /^Backdrop key/ }).click()
    await page.getByRole('switch', { name: 'Key out the backdrop' }).click()
    await page.getByRole('button', { name: 'Pick', exact: true }).click()
    const wall = await pointOn(page, 'landscape', 100, 680)
    await page.mouse.click(wall.x, wall.y)
    await expect(page.getByText('Click the backdrop on a canvas')).toHaveCount(0)
    await number(page, 'Similarity').fill('30')
    await number(page, 'Similarity').press('Enter')
    await untilSaved(page)
    const { chromaKey } = (await demo.read()).sources[0]!
    expect(chromaKey).toMatchObject({ on: true, similarityPercent: 30 })
    expect(chromaKey!.colour).not.toBe('#3ab54a')
    // What stands behind the camera is seen through the wall.
    await expect.poll(() => pixelAt(100, 680)).not.toEqual(before)
  })
})
