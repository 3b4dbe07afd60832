import { mkdirSync } from 'node:fs'
import { fitShow, withPlan } from '@green-mantle/core/plan'
import { demoProfiles, demoShow, plannedDemoShow } from '@green-mantle/demo'
import { type Browser, chromium, type Page } from '@playwright/test'
import { startStack, stopStack, storeShow } from '../tests/browser/fixtures'
import { nanoid } from 'nanoid'
import { chromiumArguments, chromiumPath } from '../tests/browser/playwright.config'
import { root } from './paths'
import { main } from './run'

const folder = `${root}/docs/screenshots`

interface View {
  name: string
  path: (showId: string) => string
  colours: 'light' | 'dark'
  prepare?: (page: Page) => Promise<unknown>
}

const helpPage = `Resolution\tFrame rate\tVideo bitrate (kbps)
1920x1080\t60\t4500-9000
1280x720\t30\t1500-4000
Use CBR, High profile, level 4.2. Keyframes every 2 seconds, at most 2 B-frames.
Audio: AAC stereo, up to 160 kb/s at 48 kHz.
Get a new stream key for every broadcast. Latency can be set in the dashboard.`

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
  {
    name: 'sound',
    path: (id) => `/shows/${id}/sound`,
    colours: 'light',
    prepare: (page) => page.getByRole('button', { name: 'Show levels' }).click(),
  },
  {
    name: 'measuring',
    path: (id) => `/shows/${id}/line`,
    colours: 'light',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Measure …' }).click()
      await page.getByRole('button', { name: 'Start measuring' }).click()
      await page.getByText(/second 8 of 30/).waitFor()
    },
  },
  {
    name: 'profiles',
    path: (id) => `/shows/${id}/destinations`,
    colours: 'light',
    prepare: (page) => page.getByRole('button', { name: 'Add from a profile …' }).click(),
  },
  {
    name: 'words',
    path: (id) => `/shows/${id}/destinations`,
    colours: 'dark',
    prepare: (page) => page.getByRole('tab', { name: 'Says' }).click(),
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
  {
    name: 'fit',
    path: (id) => `/shows/${id}/fit`,
    colours: 'light',
    prepare: (page) => untilTried(page),
  },
  {
    name: 'help-page',
    path: (id) => `/shows/${id}/destinations`,
    colours: 'light',
    prepare: async (page) => {
      await page.getByRole('tab', { name: 'Accepts' }).click()
      await page.getByRole('button', { name: /^Paste what its help page says/ }).click()
      await page.getByLabel('Text of the page; tables too').fill(helpPage)
      await page.getByRole('row', { name: /Keyframe every/ }).waitFor()
    },
  },
  {
    name: 'rehearse',
    path: (id) => `/shows/${id}/rehearse`,
    colours: 'light',
    prepare: async (page) => {
      await page.getByRole('heading', { name: /^Night 1$/ }).waitFor()
      await page.getByRole('button', { name: 'Add: A sync starts' }).click()
      await page.getByRole('textbox', { name: 'Takes', exact: true }).fill('9 Mb/s')
      await page.getByRole('textbox', { name: 'Takes', exact: true }).press('Enter')
      await page.getByRole('button', { name: 'Add: The line is cut' }).click()
      await page.getByLabel('For', { exact: true }).fill('2')
      await page.getByLabel('For', { exact: true }).press('Enter')
      await page.getByRole('button', { name: 'Run 1,000 nights' }).click()
      await page.getByRole('button', { name: /^Stop at/ }).waitFor({ state: 'hidden' })
      await untilTried(page)
      await page.getByRole('button', { name: 'Find it' }).click()
      await page.getByText('headrooms, each planned anew').waitFor({ state: 'hidden' })
      await page.getByRole('button', { name: 'Next event' }).click()
      await page.getByRole('heading', { name: /^Clean on/ }).scrollIntoViewIfNeeded()
    },
  },
  {
    name: 'encoders',
    path: (id) => `/shows/${id}/encoders`,
    colours: 'light',
    prepare: async (page) => {
      await page.getByRole('button', { name: /^Quick/ }).click()
      await page.getByText(/^1[0-9] of/).waitFor({ timeout: 90_000 })
    },
  },
  {
    name: 'trial',
    path: (id) => `/shows/${id}/trial`,
    colours: 'light',
    // On this computer as it is, so that the plan is one that it can carry out.
    prepare: async (page) => {
      const trial = page.url()
      await page.goto(trial.replace(/trial$/, 'encoders'))
      const measure = page.getByRole('button', { name: /^Quick/ })
      if (await measure.isVisible()) await measure.click()
      await page
        .getByRole('button', { name: 'Use what was measured in this show' })
        .click({ timeout: 150_000 })
      await page.getByText(/saved just now/).waitFor()
      await page.goto(trial)
      await page.getByLabel('For', { exact: true }).selectOption({ label: '15 s' })
      await page.getByRole('button', { name: /^Try it/ }).click()
      await page.getByRole('heading', { name: 'What arrived' }).waitFor({ timeout: 120_000 })
    },
  },
  {
    name: 'plans',
    path: (id) => `/shows/${id}/fit`,
    colours: 'dark',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Keep the present plan' }).click()
      await page.getByLabel('Picture', { exact: true }).selectOption('action')
      await page.getByText('(differs)').first().waitFor({ state: 'attached' })
      await untilTried(page)
      await page.getByRole('heading', { name: 'Compare plans' }).scrollIntoViewIfNeeded()
    },
  },
]

/** Until the planner has tried every way to gain. */
const untilTried = (page: Page) =>
  page.getByText('trying one after the other').waitFor({ state: 'detached' })

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

async function send(address: string, method: string, body: unknown): Promise<void> {
  const headers = { 'content-type': 'application/json' }
  await fetch(address, { method, headers, body: JSON.stringify(body) })
}

/** Takes the README's pictures anew, from the demo; all, or those that are named. */
main(async () => {
  mkdirSync(folder, { recursive: true })
  const stack = await startStack()
  const browser = await chromium.launch({
    executablePath: chromiumPath,
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
    const { id } = await storeShow(
      address,
      withPlan(plannedDemoShow, fitShow(plannedDemoShow).parts ?? []),
    )
    for (const profile of demoProfiles) await send(`${address}/api/profiles`, 'POST', profile)
    for (const destination of ['longmeadow', 'tallstory-wide'])
      await send(`${address}/api/shows/${id}/keys/${destination}`, 'PUT', { key: nanoid() })
    const wanted = process.argv.slice(2)
    for (const view of views)
      if (wanted.length === 0 || wanted.includes(view.name))
        await picture(browser, address, id, view)
  } finally {
    await browser.close()
    await stopStack(stack)
  }
})
