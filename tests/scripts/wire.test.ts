import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { canCrossEncrypted, crossSrt, crossTcp } from '../../bench/crossing'
import { isDeep } from '../tier'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-wire-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Some of what `npm run bench -- wire` holds against real bytes. */
describe('what crosses is what was computed, within 1 %', () => {
  // Each of its own, since each has its own clip made.
  const rendition = {
    size: '640x360',
    framesPerSecond: 30,
    videoKbps: 1500,
    audioKbps: 128,
    bFrames: 2,
  }

  it.concurrent('over RTMP', async () => {
    const { bytes, computedBytes } = await crossTcp(folder, rendition, 'rtmp')
    expect(Math.abs(bytes / computedBytes - 1)).toBeLessThan(0.01)
  })

  it.concurrent('over RTMPS, to an ingest that stays at chunks of 128 bytes', async ({ skip }) => {
    if (!isDeep) skip('RTMP shows the same without TLS')
    if (!canCrossEncrypted()) skip('there is no openssl')
    const other = { ...rendition, bFrames: 1 }
    const { bytes, computedBytes } = await crossTcp(folder, other, 'rtmps', 'small')
    expect(Math.abs(bytes / computedBytes - 1)).toBeLessThan(0.01)
  })

  it.concurrent('over SRT', async () => {
    const { bytes, computedBytes } = await crossSrt(folder, { ...rendition, bFrames: 0 }, 0)
    expect(Math.abs(bytes / computedBytes - 1)).toBeLessThan(0.01)
  })
})
