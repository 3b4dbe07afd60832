import { mkdir, realpath, rename, rm, stat } from 'node:fs/promises'
import { basename, dirname, extname, isAbsolute, join, relative, resolve } from 'node:path'
import type { Cut } from '@green-mantle/core/night'
import { clockFace } from '@green-mantle/core/words'
import { nanoid } from 'nanoid'
import { safeFileName } from '../files/safeFileName'
import { ask, lastWords } from '../measuring/encoderProgram'
import { containerOfOwn, readAs } from '../programs/fileInput'

/** A copy of hours takes as long as the disk does. */
const longestSeconds = 600

/** Whether a file lies in the folder of recordings, links followed; a night's log is written by others too. */
async function isWithin(folder: string, file: string): Promise<boolean> {
  const real = (path: string): Promise<string> => realpath(path).catch(() => resolve(path))
  const way = relative(await real(folder), await real(file))
  return way !== '' && !way.startsWith('..') && !isAbsolute(way)
}

/** So many bytes of a mark's name stand in the name of its file. */
const markNameBytes = 36

/** The whole of a cut in its name: two that begin at the same second are not the same. */
function nameOf({ file, name, fromSeconds, lengthSeconds }: Cut): string {
  const clock = (seconds: number): string => clockFace(seconds).replaceAll(':', '-')
  const stretch = `${clock(fromSeconds)} to ${clock(fromSeconds + lengthSeconds)}`
  const ending = extname(file)
  const words = name ? [safeFileName(name, markNameBytes)] : []
  return `${[basename(file, ending), stretch, ...words].join(', ')}${ending}`
}

/** Copies one stretch into a file beside; why it could not, or nothing. */
async function cut({ file, fromSeconds, lengthSeconds }: Cut, made: string): Promise<string> {
  const container = containerOfOwn(file)
  if (!container) return `${basename(file)} is no recording of ours.`
  // Under a name of its own until it is whole, whoever else cuts the same.
  const part = join(dirname(made), `.${nanoid(10)}.part`)
  const { worked, errors } = await ask(
    'ffmpeg',
    [
      ...['-hide_banner', '-nostdin', '-loglevel', 'error', '-y'],
      ...[...readAs(container), '-ss', fromSeconds.toFixed(3), '-i', `file:${file}`],
      ...['-t', lengthSeconds.toFixed(3), '-map', '0', '-c', 'copy', '-f', 'matroska'],
      `file:${part}`,
    ],
    { timeLimitSeconds: longestSeconds },
  )
  if (worked) await rename(part, made)
  else await rm(part, { force: true })
  return worked ? '' : `${basename(file)}: ${lastWords(errors) || 'it could not be cut'}`
}

/**
 * Cuts stretches out of recordings into files beside them, without encoding anything again: each begins
 * at the keyframe before. A cut that is there already is left. The files, and what could not be cut.
 */
export async function cutRecordings(
  cuts: readonly Cut[],
  folder: string,
): Promise<{ files: string[]; problems: string[] }> {
  const files = new Set<string>()
  const problems: string[] = []
  await mkdir(folder, { recursive: true })
  for (const each of cuts) {
    if (!(await isWithin(folder, each.file))) {
      problems.push(`${each.file} is not in the folder of recordings.`)
      continue
    }
    const made = join(dirname(each.file), nameOf(each))
    const isThere = await stat(made).then(
      () => true,
      () => false,
    )
    const problem = isThere ? '' : await cut(each, made)
    if (problem) problems.push(problem)
    else files.add(made)
  }
  return { files: [...files], problems }
}
