import { runProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'

/** What a short question to the encoder program brings back. */
interface Answer {
  worked: boolean
  output: string
  errors: string
}

const questionSeconds = 20
const maxAnswerBytes = 2_000_000

interface AskOptions {
  timeLimitSeconds?: number
  /** Ends it early; it then has not worked. */
  signal?: AbortSignal
}

/** Runs FFmpeg or its probe to its end, for a limited time. Throws `ProgramMissing` where it is not there. */
export async function ask(
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  { timeLimitSeconds = questionSeconds, signal }: AskOptions = {},
): Promise<Answer> {
  let output = ''
  const running = runProgram(systemPrograms.encoder, program, args, {
    timeLimitSeconds,
    maxOutputBytes: maxAnswerBytes,
    onOutput: (chunk) => (output += chunk.toString('utf8')),
  })
  const kill = (): void => void running.kill()
  signal?.addEventListener('abort', kill)
  if (signal?.aborted) kill()
  const { code, stopped, errors } = await running.ended
  signal?.removeEventListener('abort', kill)
  const why = stopped === 'time is up' ? `It took longer than ${timeLimitSeconds} s.` : errors
  return { worked: code === 0 && stopped === null, output, errors: why }
}

/** The last line of what a program said, without what it says of itself. */
export const lastWords = (errors: string): string =>
  errors
    .trim()
    .split('\n')
    .at(-1)
    ?.replace(/^\[[^\]]*\] /, '') ?? ''

/** The program and its version, as in "FFmpeg 5.1.9". */
export async function programVersion(): Promise<string> {
  const { output } = await ask('ffmpeg', ['-version'])
  const version = /^ffmpeg version (\d+(?:\.\d+)*)?/.exec(output)?.[1]
  return version ? `FFmpeg ${version}` : 'FFmpeg, version not known'
}

/** The names of the video encoders that the program lists. */
export async function listedEncoders(): Promise<Set<string>> {
  const { output } = await ask('ffmpeg', ['-hide_banner', '-encoders'])
  return new Set([...output.matchAll(/^ V\S{5} (\S+)/gm)].map(([, name]) => name as string))
}
