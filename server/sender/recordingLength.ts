import { ownInput } from '../programs/fileInput'
import { ask } from '../measuring/encoderProgram'

/** A recording of hours is read through as fast as the disk goes. */
const longestSeconds = 300

/** What the file says of itself, seconds; null where it was not closed as it should be. */
async function lengthSaid(file: string): Promise<number | null> {
  const { worked, output } = await ask('ffprobe', [
    ...['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', ...ownInput(file)],
  ])
  const seconds = Number.parseFloat(output)
  return worked && Number.isFinite(seconds) ? seconds : null
}

/** Up to its last packet, seconds; null where none can be read. */
async function lengthRead(file: string): Promise<number | null> {
  const { output } = await ask(
    'ffmpeg',
    [
      ...['-v', 'quiet', '-nostdin', '-nostats', '-progress', 'pipe:1', ...ownInput(file)],
      ...['-map', '0:v:0', '-c', 'copy', '-f', 'null', '-'],
    ],
    { timeLimitSeconds: longestSeconds },
  )
  const last = [...output.matchAll(/^out_time_us=(\d+)$/gm)].at(-1)?.[1]
  return last === undefined ? null : Number(last) / 1e6
}

/** How long a recording is, seconds; one that was never closed is as long as up to its last packet. */
export const recordingSeconds = async (file: string): Promise<number | null> =>
  (await lengthSaid(file)) ?? (await lengthRead(file))
