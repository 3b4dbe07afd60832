import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import {
  carriesOf,
  type CarryTry,
  handedOverMuxer,
  muxers,
  softwareEncoders,
} from '@green-mantle/core/encoding'
import { codecs, type ComputerMeasured } from '@green-mantle/core/show'
import { makeWorkFolder } from '../files/workFolders'
import { ask } from './encoderProgram'

/** Encodes a moment of every codec into what it is sent in and reads it again: listed is not yet able. */
export async function askWhatIsCarried(): Promise<ComputerMeasured['carries']> {
  const folder = await makeWorkFolder('measuring')
  try {
    const pairs = codecs.flatMap((codec) =>
      [handedOverMuxer(codec), muxers.srt].map((muxer) => ({ codec, muxer })),
    )
    const tries = await Promise.all(
      pairs.map(async ({ codec, muxer }): Promise<CarryTry> => ({
        codec,
        muxer,
        readBackAs: await readBack(codec, muxer, join(folder, `${codec}.${muxer}`)),
      })),
    )
    return carriesOf(tries)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** SVT-AV1 hangs where its muxer does not take it. */
const trySeconds = 5

async function readBack(
  codec: CarryTry['codec'],
  muxer: string,
  path: string,
): Promise<string | null> {
  const made = await ask(
    'ffmpeg',
    [
      ...['-loglevel', 'error', '-nostdin', '-y'],
      ...['-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=30:duration=0.3'],
      ...['-pix_fmt', 'yuv420p', '-c:v', softwareEncoders[codec].name, '-b:v', '200k'],
      ...['-flags', '+global_header', '-f', muxer, path],
    ],
    { timeLimitSeconds: trySeconds },
  )
  if (!made.worked) return null
  const read = await ask('ffprobe', [
    ...['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'stream=codec_name'],
    ...['-of', 'default=noprint_wrappers=1:nokey=1', '-f', muxer, path],
  ])
  return read.output.trim().split('\n')[0] || null
}
