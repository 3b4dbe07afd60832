import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { canvasEncodesOf } from '@green-mantle/core/encoding'
import { demoShow } from '@green-mantle/demo'
import { afterAll, expect, it } from 'vitest'
import { measurePictureShares } from './pictureShare'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-picture-share-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const clip = join(folder, 'clip.mp4')
execFileSync('ffmpeg', [
  ...['-loglevel', 'error', '-nostdin', '-f', 'lavfi', '-i'],
  ...['testsrc2=size=640x360:rate=30:duration=1', '-c:v', 'libx264', '-preset', 'ultrafast', clip],
])
const [canvas] = canvasEncodesOf(demoShow)

it('what decoding and scaling take is measured of each canvas, and none of what does not run', async () => {
  const [share, missing] = await measurePictureShares([
    { canvas: canvas!, clip },
    { canvas: canvas!, clip: join(folder, 'none.mp4') },
  ])
  expect(share).toBeGreaterThan(0)
  expect(share).toBeLessThan(1.1)
  expect(missing).toBeNull()
  expect(await measurePictureShares([])).toEqual([])
})

it('is not known where it was stopped, at once', async () => {
  const stopper = new AbortController()
  const measured = measurePictureShares([{ canvas: canvas!, clip }], stopper.signal)
  stopper.abort()
  expect(await measured).toEqual([null])
})
