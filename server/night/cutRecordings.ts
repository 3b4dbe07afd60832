import { mkdir, realpath, rename, rm, stat } from 'node:fs/promises'
import { basename, dirname, extname, isAbsolute, join, relative, resolve } from 'node:path'
import type { Cut } from '@green-mantle/core/night'
import { clockFace } from '@green-mantle/core/words'
import { ask } from '../measuring/encoderProgram'
import { safeFileName } from '../files/safeFileName'

/** A copy of hours takes as long as the disk does. */
const longestSeconds = 600

/** Whether a file lies in the folder of recordings, links followed; a night's log is written by others too. */
async function isWithin(folder: string, file: string): Promise<boolean> {
  const real = (path: string): Promise<string> => realpath(path).catch(() => resolve(path))
  const way = relative(await real(folder), await real(file))
  return way !== '' && !way.startsWith('..') && !isAbsolute(way)
}

/**
 * Cuts stretches out of recordings into files beside them, without encoding anything again: each begins
 * at the keyframe before. A cut that is there already is left. The files, and what could not be cut.
 */
export async function cutRecordings(
  cuts: readonly Cut[],
  folder: string,
): Promise<{ files: string[]; problems: string[] }> {
  const files: string[] = []
  const problems: string[] = []
  await mkdir(folder, { recursive: true })
  for (const { file, name, fromSeconds, lengthSeconds } of cuts) {
    if (!(await isWithin(folder, file))) {
      problems.push(`${file} is not in the folder of recordings.`)
      continue
    }
    const ending = extname(file)
    const at = clockFace(fromSeconds).replaceAll(':', '-')
    const what = [basename(file, ending), at, ...(name ? [safeFileName(name)] : [])].join(', ')
    const made = join(dirname(file), `${what}${ending}`)
    if (await stat(made).catch(() => null)) {
      files.push(made)
      continue
    }
    // Under another name until it is whole.
    const part = `${made}.part`
    const { worked, errors } = await ask(
      'ffmpeg',
      [
        ...['-hide_banner', '-nostdin', '-loglevel', 'error', '-y'],
        ...['-protocol_whitelist', 'file', '-ss', fromSeconds.toFixed(3), '-i', `file:${file}`],
        ...[
          '-t',
          lengthSeconds.toFixed(3),
          '-map',
          '0',
          '-c',
          'copy',
          '-f',
          'matroska',
          `file:${part}`,
        ],
      ],
      { timeLimitSeconds: longestSeconds },
    )
    if (worked) {
      await rename(part, made)
      files.push(made)
      continue
    }
    await rm(part, { force: true })
    problems.push(`${basename(file)}: ${errors.trim().split('\n').at(-1) ?? 'it could not be cut'}`)
  }
  return { files, problems }
}
