import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Rendition, Size } from '@green-mantle/core/show'
import { type Likeness, linedUp } from '@green-mantle/core/trial'
import { run, Stopped, type Work } from '../measuring/clip'
import { runProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { ownInput } from '../programs/fileInput'

/** What a canvas showed, again and again. */
export interface ShownCanvas extends Size {
  clip: string
  framesPerSecond: Rendition['framesPerSecond']
}

const ebml = '1a45dfa3'
/** A stretch is kept as it came: over RTMP as FLV, or as Matroska by its codec, else as a transport stream. */
function endingOf(arrived: Buffer): string {
  if (arrived.toString('latin1', 0, 3) === 'FLV') return '.flv'
  return arrived.toString('hex', 0, 4) === ebml ? '.mkv' : '.ts'
}

/** Small grey frames tell which is which; of a long clip the stretch lies in its first seconds. */
const small = { width: 32, height: 18 }
const lookedThroughSeconds = 20
/** How often frames are held against each other; every one would tell no more and take four times as long. */
const comparedEvery = 4
const longestSeconds = 30

async function smallFrames(
  path: string,
  framesPerSecond: number,
  { signal }: Work,
): Promise<Uint8Array[]> {
  const pieces: Buffer[] = []
  const program = runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    [
      ...['-hide_banner', '-nostdin', '-loglevel', 'error', '-t', `${lookedThroughSeconds}`],
      ...[...ownInput(path), '-an', '-vf'],
      `fps=${framesPerSecond},scale=${small.width}:${small.height}:flags=area,format=gray`,
      ...['-f', 'rawvideo', 'pipe:1'],
    ],
    {
      timeLimitSeconds: longestSeconds,
      maxOutputBytes: 10_000_000,
      onOutput: (piece) => pieces.push(piece),
    },
  )
  const kill = (): void => void program.kill()
  signal.addEventListener('abort', kill)
  await program.ended
  signal.removeEventListener('abort', kill)
  if (signal.aborted) throw new Stopped()
  const bytes = Buffer.concat(pieces)
  const frameBytes = small.width * small.height
  return Array.from({ length: Math.floor(bytes.length / frameBytes) }, (_, index) =>
    bytes.subarray(index * frameBytes, (index + 1) * frameBytes),
  )
}

/**
 * How alike a stretch that arrived is to what the canvas showed, frame against frame at the canvas's size
 * (SSIM of luma); null where the two cannot be lined up, as where frames were lost or the rate is no
 * part of the canvas's.
 */
export async function likenessOf(
  arrived: Buffer,
  framesPerSecond: number,
  shown: ShownCanvas,
  work: Work,
): Promise<Likeness | null> {
  const every = shown.framesPerSecond / framesPerSecond
  if (arrived.length === 0 || !Number.isInteger(every)) return null
  const path = join(work.folder, `arrived${endingOf(arrived)}`)
  await writeFile(path, arrived)
  const stretch = await smallFrames(path, framesPerSecond, work)
  const original = await smallFrames(shown.clip, shown.framesPerSecond, work)
  const found = linedUp(stretch, original, every)
  if (!found) return null
  const { start } = found
  const step = every * comparedEvery
  const said = await run(
    [
      ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info', ...ownInput(path)],
      ...[...ownInput(shown.clip, '-stream_loop', '2'), '-filter_complex'],
      [
        `[0:v]fps=${framesPerSecond},select='not(mod(n,${comparedEvery}))',scale=${shown.width}:${shown.height}:flags=bicubic,format=yuv420p,settb=AVTB,setpts=N/10/TB[a]`,
        `[1:v]fps=${shown.framesPerSecond},select='gte(n,${start})*not(mod(n-${start},${step}))',scale=${shown.width}:${shown.height}:flags=bicubic,format=yuv420p,settb=AVTB,setpts=N/10/TB[b]`,
        '[a][b]ssim=shortest=1',
      ].join(';'),
      ...['-frames:v', `${Math.ceil(stretch.length / comparedEvery)}`, '-f', 'null', '-'],
    ],
    'What arrived could not be held against what was sent.',
    work,
  )
  const ssim = /SSIM Y:([\d.]+)/.exec(said)?.[1]
  if (ssim === undefined) return null
  return {
    ssim: Math.min(1, Number(ssim)),
    comparedFrames: Math.ceil(stretch.length / comparedEvery),
  }
}
