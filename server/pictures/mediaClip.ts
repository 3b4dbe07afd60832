import { join } from 'node:path'
import { isOfShape } from '@green-mantle/core/night'
import type { CanvasName, Show } from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { ProblemError } from '../http/problem'
import { lookAtClip, writeClip } from '../measuring/clip'
import { ask, lastWords } from '../measuring/encoderProgram'
import { readAs } from '../programs/fileInput'

/** A long file is copied as fast as the disk goes. */
const longestSeconds = 120

const refusal = (detail: string): ProblemError =>
  new ProblemError({ status: 422, title: 'This file cannot be sent as a canvas', detail })

/**
 * A person's own file as what a canvas shows, with a sound whether it has one or not, ready to be played
 * again and again. Throws in words where its picture is none or of another shape.
 */
export async function makeMediaClip(
  folder: string,
  show: Show,
  canvas: CanvasName,
  pieces: AsyncIterable<Buffer>,
): Promise<string> {
  const given = join(folder, `${canvas}.given`)
  const { signal } = new AbortController()
  const clip = await writeClip(given, pieces)
    .then(() => lookAtClip(given, { signal }))
    .catch((error: unknown) => {
      throw refusal((error as Error).message)
    })
  const wanted = show.canvasPair[canvas]
  if (!isOfShape(clip, wanted))
    throw refusal(
      `Its picture is ${sizeInWords(clip)} and the ${canvas} canvas is ${sizeInWords(wanted)}: it would be distorted.`,
    )
  // Matroska, as it is written here, would forget that a phone was held upright.
  const path = join(folder, `${canvas}.${clip.isTurned ? 'mov' : 'mkv'}`)
  const { worked, errors } = await ask(
    'ffmpeg',
    [
      ...['-loglevel', 'error', '-nostdin', '-y', ...readAs(clip.container), '-i', given],
      ...['-f', 'lavfi', '-i', 'anullsrc=r=48000:cl=stereo'],
      // Its own sound where it has one comes first; else silence as long as the picture.
      ...['-map', '0:v:0', '-map', '0:a:0?', '-map', '1:a:0', '-c:v', 'copy'],
      ...['-c:a', 'pcm_s16le', '-ar', '48000', '-ac', '2', '-shortest', path],
    ],
    { timeLimitSeconds: longestSeconds },
  )
  if (!worked) throw refusal(lastWords(errors) || 'It could not be read.')
  return path
}
