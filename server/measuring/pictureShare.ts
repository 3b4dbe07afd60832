import { type CanvasEncodes, pictureOnlyArguments } from '@green-mantle/core/encoding'
import { runProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { processorShareFromNow } from './processorTime'
import { ownInput } from '../programs/fileInput'

/** To begin takes more than to go on. */
const beginMilliseconds = 500
const measuredMilliseconds = 2000
const graceSeconds = 20

/**
 * What decoding and scaling take of the whole processor, 1 = all of it, of canvases that run at once at
 * real time without being encoded; null of one that could not be measured.
 */
export async function measurePictureShares(
  canvases: readonly { canvas: CanvasEncodes; clip: string }[],
  signal?: AbortSignal,
): Promise<(number | null)[]> {
  if (canvases.length === 0) return []
  const running = canvases.map(({ canvas, clip }) =>
    runProgram(
      systemPrograms.encoder,
      'ffmpeg',
      [
        ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-nostats'],
        ...pictureOnlyArguments(canvas, { input: ownInput(clip, '-re', '-stream_loop', '-1') }),
      ],
      { timeLimitSeconds: graceSeconds },
    ),
  )
  const pause = (milliseconds: number): Promise<void> =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, milliseconds)
      signal?.addEventListener('abort', () => {
        clearTimeout(timer)
        resolve()
      })
    })
  try {
    await pause(beginMilliseconds)
    const shares = running.map(({ pid }) => processorShareFromNow(pid))
    await pause(measuredMilliseconds)
    // Stopped early, it has seen too little.
    return signal?.aborted ? running.map(() => null) : shares.map((share) => share())
  } finally {
    await Promise.all(running.map((program) => program.kill()))
  }
}
