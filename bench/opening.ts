import type { Show } from '@green-mantle/core/show'
import { plannedDemoShow } from '@green-mantle/demo'
import { type Browser, chromium } from '@playwright/test'
import { startStack, stopStack, storeShow } from '../tests/browser/fixtures'
import { chromiumArguments, chromiumPath } from '../tests/browser/playwright.config'
import type { Area, Figure } from './figure'

const size = { destinations: 12, scenes: 20, layers: 15 } as const
const settledMilliseconds = 6000

/** The demo made as large as a show that is streamed may well be: its destinations, scenes and layers again and again. */
export function largeShow(): Show {
  const show = structuredClone(plannedDemoShow)
  const [scene] = show.scenes as [Show['scenes'][number]]
  const [first, second, third] = show.destinations as [
    Show['destinations'][number],
    Show['destinations'][number],
    Show['destinations'][number],
  ]
  const kinds = [first, second, third]
  const destinations = Array.from({ length: size.destinations }, (_, index) => {
    const each = structuredClone(kinds[index % kinds.length]!)
    return {
      ...each,
      ...{ id: `place-${index}`, name: `Place ${index + 1}`, on: true },
      renditions: each.renditions.map((rendition, step) => ({
        ...rendition,
        ...{ id: `rendition-${index}-${step}`, videoBitrateKbps: 600 },
      })),
    }
  })
  const layers = Array.from(
    { length: size.layers },
    (_, index) => scene.layers[index % scene.layers.length]!,
  )
  const sources = layers.map(({ sourceId }, index) => ({
    ...show.sources.find(({ id }) => id === sourceId)!,
    ...{ id: `source-${index}`, name: `Source ${index + 1}` },
  }))
  const scenes = Array.from({ length: size.scenes }, (_, place) => ({
    ...scene,
    ...{ id: `scene-${place}`, name: `Scene ${place + 1}`, role: null, verticalOf: null },
    layers: layers.map((layer, index) => ({
      ...layer,
      ...{ id: `layer-${place}-${index}`, sourceId: `source-${index}` },
    })),
  }))
  return { ...show, destinations, sources, scenes, sounds: [] }
}

/** As text, since the page does not know the helpers that the compiler would put in. */
const recordFromTheStart = `
  window.longTasks = []
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) window.longTasks.push(entry.duration)
  }).observe({ type: 'longtask', buffered: true })`

/** The longest single task of the page's own thread when a step is opened anew. */
async function longestTask(browser: Browser, address: string, step: string): Promise<number> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.addInitScript(recordFromTheStart)
  await page.goto(`${address}/${step}`)
  await page.waitForTimeout(settledMilliseconds)
  const tasks = await page.evaluate<number[]>('window.longTasks')
  await page.close()
  return Math.max(0, ...tasks)
}

/** A large show opened on each step that is dear, beside the demo in the same run. */
const area: Area = async () => {
  const stack = await startStack()
  const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumArguments })
  const figures: Figure[] = []
  try {
    const { address } = stack.application
    const [large, demo] = [
      await storeShow(address, largeShow()),
      await storeShow(address, plannedDemoShow),
    ]
    for (const step of ['canvases', 'fit', 'rehearse', 'run-sheet']) {
      const own = await longestTask(browser, `${address}/shows/${large.id}`, step)
      const ofDemo = await longestTask(browser, `${address}/shows/${demo.id}`, step)
      figures.push(
        { name: `${step}_longest_task`, value: own, unit: 'ms' },
        { name: `${step}_over_the_demo`, value: own / Math.max(1, ofDemo), unit: 'times' },
      )
    }
    return figures
  } finally {
    await browser.close()
    await stopStack(stack)
  }
}
export default area
