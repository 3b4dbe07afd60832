import { expect, it } from 'vitest'
import { runTogether } from './runs'

const encode = (...before: string[]): string[] => [
  ...['-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=30', ...before],
  ...['-c:v', 'libx264', '-preset', 'ultrafast', '-f', 'null', '-'],
]
const times = { settleSeconds: 0.3, seconds: 0.6 }
const { signal } = new AbortController()

it('looks at several, one that begins late too', async () => {
  // The second begins with what is slow to be drawn: its first frame is late.
  const late = encode('-vf', 'trim=start_frame=600,setpts=PTS-STARTPTS')
  const results = await runTogether([encode(), late], times, signal)
  for (const { framesPerSecond, processorShare, opened } of results) {
    expect(opened).toBe(true)
    expect(framesPerSecond).toBeGreaterThan(1)
    expect(processorShare).toBeGreaterThan(0)
  }
})

it('goes on without one that does not open', async () => {
  const [good, bad] = await runTogether(
    [encode(), ['-i', '/nowhere', '-f', 'null', '-']],
    times,
    signal,
  )
  expect(good!.framesPerSecond).toBeGreaterThan(1)
  expect(good!.framesPerProcessorSecond).toBeGreaterThan(1)
  expect(bad).toMatchObject({ opened: false, framesPerSecond: null, processorShare: null })
})

it('ends at once when it is stopped', async () => {
  const stop = new AbortController()
  setTimeout(() => stop.abort(), 300)
  const results = await runTogether([encode(), encode()], { ...times, seconds: 300 }, stop.signal)
  expect(results.map(({ framesPerSecond }) => framesPerSecond)).toEqual([null, null])
})
