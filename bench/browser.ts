import { newSource, type Show } from '@green-mantle/core/show'
import { demoShow, plannedDemoShow } from '@green-mantle/demo'
import { type Browser, chromium, type Page } from '@playwright/test'
import { startStack, stopStack, storeShow } from '../tests/browser/fixtures'
import { chromiumArguments, chromiumPath } from '../tests/browser/playwright.config'
import { scriptKilobytes } from '../tests/browser/scriptWeight'
import type { Area, Figure } from './figure'
import { keyingFigures, matchingMilliseconds, showOfTwelve } from './pictures'

const dragMilliseconds = 5000
const placementCount = 40
const movingCount = 6
const frameMilliseconds = 1000 / 60
/** A frame that took longer than a sixtieth of a second, but for the clock's own unevenness. */
const lateFrameMilliseconds = frameMilliseconds + 1

/** The demo's first scene with forty placements on each canvas, six of them of moving pictures; the one in front is dragged. */
function crowdedShow(): Show {
  const show = structuredClone(demoShow)
  const [scene] = show.scenes
  const [front] = scene!.layers
  const still = show.sources.filter(({ nativeFramesPerSecond }) => nativeFramesPerSecond === null)
  const moving = (index: number) => {
    const source = newSource(show, 'camera', () => `moving-${index}`)
    show.sources.push(source)
    return source
  }
  scene!.layers = Array.from({ length: placementCount }, (_, index) => {
    const box = { x: (index % 8) * 210, y: Math.floor(index / 8) * 190, width: 240, height: 135 }
    const source = index < movingCount ? moving(index) : still[index % still.length]!
    const placement = (x: number) => ({
      ...front!.landscape,
      ...box,
      x,
      shown: true,
      locked: false,
    })
    return {
      id: `layer-${index}`,
      sourceId: source.id,
      landscape: placement(box.x),
      vertical: placement(box.x / 2),
    }
  })
  return show
}

/** As text, since the page does not know the helpers that the compiler would put in. */
const recordFrames = `
  window.frameTimes = []
  requestAnimationFrame(function tick(now) {
    window.frameTimes.push(now)
    requestAnimationFrame(tick)
  })`

/** Shares of frames that came late while `work` ran, by the page's own clock. */
async function lateFrames(
  page: Page,
  work: () => Promise<void>,
): Promise<{ late: number; late25: number; over50: number }> {
  await page.evaluate(recordFrames)
  await work()
  const times = await page.evaluate<number[]>('window.frameTimes')
  const gaps = times.slice(1).map((time, index) => time - times[index]!)
  const share = (milliseconds: number): number =>
    gaps.filter((gap) => gap > milliseconds).length / Math.max(1, gaps.length)
  return { late: share(lateFrameMilliseconds), late25: share(25), over50: share(50) }
}

/** Moves the mouse about a point for the length of the drag. */
async function wander(page: Page, x: number, y: number): Promise<void> {
  const start = Date.now()
  for (let turn = 0; Date.now() - start < dragMilliseconds; turn += 1) {
    await page.mouse.move(x + 80 * Math.cos(turn / 15) - 80, y + 60 * Math.sin(turn / 15))
    await page.waitForTimeout(8)
  }
}

async function drag(browser: Browser, address: string): Promise<Figure[]> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto('about:blank')
  const empty = await lateFrames(page, () => wander(page, 400, 400))
  const { id } = await storeShow(address, crowdedShow())
  await page.goto(`${address}/shows/${id}/canvases`)
  const surface = page.locator('[data-canvas=landscape]')
  await surface.locator('canvas').first().waitFor()
  await page.waitForTimeout(1000)
  await page.getByRole('button', { name: 'Let moving sources move' }).click()
  const box = (await surface.boundingBox())!
  const [x, y] = [box.x + 40, box.y + 25]
  await page.mouse.move(x, y)
  await page.mouse.down()
  const dragged = await lateFrames(page, () => wander(page, x + 80, y + 60))
  await page.mouse.up()
  await page.getByRole('button', { name: 'Hold moving sources still' }).click()
  await page.mouse.move(x, y)
  await page.mouse.down()
  const draggedStill = await lateFrames(page, () => wander(page, x + 80, y + 60))
  await page.mouse.up()
  await page.close()
  return [
    { name: 'frames_over_16.7_ms', value: 100 * dragged.late, unit: '%' },
    { name: 'frames_over_16.7_ms_empty_page', value: 100 * empty.late, unit: '%' },
    { name: 'frames_over_16.7_ms_all_still', value: 100 * draggedStill.late, unit: '%' },
    { name: 'frames_over_25_ms', value: 100 * dragged.late25, unit: '%' },
    { name: 'frames_over_25_ms_empty_page', value: 100 * empty.late25, unit: '%' },
    { name: 'frames_over_25_ms_all_still', value: 100 * draggedStill.late25, unit: '%' },
    { name: 'frames_over_50_ms', value: 100 * dragged.over50, unit: '%' },
    { name: 'frames_over_50_ms_empty_page', value: 100 * empty.over50, unit: '%' },
    { name: 'frames_over_50_ms_all_still', value: 100 * draggedStill.over50, unit: '%' },
  ]
}

/** As text for the same reason: how long the page's own thread was busy at a stretch, in milliseconds. */
const recordLongTasks = `
  window.longTasks = []
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) window.longTasks.push(entry.duration)
  }).observe({ type: 'longtask' })`

/** Drags the headroom from 0 to 70 % and back while the planner plans for every step of it. */
async function headroom(browser: Browser, address: string): Promise<Figure[]> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const { id } = await storeShow(address, plannedDemoShow)
  await page.goto(`${address}/shows/${id}/line`)
  const slider = page.getByRole('slider', { name: /Headroom/ })
  await slider.waitFor()
  // Until the first plan and all that is told of it is there.
  await page.waitForTimeout(5000)
  const box = (await slider.boundingBox())!
  const y = box.y + box.height / 2
  await page.evaluate(recordLongTasks)
  await page.mouse.move(box.x + 8, y)
  await page.mouse.down()
  for (let turn = 0; turn < 2; turn += 1)
    for (let step = 0; step <= 70; step += 1) {
      const share = turn === 0 ? step / 70 : 1 - step / 70
      await page.mouse.move(box.x + 8 + share * (box.width - 16), y)
      await page.waitForTimeout(16)
    }
  await page.mouse.up()
  await page.waitForTimeout(500)
  const tasks = await page.evaluate<number[]>('window.longTasks')
  await page.close()
  return [
    { name: 'blocks_over_50_ms', value: tasks.length, unit: 'blocks' },
    { name: 'longest_block', value: Math.max(0, ...tasks), unit: 'ms' },
  ]
}

const withBrowser = async (
  work: (browser: Browser, address: string) => Promise<Figure[]>,
): Promise<Figure[]> => {
  const stack = await startStack()
  const browser = await chromium.launch({
    executablePath: chromiumPath,
    args: chromiumArguments,
  })
  try {
    return await work(browser, stack.application.address)
  } finally {
    await browser.close()
    await stopStack(stack)
  }
}

export const dragArea: Area = () => withBrowser(drag)
export const headroomArea: Area = () => withBrowser(headroom)

export const loadArea: Area = () =>
  withBrowser(async (browser, address) => {
    const { id } = await storeShow(address, demoShow)
    return [
      {
        name: 'home_javascript',
        value: await scriptKilobytes(await browser.newPage(), `${address}/`),
        unit: 'kB-gzip',
      },
      {
        name: 'canvases_javascript',
        value: await scriptKilobytes(await browser.newPage(), `${address}/shows/${id}/canvases`),
        unit: 'kB-gzip',
      },
    ]
  })

/** How long both canvases take to be drawn once, as text for the same reason as above. */
const redraw = `(() => {
  const times = []
  for (let run = 0; run < 15; run += 1) {
    const start = performance.now()
    for (const stage of window.Konva.stages) {
      stage.draw()
      // Reading a pixel waits until the drawing is done.
      for (const layer of stage.getLayers())
        layer.getNativeCanvasElement().getContext('2d').getImageData(0, 0, 1, 1)
    }
    times.push(performance.now() - start)
  }
  return times.sort((a, b) => a - b)[7]
})()`

/** What is computed for pictures: matching twelve sources beside one full redraw of them, and keying beside a frame's time. */
export const picturesArea: Area = () =>
  withBrowser(async (browser, address) => {
    const { id } = await storeShow(address, showOfTwelve())
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${address}/shows/${id}/canvases`)
    await page.locator('[data-canvas=vertical] canvas').first().waitFor()
    await page.waitForTimeout(1500)
    const redrawn = await page.evaluate<number>(redraw)
    await page.close()
    const matching = matchingMilliseconds()
    return [
      { name: 'matching_12_sources', value: matching, unit: 'ms' },
      { name: 'full_redraw', value: redrawn, unit: 'ms' },
      { name: 'matching_12_sources_cost', value: matching / redrawn, unit: 'redraws' },
      ...keyingFigures(),
    ]
  })
