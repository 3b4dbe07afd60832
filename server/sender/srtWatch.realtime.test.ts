import { type ChildProcess, spawn } from 'node:child_process'
import { once } from 'node:events'
import { performance } from 'node:perf_hooks'
import { afterEach, expect, it, vi } from 'vitest'
import { isDeep } from '../../tests/tier'
import { within } from '../inRealTime'
import { listenSrt, type SrtListenerOptions } from '../listeners/srtListener'
import { watchSrt } from './srtWatch'

const host = '127.0.0.1'
const callers: ChildProcess[] = []
const endings: (() => unknown)[] = []
afterEach(async () => {
  for (const caller of callers.splice(0)) caller.kill('SIGKILL')
  for (const end of endings.splice(0)) await end()
})

/** A real sender on a watched way to a listener of ours. */
async function watched(pass: SrtListenerOptions['pass'], frames: number) {
  const listener = await listenSrt({
    ...{ host, firstPort: 24_300, clock: () => performance.now() / 1000, watches: () => false },
    refusal: () => null,
    ...(pass ? { pass } : {}),
  })
  const watch = await watchSrt('localhost', listener.port)
  endings.push(
    () => watch.close(),
    () => listener.stop(),
  )
  const caller = spawn('ffmpeg', [
    ...[
      '-loglevel',
      'error',
      '-nostdin',
      '-re',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=size=320x180:rate=25',
    ],
    ...['-frames:v', `${frames}`, '-c:v', 'libx264', '-preset', 'ultrafast', '-b:v', '800k'],
    ...['-g', '25', '-f', 'mpegts', '-flush_packets', '1'],
    `srt://${host}:${watch.port}?mode=caller&streamid=any`,
  ])
  callers.push(caller)
  return { listener, watch, ended: once(caller, 'exit') }
}

it('sees that all of a send gets there, and how far it is', async () => {
  const { listener, watch } = await watched(undefined, 500)
  await vi.waitFor(() => expect(listener.arrival().frames.length).toBeGreaterThan(40), within)
  const { arrivedShare, lostShare, roundTripMilliseconds } = watch.seen()
  expect([arrivedShare, lostShare]).toEqual([1, 0])
  expect(roundTripMilliseconds).toBeGreaterThan(0)
  expect(roundTripMilliseconds).toBeLessThan(200)
})

/** Lets so many bytes a second through, over a bucket of half a second. */
function carrying(bytesASecond: number): (bytes: number) => Promise<boolean> {
  let [left, at] = [bytesASecond / 2, performance.now()]
  return (bytes) => {
    const now = performance.now()
    left = Math.min(bytesASecond / 2, left + ((now - at) / 1000) * bytesASecond)
    at = now
    const isThrough = left >= bytes
    if (isThrough) left -= bytes
    return Promise.resolve(isThrough)
  }
}

function losingEvery(count: number): () => Promise<boolean> {
  let passed = 0
  return () => Promise.resolve((passed += 1) % count !== 0)
}

it.skipIf(!isDeep).each([
  ['carries a third', carrying(33_000), { missing: [0.3, 1], lost: [0.3, 1] }],
  [
    'loses one in twenty, sent again in time',
    losingEvery(20),
    { missing: [0, 0.3], lost: [0, 0.1] },
  ],
] as const)('sees what a line that %s loses, as a listener counts it', async (_, pass, wanted) => {
  const frames = 300
  const { listener, watch, ended } = await watched(pass, frames)
  await ended
  // A listener begins to list frames a moment after the first.
  const missing = 1 - listener.arrival().frames.length / frames
  const { lostShare, arrivedShare, resentPackets } = watch.seen()
  for (const [value, [low, high]] of [
    [missing, wanted.missing],
    [lostShare, wanted.lost],
    [1 - arrivedShare, wanted.lost],
  ] as const) {
    expect(value).toBeGreaterThanOrEqual(low)
    expect(value).toBeLessThanOrEqual(high)
  }
  expect(resentPackets).toBeGreaterThan(10)
})
