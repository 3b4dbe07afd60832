import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { demoShow } from '@green-mantle/demo'
import { meant } from '../meant'
import { casesOf, mostMilliseconds } from '../tier'
import { expect, expectAccessible, storeShow, test } from './fixtures'
import { coloured, framesOf as frames, middleOf } from './colouredShow'
import { longestGrey, loudestIn, offBy, orderOf, seenIn } from './seenOnAir'
import { smallShow } from './smallShow'

test('the on-air window draws both canvases, prepares a scene and takes it, by mouse and by keys', async ({
  page,
  stack,
}) => {
  const { id } = await storeShow(stack.application.address, coloured)
  await page.goto(`/shows/${id}/on-air`)
  await expect(frames(page)).toHaveText(/[1-9]\d* of/)
  const middle = () => middleOf(page)
  await expect.poll(middle).toEqual(['red', 'red'])
  const blue = page.getByRole('button', { name: 'Prepare All blue' })
  await blue.click()
  await expect(blue).toHaveAttribute('aria-pressed', 'true')
  expect(await middle()).toEqual(['red', 'red'])
  await page.getByRole('button', { name: /^Take All blue/ }).click()
  await expect.poll(middle).toEqual(['blue', 'blue'])
  await page.keyboard.press('3')
  await expect.poll(middle).toEqual(['grey', 'grey'])
  await expectAccessible(page)
})

test('a scene is drawn as its PNG has it, on both canvases', async ({ page, stack }) => {
  const scenes = casesOf(demoShow.scenes, ({ id }) => id === demoShow.scenes[0]!.id)
  const { id } = await storeShow(stack.application.address, demoShow)
  const folder = mkdtempSync(join(tmpdir(), 'green-mantle-drawn-'))
  const alike = '[0]format=yuv444p[a];[1]format=yuv444p[b];[a][b]ssim=stats_file=-'
  /** SSIM of luma, by FFmpeg. */
  const likeness = (one: string, other: string): number => {
    const words = execFileSync('ffmpeg', [
      ...['-v', 'error', '-i', one, '-i', other, '-lavfi', alike, '-f', 'null', '-'],
    ]).toString()
    return Number(/Y:([\d.]+)/.exec(words)?.[1])
  }
  try {
    for (const [index, { name }] of scenes.entries()) {
      await page.goto(`/shows/${id}/canvases`)
      await page
        .getByRole('button', { name: new RegExp(`^${name}`) })
        .first()
        .click()
      for (const canvas of ['landscape', 'vertical'] as const) {
        const label = `${canvas === 'landscape' ? 'Landscape' : 'Vertical'} as PNG`
        await page.getByRole('button', { name: 'Pictures of the canvases' }).click()
        const coming = page.waitForEvent('download')
        await page.getByRole('menuitem', { name: label }).click()
        await (await coming).saveAs(join(folder, `${index} ${canvas}.png`))
      }
    }
    await page.goto(`/shows/${id}/on-air`)
    // Shown at its own size, since what is shown is no larger than it is seen.
    for (const canvas of ['landscape', 'vertical'] as const) {
      const { width, height } = demoShow.canvasPair[canvas]
      await page
        .getByRole('img', { name: `The ${canvas} canvas as it goes out` })
        .evaluate(
          (element, size) =>
            (element.style.cssText = `position: fixed; width: ${size.width}px; height: ${size.height}px; max-width: none`),
          { width, height },
        )
    }
    for (const [index] of scenes.entries()) {
      await page.keyboard.press(String(index + 1))
      await expect(frames(page)).toHaveText(/[1-9]\d* of/)
      for (const canvas of ['landscape', 'vertical'] as const) {
        const png = join(folder, `${index} ${canvas}.png`)
        const own = join(folder, 'drawn.png')
        await expect
          .poll(async () => {
            const address = await page
              .getByRole('img', { name: `The ${canvas} canvas as it goes out` })
              .evaluate((element) => {
                const drawn = element as HTMLCanvasElement
                const surface = document.createElement('canvas')
                ;[surface.width, surface.height] = [drawn.width, drawn.height]
                surface.getContext('2d')!.drawImage(drawn, 0, 0)
                return surface.toDataURL('image/png')
              })
            writeFileSync(own, Buffer.from(address.split(',')[1]!, 'base64'))
            return likeness(png, own)
          })
          .toBeGreaterThan(0.98)
      }
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})

test('ten seconds tell what this computer draws and encodes in time', async ({ page, stack }) => {
  const { id } = await storeShow(stack.application.address, coloured)
  await page.goto(`/shows/${id}/on-air`)
  await expect(frames(page)).toHaveText(/[1-9]\d* of/)
  const tried = page.getByRole('region', { name: 'Before going up' })
  await tried.getByRole('button', { name: 'Try ten seconds' }).click()
  await expect(tried.getByRole('status')).toHaveText(/nothing is sent/)
  await expect(tried.getByRole('status')).toHaveText(/^\d+\.\d % of [\d,]+ frames were in time/, {
    timeout: 60_000,
  })
})

test('a second window is told, and may take over', async ({ page, context, stack }) => {
  const { id } = await storeShow(stack.application.address, coloured)
  await page.goto(`/shows/${id}/on-air`)
  await expect(frames(page)).toHaveText(/[1-9]\d* of/)
  const second = await context.newPage()
  await second.goto(`/shows/${id}/on-air`)
  await expect(second.getByText('Another window draws this show')).toBeVisible()
  await second.getByRole('button', { name: 'Take over here' }).click()
  await expect(second.getByText('Another window draws this show')).toBeHidden()
  await expect(page.getByText('Another window draws this show')).toBeVisible()
  await second.close()
})

test('a camera is given a real device, and what has none is listed', async ({ page, stack }) => {
  const { id } = await storeShow(stack.application.address, smallShow)
  await page.goto(`/shows/${id}/on-air`)
  const devices = page.getByRole('region', { name: 'Devices' })
  await expect(devices.getByText('none yet; its stand-in picture is shown')).toHaveCount(3)
  await devices.getByRole('button', { name: 'Choose a device for Bench camera' }).click()
  await expect(devices.getByText('here', { exact: true })).toBeVisible()
  await expect(devices.getByText(/^fake_device/).first()).toBeVisible()
})

test('the socket takes nobody without a ticket or from another page', async ({ stack }) => {
  const { address } = stack.application
  const { id } = await storeShow(address, coloured)
  const ask = (headers: Record<string, string>) =>
    fetch(`${address}/api/shows/${id}/on-air`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...headers },
      body: '{"takesOver":false}',
    })
  expect((await ask({})).status).toBe(403)
  expect((await ask({ ...meant, origin: 'http://elsewhere.example' })).status).toBe(403)
  const { ticket } = (await (await ask(meant)).json()) as { ticket: string }
  /** What an upgrade comes to, after so many bytes more: a status, the code of a close, or 0 for words that came. */
  const opened = (path: string, origin: string, more?: Buffer) =>
    new Promise<number>((resolve) => {
      const asking = request(`${address}${path}`, {
        headers: {
          ...{ connection: 'Upgrade', upgrade: 'websocket', origin },
          ...{ 'sec-websocket-version': '13', 'sec-websocket-key': 'MDEyMzQ1Njc4OWFiY2RlZg==' },
        },
      })
      asking.on('response', ({ statusCode }) => resolve(statusCode ?? 0))
      asking.on('upgrade', (_response, socket, head) => {
        const take = (came: Buffer): void => {
          // A close begins with 0x88 and carries its code behind its length (RFC 6455, 5.5.1).
          const close = came.indexOf(0x88)
          if (more && close < 0) return
          resolve(close < 0 ? 0 : came.readUInt16BE(close + 2))
          socket.destroy()
        }
        socket.on('data', take)
        if (head.length > 0) take(head)
        if (more) socket.write(more)
      })
      asking.end()
    })
  expect(await opened(`/on-air/${ticket}`, 'http://elsewhere.example')).toBe(403)
  for (const path of ['/on-air/nobody', '/', '/api/health'])
    expect(await opened(path, address)).toBe(403)
  expect(await opened(`/on-air/${ticket}`, address)).toBe(0)
  // It was used.
  expect(await opened(`/on-air/${ticket}`, address)).toBe(403)
  const { ticket: another } = (await (await ask(meant)).json()) as { ticket: string }
  // The head of a message of 100 MB: binary, masked, its length in eight bytes (RFC 6455, 5.2).
  const tooLarge = Buffer.from('82ff0000000005f5e10001020304', 'hex')
  expect(await opened(`/on-air/${another}`, address, tooLarge)).toBe(1009)
})

test(
  'what the window draws goes out and is recorded; closed, its standby scene does, on connections that go on',
  { tag: '@real-time' },
  async ({ page, stack }) => {
    const { address } = stack.application
    const { id } = await storeShow(address, coloured)
    const api = (path: string, method: string, body?: object) =>
      fetch(`${address}/api/shows/${id}${path}`, {
        ...{ method, headers: { ...meant, 'content-type': 'application/json' } },
        ...(body && { body: JSON.stringify(body) }),
      })
    const destinations = ['longmeadow', 'flickerbrook']
    for (const each of destinations) await api(`/keys/${each}`, 'PUT', { key: `key-of-${each}` })
    await api('/stand-ins', 'POST')
    const inputs = { landscape: 'on-air window', vertical: 'on-air window' }
    expect((await api('/sender', 'POST', { target: 'stand-ins', inputs })).status).toBe(202)
    interface State {
      state: {
        canvases: { canvas: string; isPassedOn: boolean; isStandby: boolean }[]
        sends: { stage: string; reconnects: number; sentFrames: number }[]
      }
    }
    const state = async () => ((await (await api('/sender', 'GET')).json()) as State).state
    const sends = async () => (await state()).sends
    await page.goto(`/shows/${id}/on-air`)
    await page.getByRole('button', { name: 'Begin the sound' }).click()
    await expect(page.getByText(/^−\d+\.\d LUFS$/).first()).toBeVisible()
    for (const each of destinations) await api(`/sender/${each}`, 'POST')
    await expect
      .poll(async () => (await sends()).map(({ stage }) => stage))
      .toEqual(['sending', 'sending'])
    const leastSent = async () => Math.min(...(await sends()).map(({ sentFrames }) => sentFrames))
    /** So many frames more are through, on however busy a computer. */
    const more = async (count: number): Promise<void> => {
      const before = await leastSent()
      await expect.poll(leastSent).toBeGreaterThan(before + count)
    }
    const standsBy = async () => [
      ...new Set((await state()).canvases.map(({ isStandby }) => isStandby)),
    ]
    await more(60)
    await page.keyboard.press('2')
    await page.waitForTimeout(3000)
    await more(60)
    await page.goto('about:blank')
    await expect.poll(standsBy).toEqual([true])
    await page.waitForTimeout(5000)
    await more(60)
    await page.goto(`/shows/${id}/on-air`)
    await expect.poll(standsBy).toEqual([false])
    // At once, since half a minute is held: on a slow computer the absence would soon be older.
    await api('/sender/look-back', 'POST')
    await page.waitForTimeout(3000)
    await more(60)
    const after = await sends()
    for (const { stage, reconnects, sentFrames } of after) {
      expect({ stage, reconnects }).toEqual({ stage: 'sending', reconnects: 0 })
      expect(sentFrames).toBeGreaterThan(200)
    }
    const made = (await state()).canvases.map((each) => [each.canvas, each.isPassedOn])
    expect(made).toEqual([
      ['landscape', false],
      ['landscape', true],
      ['vertical', false],
    ])
    await api('/sender', 'DELETE')
    const folder = join(stack.directory, 'recordings')
    // Other tests of this worker leave theirs in the same folder.
    const own = readdirSync(folder).filter((name) => name.startsWith(coloured.title))
    const [lookedBack] = own.filter((name) => name.includes('landscape, last'))
    const passedOn = seenIn(join(folder, lookedBack!))
    // What is held begins anywhere before the absence and ends about when the window is back.
    expect('red blue red').toContain(orderOf(passedOn).join(' '))
    expect(longestGrey(passedOn)).toBeGreaterThan(4)
    for (const stretch of passedOn) expect(offBy(stretch)).toBeLessThanOrEqual(3)
    const files = own.filter((name) => name.includes('Kept'))
    expect(files).toHaveLength(2)
    const seen = files.map((name) => seenIn(join(folder, name)))
    for (const stretches of seen) expect(orderOf(stretches)).toEqual(['red', 'blue', 'red'])
    for (const name of files) expect(loudestIn(join(folder, name))).toBeGreaterThan(-30)
    for (const stretch of seen.flat()) expect(offBy(stretch)).toBeLessThanOrEqual(3)
    // It was away for five seconds: the standby scene came within one.
    for (const stretches of seen) expect(longestGrey(stretches)).toBeGreaterThan(4)
    // Both canvases change in the same frame: as long blue on one as on the other.
    const [first, second] = seen.map((stretches) => {
      const blue = stretches.filter(({ colour }) => colour === 'blue')
      return blue.at(-1)!.until - blue[0]!.from
    }) as [number, number]
    expect(Math.abs(first - second)).toBeLessThan(mostMilliseconds(200) / 1000)
  },
)
