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
import { afterAll, describe, expect, it } from 'vitest'
import { flvArrival } from '../listeners/flvArrival'
import { takeRtmp } from '../listeners/rtmpConnection'
import { pacedProxy } from './pacedProxy'
import { pacerOf } from './pacer'

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

/** How long each frame waited on its way, by the second in which it was made. */
async function realWaits(): Promise<{ atSeconds: number; waitSeconds: number }[]> {
  const clip = join(folder, 'clip.flv')
  const rate = `${sendKbps}k`
  await run('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i'],
    `testsrc2=size=320x180:rate=30:duration=${wholeSeconds},noise=alls=40:allf=t`,
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '60', '-pix_fmt', 'yuv420p'],
    ...['-x264-params', 'nal-hrd=cbr:scenecut=0', '-b:v', rate, '-minrate', rate],
    ...['-maxrate', rate, '-bufsize', '300k', clip],
  ])
  const { arrival, take } = flvArrival(() => performance.now() / 1000)
  const ingest = createServer((socket) =>
    takeRtmp(socket, () => ({ packet: take, ended: () => {}, bytes: () => {} })),
  ).listen(0, '127.0.0.1')
  await once(ingest, 'listening')
  const second = (capacityKbps: number): PracticeSecond => ({
    capacityKbps,
    roundTripMilliseconds: 1,
    lossPercent: 1e-7,
    state: 'steady',
  })
  // The steps begin with the send's first frame, a moment after the line itself.
  const seconds = Array.from({ length: wholeSeconds + 10 }, (_, at) =>
    second(
      at >= dip.atSeconds && at < dip.atSeconds + dip.durationSeconds
        ? (lineKbps * dip.leftPercent) / 100
        : lineKbps,
    ),
  )
  const pacer = pacerOf(seconds)
  const began = performance.now() / 1000
  const proxy = await pacedProxy((ingest.address() as AddressInfo).port, pacer)
  const sender = spawn('ffmpeg', [
    ...['-v', 'error', '-re', '-i', clip, '-c', 'copy', '-f', 'flv'],
    `rtmp://127.0.0.1:${proxy.port}/practice/key`,
  ])
  await once(sender, 'exit')
  await proxy.close()
  pacer.stop()
  ingest.close()
  const video = arrival.frames.filter(({ kind }) => kind === 'video')
  // What the way itself takes, when nothing waits.
  const least = Math.min(...video.map(({ atSeconds, decodeSeconds }) => atSeconds - decodeSeconds))
  return video.map(({ atSeconds, decodeSeconds }) => ({
    atSeconds: least + decodeSeconds - began,
    waitSeconds: atSeconds - decodeSeconds - least,
  }))
}

/** The longest wait, and from the step down until next to nothing waits any more. */
function figures(waits: readonly { atSeconds: number; waitSeconds: number }[]) {
  const longest = Math.max(...waits.map(({ waitSeconds }) => waitSeconds))
  const late = waits.filter(({ waitSeconds }) => waitSeconds > 0.4)
  const last = late.at(-1)
  return {
    longest,
    untilCaughtUp: last ? last.atSeconds + last.waitSeconds - dip.atSeconds : 0,
  }
}

describe('a real send on a line that is stepped down and up again', () => {
  it('waits and catches up as the simulation says, within 15 %', async () => {
    const plan = night({
      seconds: wholeSeconds + 6,
      line: steady(lineKbps),
      sends: [simulatedSend({ fullKbps: sendKbps * 1.01 }, { whenBehind: 'hold' })],
      incidents: [
        incident('upload dips', dip.atSeconds, dip.durationSeconds, {
          leftPercent: dip.leftPercent,
        }),
      ],
    })
    const trace = newTrace(plan)
    runNightOnce(plan, inSteps, trace)
    const simulated = figures(
      Array.from(trace.waitSeconds[0]!, (waitSeconds, atSeconds) => ({ atSeconds, waitSeconds })),
    )
    const real = figures(await realWaits())
    // By hand: 600 kb/s short for 6 s are 3600 kbit, 2.4 s of picture; 1500 kb/s to spare clear them in 2.4 s.
    expect(simulated.longest).toBeGreaterThan(2)
    expect(real.longest / simulated.longest).toBeGreaterThan(0.85)
    expect(real.longest / simulated.longest).toBeLessThan(1.15)
    expect(real.untilCaughtUp / simulated.untilCaughtUp).toBeGreaterThan(0.85)
    expect(real.untilCaughtUp / simulated.untilCaughtUp).toBeLessThan(1.15)
  }, 120_000)
})
