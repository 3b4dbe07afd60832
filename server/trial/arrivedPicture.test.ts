import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { demoShow } from '@green-mantle/demo'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { quiet, run } from '../measuring/clip'
import { makeTestClip } from '../pictures/testClip'
import { likenessOf, type ShownCanvas } from './arrivedPicture'

const { signal } = new AbortController()
let folder = ''
let shown: ShownCanvas
const size = { width: 320, height: 180 }

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'green-mantle-arrived-'))
  const show = {
    ...demoShow,
    canvasPair: { ...demoShow.canvasPair, landscape: size, framesPerSecond: 60 as const },
  }
  shown = { ...size, framesPerSecond: 60, clip: await makeTestClip(folder, show, 'landscape') }
})
afterAll(() => rm(folder, { recursive: true, force: true }))

/** A second and a half of the canvas as it would arrive, from so far into its second round. */
async function arrivedFrom(
  seconds: number,
  { rate = 60, quality = 20, filter = 'null' } = {},
): Promise<Buffer> {
  const path = join(folder, 'sent.flv')
  await run(
    [
      ...[...quiet, '-stream_loop', '2', '-i', shown.clip, '-ss', `${4 + seconds}`, '-t', '1.5'],
      ...['-an', '-vf', `fps=${rate},${filter}`, '-c:v', 'libx264', '-bf', '2'],
      ...['-crf', `${quality}`, path],
    ],
    'The test made nothing.',
    { folder, signal },
  )
  return readFile(path)
}
const likeness = (arrived: Buffer, rate = 60) =>
  likenessOf(arrived, rate, shown, { folder, signal })

describe('what arrived, held against what the canvas showed', () => {
  it('is found wherever it lies, at the canvas’s rate and at half of it, and is worse with fewer bits', async () => {
    const fine = (await likeness(await arrivedFrom(1.3)))!
    const coarse = (await likeness(await arrivedFrom(1.3, { quality: 40 })))!
    const half = (await likeness(await arrivedFrom(3.4, { rate: 30 }), 30))!
    expect(fine.ssim).toBeGreaterThan(0.95)
    expect(half.ssim).toBeGreaterThan(0.95)
    expect(coarse.ssim).toBeLessThan(fine.ssim - 0.1)
    expect(fine.comparedFrames).toBeGreaterThanOrEqual(22)
  })

  it('is worse where it was made smaller on the way', async () => {
    const small = (await likeness(await arrivedFrom(0.5, { filter: 'scale=80:46' })))!
    expect(small.ssim).toBeLessThan(0.9)
  })

  it('is not compared where it shows something else, has another rhythm, or is no picture', async () => {
    expect(await likeness(await arrivedFrom(1, { filter: 'negate' }))).toBeNull()
    expect(await likeness(await arrivedFrom(1, { rate: 25 }), 25)).toBeNull()
    expect(await likeness(Buffer.alloc(0))).toBeNull()
    expect(await likeness(Buffer.from('no stream at all'))).toBeNull()
  })
})
