import { join } from 'node:path'
import type { CanvasName, Show } from '@green-mantle/core/show'
import { ProblemError } from '../http/problem'
import { ask, lastWords } from '../measuring/encoderProgram'

const clipSeconds = 4
/** A slow computer takes its time; whoever asked has an answer before a minute is over. */
const longestSeconds = 50

/** A moving picture with its time and frame count, and a tone: what a canvas shows where nothing else comes in. */
export async function makeTestClip(
  folder: string,
  show: Show,
  canvas: CanvasName,
): Promise<string> {
  const { width, height } = show.canvasPair[canvas]
  const rate = show.canvasPair.framesPerSecond
  const path = join(folder, `${canvas}.mkv`)
  const { worked, errors } = await ask(
    'ffmpeg',
    [
      ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi', '-i'],
      `testsrc2=size=${width}x${height}:rate=${rate}:duration=${clipSeconds},noise=alls=8:allf=t`,
      ...['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=48000:duration=${clipSeconds}`],
      // Cheap to decode, as what comes from a program on this computer would be.
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-tune', 'fastdecode', '-crf', '26'],
      ...['-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le', '-ac', '2', path],
    ],
    { timeLimitSeconds: longestSeconds },
  )
  if (!worked)
    throw new ProblemError({
      status: 503,
      title: 'The test picture could not be made',
      detail:
        lastWords(errors) ||
        `This computer took longer than ${longestSeconds} s for ${clipSeconds} s of the ${canvas} canvas: make the canvas smaller, or choose a media file. Nothing was started.`,
    })
  return path
}
