import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { type AddressInfo, createServer, type Server } from 'node:net'
import type { Page } from '@playwright/test'
import { localAddresses } from '../../server/listeners/localNetwork'
import { takeRtmp } from '../../server/listeners/rtmpConnection'
import { expect, expectAccessible, storeShow, test } from './fixtures'
import { smallShow as small } from './smallShow'
import { demoShow } from '@green-mantle/demo'
import type { Show } from '@green-mantle/core/show'
import { meant } from '../meant'

/** The small show with one more place, which is reached over SRT. */
const withSrt: Show = {
  ...small,
  destinations: [
    ...small.destinations,
    ...demoShow.destinations
      .filter(({ protocol }) => protocol === 'srt')
      .map((destination) => ({
        ...destination,
        ...{ on: true, connection: 'address and key' as const },
        plan: { ...destination.plan, leftOut: false },
        renditions: [{ ...small.destinations[0]!.renditions[0]!, id: 'over-srt' }],
      })),
  ],
}

async function openTrial(page: Page, address: string, show = small): Promise<string> {
  const { id } = await storeShow(address, show)
  await page.goto(`/shows/${id}/trial`)
  return id
}

/** A host of the user's own, which takes whatever is sent to it over RTMP. */
async function ownHost(): Promise<{ address: string; taken: Set<string>; server: Server }> {
  const taken = new Set<string>()
  const server = createServer((socket) =>
    takeRtmp(socket, (application, name) => {
      taken.add(`${application}/${name}`)
      return { packet: () => {}, ended: () => {}, bytes: () => {} }
    }),
  ).listen(0, '127.0.0.1')
  await once(server, 'listening')
  const { port } = server.address() as AddressInfo
  return { address: `rtmp://127.0.0.1:${port}/den`, taken, server }
}

test.describe('in real time', () => {
  test(
    'the plan is tried for real, to a host of one’s own: the computer keeps up, and all is sent as planned',
    { tag: '@real-time' },
    async ({ page, stack }) => {
      const id = await openTrial(page, stack.application.address, withSrt)
      await expect(page.getByRole('heading', { name: 'Not tried yet' })).toBeVisible()
      await page.getByLabel('For', { exact: true }).selectOption({ label: '15 s' })
      await page
        .getByLabel('Sent', { exact: true })
        .selectOption({ label: 'to a host of your own' })
      const begin = page.getByRole('button', { name: /^Try it/ })
      await expect(begin).toBeDisabled()
      const host = await ownHost()
      const address = page.getByLabel('Its RTMP address')
      await address.fill('den.example')
      await expect(page.getByText('this is no address')).toBeVisible()
      await address.fill(host.address)
      await address.press('Enter')
      await begin.click()
      await expect(page.getByRole('progressbar')).toBeVisible()
      // A second trial at once would slow both.
      const second = await fetch(`${stack.application.address}/api/shows/${id}/trial`, {
        method: 'POST',
        headers: { ...meant, 'content-type': 'application/json' },
        body: JSON.stringify({
          ...{ seconds: 15, line: null },
          clips: { landscape: null, vertical: null },
        }),
      })
      expect(second.status).toBe(409)
      const arrived = page.getByRole('region', { name: 'What arrived' })
      await expect(arrived).toBeVisible()
      await expect(
        page.getByText(`over the real line to ${new URL(host.address).host}`),
      ).toBeVisible()
      expect([...host.taken].map((name) => name.split('/')[0])).toEqual(['den', 'den'])
      host.server.close()
      await expect(arrived).toContainText('640×360, h264 High')
      await expect(arrived).toContainText('360×640, h264 High')
      await expect(page.getByRole('region', { name: 'What the computer did' })).toContainText('×')
      await expectAccessible(page)
      // Kept beside the show, and out of date once the plan is another.
      await page.reload()
      await expect(arrived).toBeVisible()
      await expect(page.getByText('The plan has changed since it was tried.')).toBeHidden()
      const { body } = await fetch(`${stack.application.address}/api/shows/${id}/trial`)
        .then((response) => response.json())
        .then((answer) => ({ body: answer as { result: { sends: Record<string, number>[] } } }))
      expect(body.result.sends).toHaveLength(3)
      for (const send of body.result.sends) {
        // Bytes that crossed against what they were computed to be for the frames that came; over SRT frames
        // are listed after they crossed, on a busy computer by a second of fifteen.
        const isOverSrt = send.key!.toString().startsWith('relayhouse')
        expect(Math.abs(send.wireBytes! / send.computedWireBytes! - 1)).toBeLessThan(
          isOverSrt ? 0.2 : 0.02,
        )
        expect(send.arrivedKbps! / send.plannedKbps!).toBeGreaterThan(0.7)
        // Held against what was sent: damaged by the codec, and yet the same picture.
        const { ssim, comparedFrames } = send.picture as unknown as Record<string, number>
        expect(ssim).toBeGreaterThan(0.5)
        expect(ssim).toBeLessThan(1)
        expect(comparedFrames).toBeGreaterThanOrEqual(10)
        // With nothing on the way that holds it back, nothing of it waits or is lost.
        expect(send.droppedSeconds).toBe(0)
        expect(send.longestWaitSeconds).toBeLessThan(1.5)
      }
      // Nothing of it goes on.
      expect(execFileSync('ps', ['-eo', 'args'], { encoding: 'utf8' })).not.toMatch(
        new RegExp(`ffmpeg.*green-mantle-trial-`),
      )
    },
  )
})

test(
  'a person’s own encoder is heard, right and wrong, by mouse and by keyboard',
  { tag: '@real-time' },
  async ({ page, stack }) => {
    await openTrial(page, stack.application.address)
    await page.getByRole('button', { name: 'Listen' }).focus()
    await page.keyboard.press('Enter')
    const long = page.locator('[data-listener=Longmeadow]')
    await expect(long.locator('code')).toHaveCount(2)
    const [address, key] = await long.locator('code').allTextContents()
    const send = (to: string, size: string, keyframes: number) => {
      const program = spawn('ffmpeg', [
        ...['-v', 'error', '-re', '-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=30`],
        ...['-f', 'lavfi', '-i', 'sine=sample_rate=48000', '-t', '60', '-pix_fmt', 'yuv420p'],
        ...['-c:v', 'libx264', '-preset', 'superfast', '-bf', '0', '-g', `${keyframes}`],
        ...['-x264-params', 'scenecut=0:nal-hrd=cbr', '-b:v', '800k', '-minrate', '800k'],
        ...['-maxrate', '800k', '-bufsize', '400k', '-c:a', 'aac', '-ac', '2', '-b:a', '128k'],
        ...['-f', 'flv', to],
      ])
      // Waited for from the start: it may have ended before anybody asks.
      return { kill: () => program.kill('SIGTERM'), ended: once(program, 'exit') }
    }

    // A key that belongs to nobody.
    const stranger = send(`${address}/not-a-key-1234`, '640x360', 60)
    await expect(page.getByText(/tried a key that ends in 1234/)).toBeVisible()
    await stranger.ended

    // Right: what arrives is as planned.
    const right = send(`${address}/${key}`, '640x360', 60)
    await expect(long).toContainText('As planned, within its rules.')
    // A second program at the same address is refused, and said.
    const twice = send(`${address}/${key}`, '640x360', 60)
    await twice.ended
    await expect(long).toContainText('A second program tried to send here')
    right.kill()
    await right.ended

    // Wrong: the other canvas, with its keyframes too far apart.
    const wrong = send(`${address}/${key}`, '360x640', 250)
    await expect(long).toContainText('that is the vertical canvas')
    await expect(long).toContainText(/wants a keyframe every \d+ s or sooner, not every/)
    wrong.kill()
    await wrong.ended
    await expectAccessible(page)

    // From another computer of the network only while it is let in.
    const reach = page.getByTestId('network-reach')
    await reach.getByLabel('Open for').selectOption({ label: '15 min' })
    await reach.getByRole('button', { name: 'Open' }).click()
    const [own] = localAddresses()
    if (own === undefined)
      await expect(page.getByRole('alert')).toContainText('no address on a local network')
    else {
      await expect(reach).toContainText(`at ${own}`)
      const elsewhere = long.locator('code').nth(1)
      await expect(elsewhere).toContainText(own)
      const guest = send(`${await elsewhere.textContent()}/${key}`, '640x360', 60)
      await expect(long).toContainText(/arriving for \d+ s/)
      await expectAccessible(page)
      await reach.getByRole('button', { name: 'Close to the network' }).click()
      await guest.ended
      await expect(reach.getByRole('button', { name: 'Open' })).toBeVisible()
    }
    await page.getByRole('button', { name: 'Listen no more' }).click()
    await expect(page.getByRole('button', { name: 'Listen', exact: true })).toBeVisible()
  },
)
