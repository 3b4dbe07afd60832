import { join } from 'node:path'
import type { CanvasName, Show } from '@green-mantle/core/show'
import { ask } from '../measuring/encoderProgram'

const clipSeconds = 4

/** A moving picture with its time and frame count, and a tone: what a canvas shows where nothing else comes in. */
export async function makeTestClip(
  folder: string,
  show: Show,
  canvas: CanvasName,
): Promise<string> {
  const { width, height } = show.canvasPair[canvas]
  const rate = show.canvasPair.framesPerSecond
  const path = join(folder, `${canvas}.mkv`)
  const { worked, errors } = await ask('ffmpeg', [
    ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi', '-i'],
    `testsrc2=size=${width}x${height}:rate=${rate}:duration=${clipSeconds},noise=alls=8:allf=t`,
    ...['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=48000:duration=${clipSeconds}`],
    // Cheap to decode, as what comes from a program on this computer would be.
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-tune', 'fastdecode', '-crf', '26'],
    ...['-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le', '-ac', '2', path],
  ])
  if (!worked) throw new Error(`The test picture of the ${canvas} canvas was not made. ${errors}`)
  return path
}
