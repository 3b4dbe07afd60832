import { writeProfileFile } from '@green-mantle/core/formats'
import { demoProfiles, demoShow } from '@green-mantle/demo'
import type { Page } from '@playwright/test'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, step, test, untilSaved } from './fixtures'
import { meant } from '../meant'

test.use({ opensOn: 'destinations' })

const sections = ['Connects', 'Accepts', 'Says', 'On the night', 'Covers']
const card = (page: Page, name: string) => page.locator(`[data-destination="${name}"]`)
const open = (page: Page, name: string) =>
  card(page, name)
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click()
/** The profiles that come with the demo, as another installation would send them. */
async function withProfiles(page: Page): Promise<void> {
  for (const profile of demoProfiles)
    await page.request.post('/api/profiles', { headers: meant, data: profile })
}

test('adds one platform on both canvases in one step, and catches the second key', async ({
  page,
  demo,
}) => {
  await withProfiles(page)
  await step(page, 'Destinations').click()
  await page.getByRole('button', { name: 'Add from a profile …' }).click()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Add Tallstory on both canvases' }).click()
  await expect(card(page, 'Tallstory wide 2')).toContainText('no key yet, lasting')
  await expect(card(page, 'Tallstory tall 2')).toContainText('no key yet, lasting')
  for (const name of ['Tallstory wide 2', 'Tallstory tall 2']) {
    await open(page, name)
    await page.getByLabel('Paste the key').fill('one-and-the-same')
    await page.getByRole('button', { name: 'Keep it' }).click()
    await expect(card(page, name)).toContainText('lasting key, pasted just now')
  }
  const notReady = page.getByRole('list', { name: 'Not ready yet' })
  await expect(notReady).toContainText('has the same key as Tallstory wide 2: each needs its own')
  await page.getByLabel('Paste another key').fill('its-own')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(notReady).not.toContainText('each needs its own')
  for (const name of sections) {
    await page.getByRole('tab', { name }).click()
    await expectAccessible(page)
  }
  await untilSaved(page)
  const { destinations } = await demo.read()
  expect(destinations.slice(-2).map(({ canvas, profile }) => [canvas, profile?.id])).toEqual([
    ['landscape', 'tallstory'],
    ['vertical', 'tallstory'],
  ])
  // Both came in with one edit.
  await page.keyboard.press('Control+z')
  await expect(card(page, 'Tallstory wide 2')).toHaveCount(0)
  await expect(card(page, 'Tallstory tall 2')).toHaveCount(0)
})

test.describe('with a clock of its own', () => {
  // The clock of a page is that of its whole context, and is not given back.
  test.use({ ownContext: true })
  test('replaces a stale key, shows it only when asked, copies it, forgets it', async ({
    page,
    demo,
    context,
  }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write'])
    await page.clock.install({ time: new Date('2026-12-12T19:00:00Z') })
    await page.request.put(`/api/shows/${demo.id}/keys/flickerbrook`, {
      headers: meant,
      data: { key: 'session-1' },
    })
    await page.clock.setFixedTime(new Date(Date.now() + 13 * 3_600_000))
    await page.goto(`/shows/${demo.id}/destinations`)
    await expect(card(page, 'Flickerbrook')).toContainText('stale, pasted 13 hours ago')
    await open(page, 'Flickerbrook')
    // The same one again is noticed for what it is.
    await page.getByLabel('Paste another key').fill('session-1')
    await page.getByRole('button', { name: 'Keep it' }).click()
    await expect(page.getByTestId('key-state')).toContainText('the last session’s key again')
    await page.clock.setFixedTime(new Date())
    await page.reload()
    await open(page, 'Flickerbrook')
    await page.getByLabel('Paste another key').fill('session-2')
    await page.getByRole('button', { name: 'Keep it' }).click()
    await expect(card(page, 'Flickerbrook')).toContainText('per session key, pasted just now')
    await expect(page.getByText('session-2')).toHaveCount(0)
    await page.getByRole('button', { name: 'Copy', exact: true }).click()
    await expect(page.getByText('The key of Flickerbrook is copied.')).toBeVisible()
    expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('session-2')
    await expect(page.getByText('session-2')).toHaveCount(0)
    await page.getByRole('button', { name: 'Show for 20 s' }).click()
    await expect(page.getByTestId('shown-key')).toHaveText('session-2')
    await page.clock.runFor(19_000)
    await expect(page.getByTestId('shown-key')).toBeVisible()
    await page.clock.runFor(1500)
    await expect(page.getByTestId('shown-key')).toBeHidden()
    await page.getByRole('button', { name: 'Forget' }).click()
    await expect(card(page, 'Flickerbrook')).toContainText('no key yet, per session')
    await page.getByRole('button', { name: 'Bring it back' }).click()
    await expect(card(page, 'Flickerbrook')).toContainText('pasted just now')
  })
})

test('with the keyboard alone: pastes a key, overrides a title, moves and copies', async ({
  page,
  demo,
}) => {
  await page.keyboard.press('Alt+4')
  await expect(page.getByRole('heading', { name: 'Destinations', exact: true })).toBeVisible()
  await tabTo(page, 'Paste the key')
  await page.keyboard.type('typed-key')
  await page.keyboard.press('Enter')
  await expect(card(page, 'Longmeadow')).toContainText('lasting key, pasted just now')
  await tabTo(page, 'Connects')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('tab', { name: 'Says' })).toHaveAttribute('aria-selected', 'true')
  await tabTo(page, 'Title')
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Live from the glasshouse')
  await page.keyboard.press('Enter')
  await expect(page.getByText('24 of 100 characters')).toBeVisible()
  await tabTo(page, 'Copy Longmeadow')
  await page.keyboard.press('Enter')
  await expect(card(page, 'Longmeadow copy')).toBeVisible()
  await tabTo(page, 'Move Longmeadow copy up')
  await page.keyboard.press('Enter')
  await untilSaved(page)
  const { destinations } = await demo.read()
  expect(destinations.slice(0, 2).map(({ name, words }) => [name, words.title])).toEqual([
    ['Longmeadow copy', 'Live from the glasshouse'],
    ['Longmeadow', 'Live from the glasshouse'],
  ])
})

test('a relay feeds two and counts once', async ({ page, demo }) => {
  await step(page, 'Destinations').click()
  await page.getByRole('switch', { name: 'Relayhouse is on' }).click()
  await open(page, 'Relayhouse')
  const feeds = page.getByRole('group', { name: /It feeds/ })
  await feeds.getByRole('button', { name: 'Longmeadow' }).click()
  await feeds.getByRole('button', { name: 'Rookery' }).click()
  await page.getByRole('switch', { name: 'Rookery is on' }).click()
  await expect(page.getByText('It feeds (2 of at most 5 on)')).toBeVisible()
  await expect(card(page, 'Longmeadow')).toContainText('through Relayhouse')
  // Rookery takes 4000 kb/s, and the relay gets 6000: the rule is held through it.
  await step(page, 'Fit').click()
  await expect(page.getByRole('heading', { name: /^Three sends/ })).toBeVisible()
  await expect(
    page.getByText('Rookery, through Relayhouse, takes at most 4,000 kb/s'),
  ).toBeVisible()
  await untilSaved(page)
  const fed = (await demo.read()).destinations.filter(({ relayId }) => relayId === 'relayhouse')
  expect(fed.map(({ name }) => name)).toEqual(['Longmeadow', 'Rookery'])
})

test('profiles are brought in, kept in a further revision, and taken over', async ({
  page,
  demo,
  consoleProblems,
}) => {
  await withProfiles(page)
  await step(page, 'Destinations').click()
  await page.getByRole('button', { name: 'Add from a profile …' }).click()
  const bring = async (text: string): Promise<void> => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Bring a profile in …' }).click()
    const file = { name: 'a.profile.json', mimeType: 'application/json', buffer: Buffer.from(text) }
    await (await chooser).setFiles(file)
  }
  const first = demoProfiles.find(({ id }) => id === 'longmeadow')!
  const newer = structuredClone(first)
  // Other tests of this run may have raised it already.
  newer.revision = 90
  newer.landscape!.rules.mostVideoBitrateKbps = 12_000
  await bring(writeProfileFile(newer).replace('"landscape"', '"landskip"'))
  await expect(page.getByText(/a.profile.json: profile.*Nothing was taken/)).toBeVisible()
  await bring(writeProfileFile(newer))
  await expect(page.getByText('Longmeadow is here, revision 90.')).toBeVisible()
  await bring(writeProfileFile(first))
  await expect(page.getByText(/Longmeadow is here in this revision or a newer one/)).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(card(page, 'Longmeadow')).toContainText('its profile is older')
  await open(page, 'Longmeadow')
  await page.getByRole('button', { name: 'Take it over' }).click()
  await expect(card(page, 'Longmeadow')).toContainText('≤ 12,000 kb/s')
  await page.getByRole('button', { name: 'Keep as profile' }).click()
  await expect(page.getByText('Longmeadow is kept as revision 91.')).toBeVisible()
  await untilSaved(page)
  expect((await demo.read()).destinations[0]?.profile).toMatchObject({ revision: 91 })
  // The browser tells of the older one that was refused.
  expect(consoleProblems.splice(0)).toEqual([expect.stringContaining('409')])
})

test('a thumbnail is cut to the wanted shape and kept', async ({ page, demo }) => {
  await step(page, 'Destinations').click()
  await page.getByRole('button', { name: 'Words for all …' }).click()
  await expectAccessible(page)
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose and cut …' }).click()
  const square = await page.evaluate(() => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 1200, height: 1200 })
    canvas.getContext('2d')!.fillRect(0, 0, 600, 600)
    return canvas.toDataURL('image/png').split(',')[1]!
  })
  await (
    await chooser
  ).setFiles({
    name: 'flower.png',
    mimeType: 'image/png',
    buffer: Buffer.from(square, 'base64'),
  })
  await expect(page.getByRole('heading', { name: 'Cut to 16:9' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Width' }).fill('960')
  await page.getByRole('textbox', { name: 'Width' }).press('Enter')
  await page.getByRole('button', { name: 'Cut it out' }).click()
  await expect(page.getByText(/^960×540/)).toBeVisible()
  await untilSaved(page)
  const { thumbnail } = (await demo.read()).words
  expect(thumbnail).toMatchObject({ fileName: 'flower.png', width: 960, height: 540 })
  expect((await page.request.get(`/api/files/${thumbnail?.fileId}`)).status()).toBe(200)
})

test('compares the limits of all destinations', async ({ page, demo }) => {
  await step(page, 'Destinations').click()
  await page.getByRole('button', { name: 'Compare …' }).click()
  await expect(page.getByRole('row', { name: /^Rookery/ })).toContainText('up to 3')
  await expectAccessible(page)
  expect(await demo.read()).toEqual(demoShow)
})

test(
  'with the keyboard alone: both canvases at once, a stale key, a profile from a file',
  { tag: '@deep' },
  async ({ page, demo }) => {
    await withProfiles(page)
    const keys = `/api/shows/${demo.id}/keys/flickerbrook`
    await page.request.put(keys, { headers: meant, data: { key: 'last-session' } })
    await page.request.put(keys, { headers: meant, data: { key: 'last-session' } })
    await page.reload()
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(demoShow.title)
    await page.keyboard.press('Alt+4')
    await expect(card(page, 'Flickerbrook')).toContainText('the last session’s key again')
    await tabTo(page, 'Add from a profile …')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-profile]').first()).toBeVisible()
    await tabTo(page, 'Bring a profile in …')
    const chooser = page.waitForEvent('filechooser')
    await page.keyboard.press('Enter')
    const profile = { ...demoProfiles[0]!, id: 'brackenhurst', name: 'Brackenhurst' }
    const buffer = Buffer.from(writeProfileFile(profile))
    await (await chooser).setFiles({ name: 'b.json', mimeType: 'application/json', buffer })
    await expect(page.locator('[data-profile=Brackenhurst]')).toBeVisible()
    await tabTo(page, 'Add Tallstory on both canvases')
    await page.keyboard.press('Enter')
    await expect(card(page, 'Tallstory wide 2')).toBeVisible()
    await expect(card(page, 'Tallstory tall 2')).toBeVisible()
    await tabTo(page, /^Flickerbrook *address and key/)
    await page.keyboard.press('Enter')
    await tabTo(page, 'Paste another key')
    await page.keyboard.type('this-session')
    await page.keyboard.press('Enter')
    await expect(card(page, 'Flickerbrook')).toContainText('per session key, pasted just now')
  },
)

test(
  'a title is written differently for one destination, with the mouse',
  { tag: '@deep' },
  async ({ page, demo }) => {
    await step(page, 'Destinations').click()
    await open(page, 'Flickerbrook')
    await page.getByRole('tab', { name: 'Says' }).click()
    const title = page.getByRole('textbox', { name: 'Title' })
    await expect(title).toHaveValue('A flower opens tonight')
    await title.fill('A night-blooming cactus opens once a year, and it is tonight 🌸')
    await title.blur()
    await expect(page.getByText('62 of 60 characters')).toBeVisible()
    await expect(page.getByRole('list', { name: 'Not ready yet' })).toContainText(
      'the title has 62 characters, at most 60 are taken',
    )
    await page.getByRole('button', { name: 'as for the show : Title' }).click()
    await expect(title).toHaveValue(demoShow.title)
    await untilSaved(page)
    expect((await demo.read()).destinations[1]?.words.title).toBeNull()
  },
)
