import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { connect } from '../../server/database/connection'
import {
  expect,
  expectAccessible,
  killAndStartAgain,
  type Stack,
  startStack,
  stopStack,
  storeShow,
  test,
} from './fixtures'
import { mostMilliseconds } from '../tier'
import { tonight } from './smallShow'
import { meant } from '../meant'

const done = (page: Page, title: string) =>
  page.getByRole('button', { name: `Done: ${title}`, exact: true })
const tickedRow = (page: Page, title: string) =>
  page.getByRole('button', { name: `Take back: ${title}`, exact: true })
const card = (page: Page, name: string) => page.getByRole('article', { name, exact: true })

/** Ticks a task, although others come first where they do. */
async function tick(page: Page, title: string): Promise<void> {
  await done(page, title).click({ timeout: 8000 })
  const insist = page.getByRole('button', { name: 'It is done all the same' })
  await expect(tickedRow(page, title).or(insist)).toBeVisible()
  if (await insist.isVisible()) await insist.click()
  await expect(tickedRow(page, title)).toBeVisible()
}

/** Presses a button on a stand-in's own page, as often as it takes to be possible. */
async function press(page: Page, name: string): Promise<void> {
  const button = page.getByRole('button', { name, exact: true })
  await expect(async () => {
    await page.reload()
    await expect(button).toBeEnabled({ timeout: 1000 })
  }).toPass()
  // Once and not again: what was pressed cannot be pressed a second time.
  await button.click()
}

const read = (path: string): string => {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    // It has ended meanwhile.
    return ''
  }
}
/** The arguments of every encoder that a stack's application runs; one that ended and is not reaped has none. */
const encodersOf = ({ application }: Stack): Map<string, string> =>
  new Map(
    readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name))
      .filter(
        (name) =>
          read(`/proc/${name}/stat`).split(') ')[1]?.split(' ')[1] === `${application.process.pid}`,
      )
      .map((name) => [name, read(`/proc/${name}/cmdline`)] as const)
      .filter(([, text]) => text.includes('from-here')),
  )

async function everyTable({ databaseUrl }: Stack): Promise<string> {
  const database = connect(databaseUrl)
  try {
    const [tables] = (await database.raw('SHOW TABLES')) as [Record<string, string>[]]
    const rows = await Promise.all(
      tables.map((row) => database(Object.values(row)[0] as string).select()),
    )
    return JSON.stringify(rows)
  } finally {
    await database.destroy()
  }
}

test(
  'a whole night from the first key to the wrap-up, sent from here to stand-ins',
  { tag: '@real-time' },
  async ({ page, context, stack }) => {
    // Encodes in real time: on a machine that others use it takes a while until they keep up.
    const { address } = stack.application
    const { id } = await storeShow(address, tonight())
    const lasting = 'a-lasting-key-of-longmeadow'
    const paste = (destinationId: string, key: string) =>
      fetch(`${address}/api/shows/${id}/keys/${destinationId}`, {
        method: 'PUT',
        headers: { ...meant, 'content-type': 'application/json' },
        body: JSON.stringify({ key }),
      })
    await paste('longmeadow', lasting)
    const answers: Promise<string>[] = []
    page.on('response', (response) => {
      // What answers to what the page sends is empty, or a number; the stream never ends.
      const isRead = response.request().method() === 'GET' && !response.url().includes('/stream')
      if (response.url().includes(`/api/shows/${id}`) && isRead)
        answers.push(response.text().catch(() => ''))
    })
    await page.goto(`/shows/${id}/run-sheet`)
    await expect(page.getByRole('heading', { name: /^Before you begin: / })).toBeVisible()
    await expect(page.getByText('Look at: Flickerbrook has no key yet.')).toBeVisible()
    await page.getByRole('button', { name: 'Begin the night' }).click()

    // The key of the session, taken from the page of the platform.
    await page.getByRole('button', { name: 'Set up their pages' }).click()
    await expect(page.getByRole('link', { name: 'Open its page' })).toHaveCount(2)
    const platform = await context.newPage()
    await platform.goto(`/stand-ins/platforms/${id}/flickerbrook`)
    await platform.getByRole('button', { name: 'New session' }).click()
    const session = (await platform.locator('#key').textContent()) ?? ''
    expect(session).toMatch(/^session-/)
    await paste('flickerbrook', session)
    await expect(
      page.getByRole('button', { name: 'Done by itself: Paste the fresh key of Flickerbrook' }),
    ).toBeVisible()

    await page.getByRole('button', { name: 'Start the encoders' }).click()
    await expect(page.getByRole('heading', { name: 'Practised from this computer' })).toBeVisible()
    const recordingSince = Date.now()
    await tick(page, 'Scene: Starting soon')
    await tick(page, 'Start sending to Longmeadow')
    await tick(page, 'Start sending to Flickerbrook')
    await tick(page, 'Start recording Archive file')
    await expect(card(page, 'Longmeadow')).toContainText('steady')
    await expect(card(page, 'Flickerbrook')).toContainText('the picture is there, not live')
    for (const name of ['Longmeadow', 'Flickerbrook'])
      await tick(page, `See the picture arrive on ${name}’s page`)
    // Arrived is not live.
    await expect(card(page, 'Flickerbrook')).toContainText('arrived, nobody sees it yet')
    await press(platform, 'Start')
    await tick(page, 'Mute Flickerbrook’s page')
    await tick(page, 'Press start on Flickerbrook’s page')
    await expect(card(page, 'Flickerbrook')).toContainText('Its page: the picture is there, live.')
    await tick(page, 'See Flickerbrook as a viewer does, on a phone')
    await tick(page, 'Mute Longmeadow’s page')
    await tick(page, 'See Longmeadow as a viewer does')
    await tick(page, 'Begin: scene Petals wide')
    await expect(page.getByText('On air for')).toBeVisible()
    await page.getByLabel('Scene on air').selectOption('Petals wide')

    await expectAccessible(page)
    // A mark, by its key.
    await page.locator('body').click()
    await page.keyboard.press('m')
    await page.getByRole('textbox', { name: /^Name of the mark/ }).fill('The bud opens')
    await page.keyboard.press('Enter')
    await expect(page.getByText('Mark called The bud opens')).toBeVisible()

    // Flickerbrook hangs up in the middle; it comes back by itself, and nobody else is touched.
    await press(platform, 'Hang up')
    await expect(page.getByText('Flickerbrook: hung up')).toBeVisible()
    await expect(page.getByText('Flickerbrook: well again')).toBeVisible()
    await expect(card(page, 'Flickerbrook')).toContainText('came back once')
    await expect(card(page, 'Longmeadow')).not.toContainText('came back')

    await page.locator('body').click()
    await page.keyboard.press('Shift+M')
    await expect(
      page.getByText(/^Kept the last 30 s of the landscape canvas/).first(),
    ).toBeVisible()

    // Neither key is to be seen anywhere while they are being used.
    const processes = [...encodersOf(stack).values()].join('\n')
    expect(processes).toContain('from-here')
    const everywhere = [
      processes,
      await page.evaluate(() => document.documentElement.outerHTML + JSON.stringify(localStorage)),
      ...(await Promise.all(answers)),
      stack.output.join(''),
      await everyTable(stack),
    ].join('\n')
    for (const key of [lasting, session]) expect(everywhere).not.toContain(key)

    // Stopped here before it is ended there: it says so, and what is to be done when it is done all the same.
    await tick(page, 'A last scene')
    await done(page, 'Stop sending to Flickerbrook').click()
    await expect(page.getByText(/viewers would see a frozen picture/)).toBeVisible()
    await page.getByRole('button', { name: 'Not yet' }).click()
    await press(platform, 'End')
    await tick(page, 'End on Flickerbrook’s page')
    await tick(page, 'Stop sending to Flickerbrook')
    await tick(page, 'Stop sending to Longmeadow')
    const recordedSeconds = (Date.now() - recordingSince) / 1000
    await page.getByRole('button', { name: /^Stop all/ }).click()
    await expect(page.getByRole('button', { name: 'Start the encoders' })).toBeVisible()
    expect(encodersOf(stack).size).toBe(0)
    const folder = `${stack.directory}/recordings`
    const [file] = readdirSync(folder).filter((name) => /^A practised night.*\.mkv$/.test(name))
    const seconds = execFileSync(
      'ffprobe',
      [
        ...['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0'],
        `${folder}/${file}`,
      ],
      { encoding: 'utf8' },
    )
    // Whole, but for what an encoder takes to begin and, on a machine that others use, to keep up.
    expect(Number(seconds)).toBeGreaterThan(0.5 * recordedSeconds)

    await page.getByRole('button', { name: 'The night is over' }).click()
    await page.getByRole('link', { name: 'Wrap-up' }).click()
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('A practised night: wrap-up')
    const row = page.getByRole('row', { name: /^Flickerbrook/ })
    await expect(row).toContainText('hung up')
    await expect(row).not.toContainText('stopped before it was ended')
    await expect(row).toContainText(/kb\/s of 728/)
    await expect(row).toContainText(/score [\d.]+, planned [\d.]+/)
    await expect(row).toContainText(/stood still/)
    await expect(page.getByText(/canvas took \d+ % of the processor/).first()).toBeVisible()
    // What went to stand-ins is not known to go up the line.
    await expect(page.getByText(/The line carried/)).toBeHidden()
    await expect(page.getByRole('heading', { name: 'Recorded here' })).toBeVisible()
    await expect(page.getByText('The bud opens').first()).toBeVisible()
    await expectAccessible(page)
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'WebVTT chapters' }).click()
    const stream = await (await download).createReadStream()
    expect(Buffer.concat(await stream.toArray()).toString()).toContain('The bud opens')

    // The stretch that was marked, as far as it was recorded.
    await page.getByRole('button', { name: 'Cut marked stretches out (1)' }).click()
    await expect(page.getByText(/^On the computer that records: /)).toBeVisible()
    expect(
      readdirSync(folder).filter((name) => /, 0-00-\d\d to 0-\d\d-\d\d\.mkv$/.test(name)),
    ).toHaveLength(1)

    await page.getByRole('button', { name: 'Make it' }).click()
    await expect(page).toHaveURL(/\/destinations$/)
    expect(new URL(page.url()).pathname).not.toContain(id)
  },
)

test('two windows and a phone show one tick within a second, and a window that was away catches up', async ({
  page,
  context,
  stack,
  consoleProblems,
}) => {
  const { id } = await storeShow(stack.application.address, tonight())
  const [second, phone] = [await context.newPage(), await context.newPage()]
  await phone.setViewportSize({ width: 390, height: 844 })
  for (const window of [page, second]) await window.goto(`/shows/${id}/run-sheet`)
  await page.getByRole('button', { name: 'Begin the night' }).click()
  await phone.goto(`/phone/${id}`)
  await expect(phone.getByRole('button', { name: 'Mark now' })).toBeVisible()
  await expectAccessible(phone)
  await page.getByLabel('Ticked here by').selectOption('Ines')
  await expect(second.getByText('The night begins')).toBeVisible()

  const seenOn = async (window: Page, words: string): Promise<number> => {
    await expect(window.getByText(words).first()).toBeVisible()
    return Date.now()
  }
  const title = await phone.getByRole('heading', { level: 2 }).first().textContent()
  const from = Date.now()
  await phone.getByRole('button', { name: 'Done', exact: true }).click()
  const insist = phone.getByRole('button', { name: 'It is done all the same' })
  if (await insist.isVisible()) await insist.click()
  const seen = await Promise.all(
    [page, second].map(async (window) => {
      await expect(tickedRow(window, title ?? '')).toBeVisible()
      return Date.now()
    }),
  )
  // The server tells it within a second (nightStore.test.ts); the rest is the browser's.
  expect(Math.max(...seen) - from).toBeLessThan(mostMilliseconds(5000))

  // Away: what is ticked here meanwhile is kept here, and told when it is back.
  await second.context().setOffline(true)
  await tick(page, 'Charge, plug in, cable in')
  await expect(page.getByText(/Not kept by the server yet: 1/)).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByText(/Not kept by the server yet/)).toBeHidden()
  await seenOn(second, 'Charge, plug in, cable in · Ines')
  consoleProblems.splice(0)
})

test('the order is made one’s own by keyboard alone, each change one step of undo', async ({
  page,
  stack,
}) => {
  const { id, read } = await storeShow(stack.application.address, tonight())
  await page.goto(`/shows/${id}/run-sheet`)
  await expect(page.getByRole('heading', { name: /^Before you begin/ })).toBeVisible()
  await page.keyboard.press('n')
  await expect(page.getByRole('heading', { name: 'A task of your own' })).toBeVisible()
  await page.getByRole('textbox', { name: 'What' }).focus()
  await page.keyboard.type('Water the cactus')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Water the cactus', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Stop syncs and updates', exact: true }).focus()
  await page.keyboard.press('Enter')
  const what = page.getByRole('textbox', { name: 'What' })
  await what.focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Stop the sync of the garden office')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Whose' }).focus()
  await page.keyboard.type('Oke')
  await page.keyboard.press('Escape')
  await expect(
    page.getByRole('button', { name: 'Stop the sync of the garden office', exact: true }),
  ).toBeVisible()
  await expect
    .poll(async () => (await read()).runSheet.changes)
    .toMatchObject([{ id: 'quiet', title: 'Stop the sync of the garden office', personId: 'oke' }])
  for (let index = 0; index < 3; index += 1) await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: 'Water the cactus', exact: true })).toBeHidden()
  await expect(
    page.getByRole('button', { name: 'Stop syncs and updates', exact: true }),
  ).toBeVisible()
})

test('scenes and marks have keys, which can be others in this browser', async ({ page, stack }) => {
  const { id } = await storeShow(stack.application.address, tonight())
  await page.goto(`/shows/${id}/run-sheet`)
  await page.getByRole('button', { name: 'Begin the night' }).click()
  await expect(page.getByText('The night begins')).toBeVisible()
  await page.keyboard.press('2')
  const [, scene] = tonight().scenes
  await expect(page.getByLabel('Scene on air')).toHaveValue(scene?.id ?? '')

  await page.keyboard.press('Shift+?')
  const list = page.getByRole('dialog')
  await list.getByRole('button', { name: 'Change the keys of Mark this moment' }).focus()
  await page.keyboard.press('Enter')
  await page.keyboard.press('d')
  await expect(list.getByRole('alert')).toContainText('What is due now is done')
  await page.keyboard.press('k')
  await expect(
    list.getByRole('button', { name: 'Change the keys of Mark this moment' }),
  ).toHaveText('K')
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await expect(list).toBeHidden()
  await page.reload()
  await expect(page.getByText('The night begins')).toBeVisible()
  const marks = page.getByRole('list', { name: 'Marks made' }).getByRole('listitem')
  await page.keyboard.press('m')
  await page.keyboard.press('k')
  await expect(marks).toHaveCount(1)

  await page.keyboard.press('Shift+?')
  await list.getByRole('button', { name: 'The usual keys for Mark this moment' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('m')
  await expect(marks).toHaveCount(2)
})

test(
  'the server is killed in the middle of a night: no encoder is left, and the night goes on',
  { tag: '@deep' },
  async ({ page, consoleProblems }) => {
    const stack = await startStack()
    try {
      const { address } = stack.application
      const show = tonight()
      for (const { rules } of show.destinations) rules.key.life = 'no key'
      const { id } = await storeShow(address, show)
      const stages = async (): Promise<string[]> => {
        const answer = await fetch(`${address}/api/shows/${id}/sender`)
        const { state } = (await answer.json()) as { state: { sends: { stage: string }[] } | null }
        return (state?.sends ?? []).map(({ stage }) => stage).sort()
      }
      await page.goto(`${address}/shows/${id}/run-sheet`)
      await page.getByRole('button', { name: 'Begin the night' }).click()
      await page.getByRole('button', { name: 'Start the encoders' }).click()
      await expect(
        page.getByRole('heading', { name: 'Practised from this computer' }),
      ).toBeVisible()
      await tick(page, 'Charge, plug in, cable in')
      await tick(page, 'Start sending to Longmeadow')
      await expect.poll(stages).toEqual(['ready', 'sending'])
      // What is under way is noted every few seconds.
      await page.waitForTimeout(4000)
      const before = [...encodersOf(stack).keys()]
      expect(before.length).toBeGreaterThan(0)
      const killed = killAndStartAgain(stack)
      await expect
        .poll(() => before.filter((name) => read(`/proc/${name}/cmdline`).includes('from-here')), {
          timeout: mostMilliseconds(5000),
        })
        .toEqual([])
      await killed
      await expect(tickedRow(page, 'Charge, plug in, cable in')).toBeVisible()
      await expect(page.getByRole('button', { name: 'Start the encoders' })).toBeVisible()
      // What was under way is told by the start after it.
      await expect(page.getByText(/The server ended while it sent/).first()).toBeVisible()
      await page.getByRole('button', { name: 'Go on with it' }).click()
      await expect(
        page.getByRole('heading', { name: 'Practised from this computer' }),
      ).toBeVisible()
      await expect(page.getByRole('button', { name: 'Go on with it' })).toBeHidden()
      await expect.poll(stages).toEqual(['ready', 'sending'])
      await tick(page, 'Every source is there')
      await expect(page.getByText(/Not kept by the server yet/)).toBeHidden()
      // Asked to end, it does not wait for windows that follow the night.
      const asked = Date.now()
      await stack.application.stop()
      expect(Date.now() - asked).toBeLessThan(mostMilliseconds(4500))
    } finally {
      await page.goto('about:blank')
      consoleProblems.splice(0)
      await stopStack(stack)
    }
  },
)

test('a night is not begun days early by mistake, and says of what is far away on which day it is', async ({
  context,
  page,
  stack,
}) => {
  const [start] = new Date(Date.now() + 11 * 86_400_000).toISOString().split('.')
  const startsAt = (start as string).slice(0, 16)
  const { id } = await storeShow(stack.application.address, { ...tonight(), startsAt })
  await page.goto(`/shows/${id}/run-sheet`)
  const begin = page.getByRole('button', { name: 'Begin the night' })
  await begin.click()
  await page.getByRole('button', { name: 'Not yet' }).click()
  await expect(begin).toBeVisible()
  await begin.click()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Begin it all the same' }).click()
  const day = String.raw`\d{1,2} [A-Z][a-z]{2} \d\d:\d\d`
  const due = page.getByRole('region', { name: 'Due now' })
  await expect(due.getByRole('heading')).toHaveText(new RegExp(`Next, ${day}: `))
  const phone = await context.newPage()
  await phone.goto(`/phone/${id}`)
  await expect(phone.getByRole('timer')).toHaveText('10 days')
  await expect(phone.getByLabel('Next').getByRole('listitem').last()).toHaveText(
    new RegExp(`^${day} `),
  )
})
