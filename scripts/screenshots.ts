import { mkdirSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import { type Browser, chromium, type Page } from '@playwright/test'
import { startStack, stopStack, storeShow } from '../tests/browser/fixtures'
import { chromiumArguments } from '../tests/browser/playwright.config'
import { root } from './paths'
import { main } from './run'

const folder = `${root}/docs/screenshots`

interface View {
  name: string
  path: (showId: string) => string
  colours: 'light' | 'dark'
  prepare?: (page: Page) => Promise<unknown>
}

const chooseCamera = (page: Page) =>
  page.getByRole('button', { name: /^Bench camera camera/ }).click()

const views: View[] = [
  { name: 'home', path: () => '/', colours: 'light' },
  {
    name: 'canvases',
    path: (id) => `/shows/${id}/canvases`,
    colours: 'light',
    prepare: chooseCamera,
  },
  {
    name: 'canvases-night',
    path: (id) => `/shows/${id}/canvases`,
    colours: 'dark',
    prepare: chooseCamera,
  },
  {
    name: 'matching',
    path: (id) => `/shows/${id}/canvases`,
    colours: 'light',
    prepare: async (page) => {
      await page.keyboard.press('m')
      await page.keyboard.press('v')
      await page.getByRole('button', { name: /^Use arrangement 1/ }).waitFor()
    },
  },
  {
    name: 'seen',
    path: (id) => `/shows/${id}/canvases`,
    colours: 'light',
    prepare: (page) => page.keyboard.press('v'),
  },
  {
    name: 'dressing',
    path: (id) => `/shows/${id}/canvases`,
    colours: 'light',
    prepare: async (page) => {
      await page.keyboard.press('d')
      await page.getByRole('button', { name: 'Pressed paper' }).click()
    },
  },
  { name: 'line', path: (id) => `/shows/${id}/line`, colours: 'light' },
  {
    name: 'destinations',
    path: (id) => `/shows/${id}/destinations`,
    colours: 'light',
    prepare: (page) =>
      page
        .getByRole('button', { name: /^Flickerbrook/ })
        .first()
        .click(),
  },
  { name: 'fit', path: (id) => `/shows/${id}/fit`, colours: 'light' },
]

async function picture(
  browser: Browser,
  address: string,
  showId: string,
  view: View,
): Promise<void> {
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    colorScheme: view.colours,
  })
  await page.goto(address + view.path(showId), { waitUntil: 'networkidle' })
  await view.prepare?.(page)
  await page.waitForTimeout(800)
  await page.screenshot({ path: `${folder}/${view.name}.png` })
  await page.close()
}

/** Takes the README's pictures anew, from the demo. */
main(async () => {
  mkdirSync(folder, { recursive: true })
  const stack = await startStack()
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: chromiumArguments,
  })
  try {
    const { address } = stack.application
    const tight = {
      ...demoShow,
      title: 'Moths by lamplight',
      startsAt: '2027-01-16T19:30',
      destinations: demoShow.destinations.map((each) => ({ ...each, on: each.id !== 'rookery' })),
      scenes: [...demoShow.scenes.slice(1), ...demoShow.scenes.slice(0, 1)],
    }
    await storeShow(address, tight)
    const { id } = await storeShow(address, demoShow)
    for (const view of views) await picture(browser, address, id, view)
  } finally {
    await browser.close()
    await stopStack(stack)
  }
})
