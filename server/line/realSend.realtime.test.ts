import { execFile, spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { type AddressInfo, createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import {
  incident,
  night,
  run as runNightOnce,
  send as simulatedSend,
  steady,
} from '../../core/simulation/nightsForTests'
import { inSteps, newTrace } from '@green-mantle/core/simulation'
import type { PracticeSecond } from '@green-mantle/core/network'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { flvArrival } from '../listeners/flvArrival'
import { takeRtmp } from '../listeners/rtmpConnection'
import { pacedProxy } from './pacedProxy'
import { pacerOf } from './pacer'
import { isDeep } from '../../tests/tier'

/*
 * A real RTMP stream of Debian's FFmpeg through a line whose rate is stepped down and up again, against
 * the simulation of the same steps.
 */
const run = promisify(execFile)
const folder = mkdtempSync(join(tmpdir(), 'green-mantle-real-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const sendKbps = 1500
const lineKbps = 3000
const dip = { atSeconds: 4, durationSeconds: 6, leftPercent: 30 }
const wholeSeconds = 18

interface Wait {
  atSeconds: number
  waitSeconds: number
}

const clip = join(folder, 'clip.flv')
beforeAll(async () => {
  const rate = `${sendKbps}k`
  await run('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'lavfi', '-i'],
    `testsrc2=size=320x180:rate=30:duration=${wholeSeconds},noise=alls=40:allf=t`,
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '60', '-pix_fmt', 'yuv420p'],
    ...['-x264-params', 'nal-hrd=cbr:scenecut=0', '-b:v', rate, '-minrate', rate],
    ...['-maxrate', rate, '-bufsize', '300k', clip],
  ])
})

const seconds = (): number => performance.now() / 1000

/** A listener on an address, and how long each frame waited on its way to it, by the second in which it was made. */
async function listener(host: string) {
  const { arrival, take } = flvArrival(seconds)
  const ingest = createServer((socket) =>
    takeRtmp(socket, () => ({ packet: take, ended: () => {}, bytes: () => {} })),
  ).listen(0, host)
  await once(ingest, 'listening')
  return {
    port: (ingest.address() as AddressInfo).port,
    waits(began: number): Wait[] {
      ingest.close()
      const video = arrival.frames.filter(({ kind }) => kind === 'video')
      // What the way itself takes, when nothing waits.
      const least = Math.min(
        ...video.map(({ atSeconds, decodeSeconds }) => atSeconds - decodeSeconds),
      )
      return video.map(({ atSeconds, decodeSeconds }) => ({
        atSeconds: least + decodeSeconds - began,
        waitSeconds: atSeconds - decodeSeconds - least,
      }))
    },
  }
}

const dippedKbps = (lineKbps * dip.leftPercent) / 100

/** Over loopback, through the pacer. */
async function waitsThroughPacer(): Promise<Wait[]> {
  const heard = await listener('127.0.0.1')
  const pacer = pacerOf(
    Array.from({ length: wholeSeconds + 10 }, (_, at): PracticeSecond => ({
      capacityKbps:
        at >= dip.atSeconds && at < dip.atSeconds + dip.durationSeconds ? dippedKbps : lineKbps,
      roundTripMilliseconds: 1,
      lossPercent: 1e-7,
      state: 'steady',
    })),
  )
  const began = seconds()
  const proxy = await pacedProxy(heard.port, pacer)
  const sender = spawn('ffmpeg', [
    ...['-v', 'error', '-re', '-i', clip, '-c', 'copy', '-f', 'flv'],
    `rtmp://127.0.0.1:${proxy.port}/practice/key`,
  ])
  await once(sender, 'exit')
  await proxy.close()
  pacer.stop()
  return heard.waits(began)
}

/** A host of its own on a link with a queue; both are there as long as this process, however that ends. */
interface Host {
  /** Our address on the link. */
  address: string
  /** What runs a program as that host. */
  as: (program: string, ...args: string[]) => [program: string, args: string[]]
  setQueue(kbps: number): Promise<unknown>
  remove(): void
}

let hostsMade = 0

/** Null where this machine lets a test make none (it needs root, iproute2 and the queue). */
async function makeHost(): Promise<Host | null> {
  // Whoever reads from us ends with us, and with it the network that it alone is in.
  const holder = spawn('unshare', ['--net', 'cat'], { stdio: ['pipe', 'pipe', 'ignore'] })
  // Where it may not, it is gone before it reads.
  holder.stdin.on('error', () => {})
  const remove = (): void => void holder.stdin.end()
  const as: Host['as'] = (program, ...args) => [
    'nsenter',
    [`--net=/proc/${holder.pid}/ns/net`, program, ...args],
  ]
  // Two runs beside each other have links and addresses of their own, and so has each that is tried again.
  hostsMade += 1
  const [address, theirs] = [1, 2].map(
    (last) => `10.213.${process.pid % 256}.${4 * (hostsMade % 60) + last}`,
  )
  const own = `${process.pid}-${hostsMade}`
  const [here, there] = [`gma${own}`, `gmb${own}`]
  const queue = (action: 'add' | 'change', kbps: number) =>
    run(
      ...as(
        ...(['tc', 'qdisc', action, 'dev', there, 'root', 'tbf', 'rate', `${kbps}kbit`] as const),
        ...['burst', '16kb', 'latency', '200ms'],
      ),
    )
  const ip = (...args: string[]) => run('ip', args)
  try {
    holder.stdin.write('ready')
    const isMade = await Promise.race([
      once(holder.stdout, 'data').then(() => true),
      once(holder, 'exit').then(() => false),
    ])
    if (!isMade) return null
    await ip('link', 'add', here, 'type', 'veth', 'peer', 'name', there, 'netns', `${holder.pid}`)
    await ip('addr', 'add', `${address}/30`, 'dev', here)
    await ip('link', 'set', here, 'up')
    await run(...as('ip', 'addr', 'add', `${theirs}/30`, 'dev', there))
    await run(...as('ip', 'link', 'set', there, 'up'))
    await queue('add', lineKbps)
    return { address: address!, as, remove, setQueue: (kbps) => queue('change', kbps) }
  } catch {
    remove()
    return null
  }
}

/** When the line was stepped down, and for how long: a machine that is busy is late with either. */
type Dip = Record<'atSeconds' | 'durationSeconds', number>

/** From a host of its own, over a link with a queue that is stepped; TCP finds out about it by itself. */
async function waitsOverLink(host: Host): Promise<{ waits: Wait[]; stepped: Dip }> {
  const heard = await listener(host.address)
  const began = seconds()
  const sender = spawn(
    ...host.as(
      ...(['ffmpeg', '-v', 'error', '-re', '-i', clip, '-c', 'copy', '-f', 'flv'] as const),
      `rtmp://${host.address}:${heard.port}/practice/key`,
    ),
  )
  const ended = once(sender, 'exit')
  const steppedTo = async (kbps: number, atSeconds: number): Promise<number> => {
    await new Promise((resolve) => setTimeout(resolve, (began + atSeconds - seconds()) * 1000))
    await host.setQueue(kbps)
    return seconds() - began
  }
  const down = await steppedTo(dippedKbps, dip.atSeconds)
  const up = await steppedTo(lineKbps, down + dip.durationSeconds)
  await ended
  return { waits: heard.waits(began), stepped: { atSeconds: down, durationSeconds: up - down } }
}

/** The longest wait, and from the step down until next to nothing waits any more. */
function figures(waits: readonly Wait[], stepped: Dip) {
  const longest = Math.max(...waits.map(({ waitSeconds }) => waitSeconds))
  const late = waits.filter(({ waitSeconds }) => waitSeconds > 0.4)
  const last = late.at(-1)
  return {
    longest,
    untilCaughtUp: last ? last.atSeconds + last.waitSeconds - stepped.atSeconds : 0,
  }
}

/** The share of a link that TCP's payload takes: 1448 of the 1514 bytes that its queue counts. */
const payloadShare = 1448 / 1514

/** The simulation of the same steps, on a line that carries so much of TCP's payload. */
function simulatedWaits(share: number, stepped: Dip): Wait[] {
  const plan = night({
    seconds: wholeSeconds + 6,
    line: steady(lineKbps * share),
    sends: [simulatedSend({ fullKbps: sendKbps * 1.01 }, { whenBehind: 'hold' })],
    incidents: [
      incident('upload dips', stepped.atSeconds, stepped.durationSeconds, {
        leftPercent: dip.leftPercent,
      }),
    ],
  })
  const trace = newTrace(plan)
  runNightOnce(plan, inSteps, trace)
  return Array.from(trace.waitSeconds[0]!, (waitSeconds, atSeconds) => ({ atSeconds, waitSeconds }))
}

function expectAlike(real: readonly Wait[], share: number, stepped: Dip = dip): void {
  const found = figures(real, stepped)
  const wanted = figures(simulatedWaits(share, stepped), stepped)
  // By hand: 600 kb/s short for 6 s are 3600 kbit, 2.4 s of picture; 1500 kb/s to spare clear them in 2.4 s.
  expect(wanted.longest).toBeGreaterThan(2)
  for (const figure of ['longest', 'untilCaughtUp'] as const) {
    expect(found[figure] / wanted[figure]).toBeGreaterThan(0.85)
    expect(found[figure] / wanted[figure]).toBeLessThan(1.15)
  }
}

describe.skipIf(!isDeep)(
  'a real send on a line that is stepped down and up again waits and catches up as the simulation says, within 15 %',
  () => {
    it.concurrent('over loopback, through the pacer', async () => {
      expectAlike(await waitsThroughPacer(), 1)
    })

    it.concurrent('from a host of its own over a link with a rate-limited queue', async ({
      skip,
    }) => {
      const host = await makeHost()
      if (!host) return skip('needs root, ip and tc')
      const { waits, stepped } = await waitsOverLink(host)
      host.remove()
      expectAlike(waits, payloadShare, stepped)
    })
  },
)
