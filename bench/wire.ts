import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { canCrossEncrypted, type CrossedRendition, crossSrt, crossTcp } from './crossing'
import type { Area, Figure } from './figure'

const rendition = (
  size: string,
  framesPerSecond: number,
  videoKbps: number,
  audioKbps: number,
  bFrames: number,
): CrossedRendition => ({ size, framesPerSecond, videoKbps, audioKbps, bFrames })

const renditions = {
  '240p30_400': rendition('426x240', 30, 400, 96, 0),
  '360p30_800': rendition('640x360', 30, 800, 128, 2),
  '720p30_2500': rendition('1280x720', 30, 2500, 128, 2),
  '720p60_4500': rendition('1280x720', 60, 4500, 160, 2),
  '1080p30_6000': rendition('1920x1080', 30, 6000, 320, 3),
  vertical_3000: rendition('720x1280', 30, 3000, 128, 0),
  '480p25_1200': rendition('854x480', 25, 1200, 192, 1),
  '540p50_2000': rendition('960x540', 50, 2000, 128, 2),
}

/** Bytes that crossed against bytes computed for the same frames, in percent: within 1 is wanted. */
const wire: Area = async () => {
  const folder = mkdtempSync(join(tmpdir(), 'green-mantle-wire-'))
  const figures: Figure[] = []
  try {
    for (const [name, each] of Object.entries(renditions)) {
      const off = async (
        label: string,
        crossing: Promise<{ bytes: number; computedBytes: number }>,
      ) => {
        const { bytes, computedBytes } = await crossing
        figures.push({
          name: `${name}_${label}_off`,
          value: 100 * (bytes / computedBytes - 1),
          unit: '%',
        })
      }
      await off('rtmp', crossTcp(folder, each, 'rtmp'))
      if (canCrossEncrypted()) {
        await off('rtmps', crossTcp(folder, each, 'rtmps'))
        await off('rtmps_small_chunks', crossTcp(folder, each, 'rtmps', 'small'))
      }
      for (const lossPercent of [0, 1, 3])
        await off(`srt_${lossPercent}_lost`, crossSrt(folder, each, lossPercent))
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
  return figures
}
export default wire
