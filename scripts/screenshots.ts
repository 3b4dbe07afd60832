import { mkdirSync } from 'node:fs'
import { fitShow, withPlan } from '@green-mantle/core/plan'
import { demoProfiles, demoShow, plannedDemoShow } from '@green-mantle/demo'
import { type Browser, chromium, type Page } from '@playwright/test'
import { DateTime } from 'luxon'
import { startStack, stopStack, storeShow } from '../tests/browser/fixtures'
import { smallShow } from '../tests/browser/smallShow'
import { nanoid } from 'nanoid'
import { chromiumArguments, chromiumPath } from '../tests/browser/playwright.config'
import { root } from './paths'
import { main } from './run'
import { meant } from '../tests/meant'

const folder = `${root}/docs/screenshots`

interface View {
  name: string
  path: (showId: string) => string
  colours: 'light' | 'dark'
  /** Of a show that begins in a few minutes, small enough to be sent from here. */
  isTonight?: true
  size?: { width: number; height: number }
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
  {
    name: 'sound',
    path: (id) => `/shows/${id}/sound`,
    colours: 'light',
    prepare: (page) => page.getByRole('button', { name: 'Show levels' }).click(),
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
      await page.getByText(/headrooms …/).waitFor({ state: 'visible' })
      await page.getByText(/headrooms …/).waitFor({ state: 'hidden', timeout: 180_000 })
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
      const measure = page.getByRole('button', { name: /^Quick/, disabled: false })
      const isFar = page.getByText(/^[1-9][0-9] of/)
      // Another picture may have begun to measure.
      await measure.or(isFar).first().waitFor({ timeout: 90_000 })
      if (await measure.isVisible()) await measure.click()
      await isFar.waitFor({ timeout: 90_000 })
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
      const measure = page.getByRole('button', { name: /^Quick/, disabled: false })
      const use = page.getByRole('button', { name: 'Use what was measured in this show' })
      // What another picture began to measure has to end first.
      await measure.or(use).first().waitFor({ timeout: 150_000 })
      if (!(await use.isVisible())) await measure.click()
      await use.click({ timeout: 150_000 })
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
  { name: 'run-sheet', path: (id) => `/shows/${id}/run-sheet`, colours: 'light', isTonight: true },
  {
    name: 'night',
    path: (id) => `/shows/${id}/run-sheet`,
    colours: 'light',
    isTonight: true,
    prepare: goUp,
  },
  {
    name: 'phone',
    path: (id) => `/phone/${id}`,
    colours: 'dark',
    isTonight: true,
    size: { width: 390, height: 844 },
  },
  {
    name: 'on-air',
    path: (id) => `/shows/${id}/on-air`,
    colours: 'dark',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Begin the sound' }).click()
      await page.getByRole('button', { name: /^Prepare Bench talk/ }).click()
      await page.getByRole('switch', { name: 'Show cover zones' }).click()
      await page
        .getByText(/[1-9]\d* of \d+ · \d+ late/)
        .first()
        .waitFor()
    },
  },
  { name: 'wrap-up', path: (id) => `/wrap-ups/${id}`, colours: 'light', isTonight: true },
]

const press = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click()
async function tick(page: Page, title: string): Promise<void> {
  await press(page, `Done: ${title}`)
  const insist = page.getByRole('button', { name: 'It is done all the same' })
  const ticked = page.getByRole('button', { name: `Take back: ${title}`, exact: true })
  await insist.or(ticked).waitFor()
  if (await insist.isVisible()) await insist.click()
  await ticked.waitFor()
}

/** Goes up to where start is to be pressed on the page of a stand-in. */
async function goUp(page: Page): Promise<void> {
  await page.getByLabel('Ticked here by').selectOption('Ines')
  await press(page, 'Looked through')
  await press(page, 'Begin the night')
  for (const title of ['Stop syncs and updates', 'Charge, plug in, cable in'])
    await tick(page, title)
  for (const title of ['Every source is there', 'Every microphone moves its level'])
    await tick(page, title)
  await tick(page, 'The encoders of this computer open')
  await tick(page, 'Rehearsed since the last change')
  await tick(page, 'No phone or second program is logged in where it ends the send')
  await press(page, 'Start the encoders')
  await page.getByRole('heading', { name: 'Practised from this computer' }).waitFor()
  const showId = /shows\/([^/]+)/.exec(page.url())?.[1]
  const platform = `${new URL(page.url()).origin}/stand-ins/platforms/${showId}/flickerbrook`
  const form = { 'content-type': 'application/x-www-form-urlencoded' }
  await fetch(platform, { method: 'POST', headers: form, body: 'do=key' })
  const [, key] = /id="key">([^<]+)</.exec(await (await fetch(platform)).text()) ?? []
  const keys = `${new URL(page.url()).origin}/api/shows/${showId}/keys/flickerbrook`
  await send(keys, 'PUT', { key })
  await page
    .getByRole('button', { name: 'Done by itself: Paste the fresh key of Flickerbrook' })
    .waitFor()
  await tick(page, 'Scene: Starting soon')
  await tick(page, 'Start sending to Longmeadow')
  await tick(page, 'Start sending to Flickerbrook')
  await page.waitForTimeout(20_000)
  for (const name of ['Flickerbrook', 'Longmeadow'])
    await tick(page, `See the picture arrive on ${name}’s page`)
  for (const name of ['Flickerbrook', 'Longmeadow']) await tick(page, `Mute ${name}’s page`)
  await tick(page, 'See Longmeadow as a viewer does')
  await page.getByRole('region', { name: 'Due now' }).scrollIntoViewIfNeeded()
}

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
    viewport: view.size ?? { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    colorScheme: view.colours,
  })
  await page.goto(address + view.path(showId), {
    // What follows a night is never idle.
    waitUntil: view.isTonight ? 'load' : 'networkidle',
  })
  await view.prepare?.(page)
  await page.waitForTimeout(800)
  await page.screenshot({ path: `${folder}/${view.name}.png` })
  await page.close()
}

async function send(address: string, method: string, body: unknown): Promise<void> {
  const headers = { ...meant, 'content-type': 'application/json' }
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
    const { id: tonight } = await storeShow(address, {
      ...smallShow,
      startsAt: DateTime.now()
        .plus({ minutes: 7 })
        .setZone(smallShow.timeZone)
        .toFormat("yyyy-MM-dd'T'HH:mm"),
    })
    await send(`${address}/api/shows/${tonight}/keys/longmeadow`, 'PUT', { key: nanoid() })
    for (const profile of demoProfiles) await send(`${address}/api/profiles`, 'POST', profile)
    for (const destination of ['longmeadow', 'tallstory-wide'])
      await send(`${address}/api/shows/${id}/keys/${destination}`, 'PUT', { key: nanoid() })
    const wanted = process.argv.slice(2)
    for (const view of views)
      if (wanted.length === 0 || wanted.includes(view.name))
        await picture(browser, address, view.isTonight ? tonight : id, view)
  } finally {
    await browser.close()
    await stopStack(stack)
  }
})
