import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Show } from '@green-mantle/core/show'
import Flv from 'node-media-server/src/protocol/flv.js'
import { publishOverWhip } from '../../server/sender/whipPublisher'
import { expect, expectAccessible, storeShow, test } from './fixtures'
import { smallShow } from './smallShow'

/*
 * Against the browser's own WebRTC: an implementation of its own, by others.
 */

/** The landscape place of the small show, reached over WHIP. */
const overWhip: Show = {
  ...smallShow,
  destinations: smallShow.destinations
    .filter(({ canvas }) => canvas === 'landscape')
    .map((destination) => ({
      ...destination,
      protocol: 'whip',
      rules: { ...destination.rules, audioCodecs: ['opus'] },
      renditions: destination.renditions.map((rendition) => ({
        ...rendition,
        audioCodec: 'opus',
      })),
    })),
}

test(
  'a person’s own browser is heard over WHIP, as it sends',
  { tag: '@real-time' },
  async ({ page, context, stack }) => {
    const { id } = await storeShow(stack.application.address, overWhip)
    await page.goto(`/shows/${id}/trial`)
    await page.getByRole('button', { name: 'Listen' }).click()
    const place = page.locator('[data-listener=Longmeadow]')
    await expect(place.getByRole('button', { name: /bearer token/ })).toBeVisible()
    const [address, key] = await place.locator('code').allTextContents()
    await expectAccessible(page)

    const own = await context.newPage()
    // From elsewhere a browser asks first whether a page may reach this computer.
    await own.goto(address!)
    await own.evaluate(
      async ({ address: to, key: token }) => {
        const canvas = Object.assign(document.createElement('canvas'), { width: 640, height: 360 })
        const pencil = canvas.getContext('2d')!
        let count = 0
        setInterval(() => {
          pencil.fillStyle = `hsl(${(count += 7)} 80% 50%)`
          pencil.fillRect(0, 0, 640, 360)
        }, 33)
        const sound = new AudioContext()
        const tone = sound.createOscillator()
        const output = sound.createMediaStreamDestination()
        tone.connect(output)
        tone.start()
        const peer = new RTCPeerConnection()
        for (const track of [...canvas.captureStream(30).getTracks(), ...output.stream.getTracks()])
          peer.addTransceiver(track, { direction: 'sendonly' })
        await peer.setLocalDescription()
        const answer = await fetch(to, {
          method: 'POST',
          headers: { 'content-type': 'application/sdp', authorization: `Bearer ${token}` },
          body: peer.localDescription!.sdp,
        })
        await peer.setRemoteDescription({ type: 'answer', sdp: await answer.text() })
        Object.assign(window, { peer })
      },
      { address: address!, key: key! },
    )
    await expect(place).toContainText(/arriving for \d+ s/)
    // A browser sends what it thinks the line carries, which is less than was planned.
    await expect(place).toContainText(/kb\/s.*planned/)
    await expect(place).not.toContainText(/not the size|no sound|wrong canvas/)
    await own.close()
    await page.getByRole('button', { name: 'Listen no more' }).click()
  },
)

test(
  'what is sent over WHIP is shown by a browser, whole and in time',
  { tag: '@deep' },
  async ({ context }) => {
    const page = await context.newPage()
    await page.goto('about:blank')
    let hasDeleted = false
    const ingest = createServer((request, response) => {
      if (request.method === 'DELETE') {
        // Whoever sends waits until that it is over has been heard.
        setTimeout(() => {
          hasDeleted = true
          response.writeHead(200).end()
        }, 200)
        return
      }
      void (async () => {
        let offer = ''
        for await (const piece of request) offer += String(piece)
        const answer = await page.evaluate(async (sdp) => {
          const peer = new RTCPeerConnection()
          const shown = Object.assign(document.createElement('video'), {
            muted: true,
            autoplay: true,
          })
          const stream = new MediaStream()
          shown.srcObject = stream
          document.body.append(shown)
          peer.addEventListener('track', ({ track }) => stream.addTrack(track))
          await peer.setRemoteDescription({ type: 'offer', sdp })
          await peer.setLocalDescription()
          while (peer.iceGatheringState !== 'complete')
            await new Promise((resolve) => setTimeout(resolve, 20))
          Object.assign(window, { peer })
          return peer.localDescription!.sdp
        }, offer)
        response
          .writeHead(201, { 'content-type': 'application/sdp', location: '/session' })
          .end(answer)
      })()
    }).listen(0, '127.0.0.1')
    await once(ingest, 'listening')
    const { port } = ingest.address() as AddressInfo
    const publisher = await publishOverWhip(
      { address: `http://127.0.0.1:${port}/whip`, key: 'key' },
      { codec: 'opus', bitrateKbps: 96, channels: 2 },
      { kbps: 2000, signal: new AbortController().signal },
    )
    const encoder = spawn('ffmpeg', [
      ...['-v', 'quiet', '-nostdin', '-re', '-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=30'],
      ...['-re', '-f', 'lavfi', '-i', 'sine=sample_rate=48000', '-c:v', 'libx264'],
      ...['-preset', 'superfast', '-bf', '0', '-pix_fmt', 'yuv420p', '-g', '60', '-b:v', '1800k'],
      ...['-c:a', 'aac', '-f', 'flv', 'pipe:1'],
    ])
    const reader = new Flv()
    reader.onPacketCallback = (packet) => publisher.take(packet)
    encoder.stdout.on('data', (bytes: Buffer) => reader.parserData(bytes))

    const seen = () =>
      page.evaluate(async () => {
        const { peer } = window as unknown as { peer: RTCPeerConnection }
        const all = [...(await peer.getStats()).values()] as Record<string, number | string>[]
        const [picture, sound] = ['video', 'audio'].map(
          (kind) => all.find((each) => each.type === 'inbound-rtp' && each.kind === kind) ?? {},
        )
        return { picture: picture!, sound: sound! }
      })
    await expect.poll(async () => Number((await seen()).picture.framesDecoded)).toBeGreaterThan(120)
    const { picture, sound } = await seen()
    expect(picture).toMatchObject({ frameWidth: 640, frameHeight: 360, packetsLost: 0 })
    expect(Number(sound.packetsReceived)).toBeGreaterThan(150)
    // Both are shown as of the same moment of the sender's clock, of which a report for each has to have come.
    const millisecondsApart = async (): Promise<number> => {
      const now = await seen()
      const [ofPicture, ofSound] = [now.picture, now.sound].map((each) =>
        Number(each.estimatedPlayoutTimestamp),
      ) as [number, number]
      return Math.abs(ofPicture - ofSound)
    }
    await expect.poll(millisecondsApart).not.toBeNaN()
    expect(await millisecondsApart()).toBeLessThan(700)

    publisher.close()
    await publisher.ended
    expect(hasDeleted).toBe(true)
    encoder.kill('SIGKILL')
    ingest.close()
    await page.close()
  },
)
