import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { type AddressInfo, createServer, type Server, type Socket } from 'node:net'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Arrival } from '@green-mantle/core/arrival'
import { flvArrival } from '../listeners/flvArrival'
import { takeRtmp } from '../listeners/rtmpConnection'
import { ownHostRelay, type OwnHostRelay } from './ownHostRelay'
import { within } from '../inRealTime'

const servers: Server[] = []
const relays: OwnHostRelay[] = []
afterEach(async () => {
  await Promise.all(relays.splice(0).map((relay) => relay.close()))
  for (const server of servers.splice(0)) server.close()
})

interface Ingest {
  port: number
  /** By the names of the streams. */
  heard: Map<string, Arrival>
  sockets: Socket[]
}
/** Takes whatever is sent to it, but for the names that it refuses. */
async function ingest(refused: readonly string[] = []): Promise<Ingest> {
  const heard = new Map<string, Arrival>()
  const sockets: Socket[] = []
  const server = createServer((socket) => {
    sockets.push(socket)
    takeRtmp(socket, (_, name) => {
      if (refused.includes(name)) return 'nobody knows it'
      const { arrival, take } = flvArrival(() => performance.now() / 1000)
      heard.set(name, arrival)
      return { packet: take, ended: () => {}, bytes: () => {} }
    })
  }).listen(0, '127.0.0.1')
  servers.push(server)
  await once(server, 'listening')
  return { port: (server.address() as AddressInfo).port, heard, sockets }
}
async function relayTo(host: Ingest, listener: Ingest): Promise<OwnHostRelay> {
  const relay = await ownHostRelay(`rtmp://127.0.0.1:${host.port}/live/`, listener.port)
  relays.push(relay)
  return relay
}
const send = (
  to: string,
  { seconds = 2, picture = 'testsrc2=size=160x90:rate=15', quality = 23 } = {},
) =>
  once(
    spawn('ffmpeg', [
      ...['-v', 'quiet', '-re', '-f', 'lavfi', '-i', picture, '-t', `${seconds}`],
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', `${quality}`, '-f', 'flv', to],
    ]),
    'exit',
  )

describe('a host of one’s own', () => {
  it('gets what is sent, and a listener here hears the same, several at once', async () => {
    const [host, listener] = [await ingest(), await ingest()]
    const relay = await relayTo(host, listener)
    expect(relay.address).toMatch(/^rtmp:\/\/127\.0\.0\.1:\d+\/live$/)
    await Promise.all(['one', 'two'].map((name) => send(`${relay.address}/${name}`)))
    for (const name of ['one', 'two'])
      await vi.waitFor(() => {
        const [there, here] = [host, listener].map(({ heard }) => heard.get(name))
        expect(here?.videoFrames).toBe(30)
        expect(there?.videoFrames).toBe(30)
        expect(here?.totalBytes).toBe(there?.totalBytes)
      }, within)
  })

  it('is waited for where it takes nothing: nobody here hears what has not left', async () => {
    const [host, listener] = [await ingest(), await ingest()]
    const relay = await relayTo(host, listener)
    // Noise that is kept whole fills what the system holds in its own buffers within a second or two.
    const noise = 'color=gray:size=640x360:rate=30,noise=alls=100:allf=t'
    const ended = send(`${relay.address}/large`, { seconds: 30, picture: noise, quality: 0 })
    const frames = (): number => listener.heard.get('large')?.videoFrames ?? 0
    await vi.waitFor(() => expect(frames()).toBeGreaterThan(5), within)
    for (const socket of host.sockets) socket.pause()
    let before = -1
    await vi.waitFor(
      () => {
        const stalled = frames() === before
        before = frames()
        expect(stalled).toBe(true)
      },
      { ...within, interval: 700 },
    )
    for (const socket of host.sockets) socket.resume()
    await vi.waitFor(() => expect(frames()).toBeGreaterThan(before + 30), within)
    // One that hangs up is told to who sends.
    for (const socket of host.sockets) socket.destroy()
    await ended
  })

  it('refuses a name in its own words, and nothing of it is heard', async () => {
    const [host, listener] = [await ingest(['secret']), await ingest()]
    const relay = await relayTo(host, listener)
    await send(`${relay.address}/secret`)
    expect(listener.heard.get('secret')?.videoFrames ?? 0).toBe(0)
    expect(host.heard.size).toBe(0)
  })

  it('that does not answer is said before anything is sent', async () => {
    const gone = await ingest()
    servers.splice(0).forEach((server) => server.close())
    await expect(ownHostRelay(`rtmp://127.0.0.1:${gone.port}/live`, 1)).rejects.toThrow(
      'Your own host could not be reached',
    )
  })
})
