import { readFileSync } from 'node:fs'
import type { Show } from '@green-mantle/core/show'
import { type Browser, chromium, type Page } from '@playwright/test'
import { processorSeconds } from '../server/measuring/processorTime'
import { startStack, stopStack, type Stack, storeShow } from '../tests/browser/fixtures'
import { chromiumArguments, chromiumPath } from '../tests/browser/playwright.config'
import { smallShow } from '../tests/browser/smallShow'
import { familyOf } from '../tests/database/processFamily'
import { meant } from '../tests/meant'
import type { Area, Figure } from './figure'

const sizes = [
  { name: '360p30', long: 640, short: 360, framesPerSecond: 30, videoBitrateKbps: 800 },
  { name: '720p30', long: 1280, short: 720, framesPerSecond: 30, videoBitrateKbps: 2500 },
  { name: '1080p60', long: 1920, short: 1080, framesPerSecond: 60, videoBitrateKbps: 6000 },
] as const
type DrawnSize = (typeof sizes)[number]

const settledMilliseconds = 8000
/** ON_AIR_SECONDS=600 looks whether memory stays what it was. */
const measuredSeconds = Number(process.env.ON_AIR_SECONDS ?? 20)

/** Both canvases at a size, one of the two sends passed on as the window makes it. */
function showOf({ long, short, framesPerSecond, videoBitrateKbps }: DrawnSize): Show {
  const canvasPair = {
    framesPerSecond,
    landscape: { width: long, height: short },
    vertical: { width: short, height: long },
  }
  return {
    ...smallShow,
    canvasPair,
    destinations: smallShow.destinations.map((each) => ({
      ...each,
      sending: {
        ...each.sending,
        whenBehind: each.canvas === 'landscape' ? ('lower' as const) : ('drop' as const),
      },
      renditions: each.renditions.map((rendition) => ({
        ...rendition,
        ...{ ...canvasPair[each.canvas], framesPerSecond, videoBitrateKbps },
      })),
    })),
  }
}

const statusOf = (pid: number, field: string): number =>
  Number(new RegExp(`${field}:\\s+(\\d+)`).exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1])
const sumOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0)

/** Every process of the browser that this one started. */
const browserPids = (): number[] =>
  familyOf(process.pid).filter((pid) =>
    readFileSync(`/proc/${pid}/comm`, 'utf8').startsWith('chromium'),
  )
const secondsOf = (pids: readonly number[]): number =>
  sumOf(pids.map((pid) => processorSeconds(pid) ?? 0))
const megabytesOf = (pids: readonly number[]): number =>
  sumOf(pids.map((pid) => statusOf(pid, 'VmRSS'))) / 1000

/** Frames that were due and came in time since the window was opened, as it says once a second. */
async function framesOver(page: Page, seconds: number): Promise<{ due: number; late: number }> {
  const [due, late] = [[], []] as [number[], number[]]
  for (let second = 0; second < seconds; second += 1) {
    await page.waitForTimeout(1000)
    for (const text of await page.getByText(/\d+ of \d+ · \d+ late/).allTextContents()) {
      const [, ofDue, ofLate] = /of (\d+) · (\d+) late/.exec(text) ?? []
      due.push(Number(ofDue))
      late.push(Number(ofLate))
    }
  }
  return { due: sumOf(due), late: sumOf(late) }
}

async function measure(stack: Stack, browser: Browser, size: DrawnSize): Promise<Figure[]> {
  const { address, process: server } = stack.application
  const show = showOf(size)
  const { id } = await storeShow(address, show)
  const api = (path: string, method: string, body?: object) =>
    fetch(`${address}/api/shows/${id}${path}`, {
      ...{ method, headers: { ...meant, 'content-type': 'application/json' } },
      ...(body && { body: JSON.stringify(body) }),
    })
  const inputs = { landscape: 'on-air window', vertical: 'on-air window' }
  await api('/stand-ins', 'POST')
  await api('/sender', 'POST', { target: 'stand-ins', inputs })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  try {
    await page.goto(`${address}/shows/${id}/on-air`)
    await page.getByRole('button', { name: 'Begin the sound' }).click()
    await page.waitForTimeout(settledMilliseconds)
    for (const { id: each } of show.destinations) await api(`/sender/${each}`, 'POST')
    await page.waitForTimeout(settledMilliseconds)
    const serverPids = [server.pid as number]
    const before = {
      browser: secondsOf(browserPids()),
      server: secondsOf(serverPids),
      memory: megabytesOf([...browserPids(), ...serverPids]),
    }
    const { due, late } = await framesOver(page, measuredSeconds)
    const spent = {
      browser: secondsOf(browserPids()) - before.browser,
      server: secondsOf(serverPids) - before.server,
    }
    const memory = megabytesOf([...browserPids(), ...serverPids]) - before.memory
    const behind = await browser.newPage()
    await behind.bringToFront()
    const hidden = await framesOver(page, Math.min(10, measuredSeconds))
    await behind.close()
    const figure = (name: string, value: number, unit: string): Figure => ({
      name: `${size.name}_${name}`,
      ...{ value, unit },
    })
    const drawn = Math.max(1, due - late)
    const inTime = (frames: { due: number; late: number }): number =>
      100 * (1 - frames.late / Math.max(1, frames.due))
    const serverPercent = (100 * spent.server) / measuredSeconds
    return [
      figure('in_time', inTime({ due, late }), '%'),
      figure('in_time_behind_another_window', inTime(hidden), '%'),
      figure('browser_a_frame', (1000 * spent.browser) / drawn, 'ms'),
      figure('server_a_frame', (1000 * spent.server) / drawn, 'ms'),
      figure('server_a_megabit_a_second', (1000 * serverPercent) / size.videoBitrateKbps, '%'),
      figure('memory_grew', memory, 'MB'),
    ]
  } finally {
    await api('/sender', 'DELETE')
    await page.close()
  }
}

/** The on-air window at three sizes, sent to stand-ins, one send passed on. */
const area: Area = async () => {
  const stack = await startStack()
  const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumArguments })
  const figures: Figure[] = []
  try {
    for (const size of sizes) figures.push(...(await measure(stack, browser, size)))
    return figures
  } finally {
    await browser.close()
    await stopStack(stack)
  }
}
export default area
