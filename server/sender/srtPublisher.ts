import { rm } from 'node:fs/promises'
import { audioEncoders, srtAddressForProgram, srtSecretOptions } from '@green-mantle/core/encoding'
import { packetStream, type PacketStream } from '../listeners/packetStream'
import { makeWorkFolder } from '../files/workFolders'
import { runProgram } from '../programs/runProgram'
import { secretOptions } from '../programs/secretOptions'
import { systemPrograms } from '../programs/systemPrograms'
import type { Ingest, Publisher, SentPicture, SentSound } from './publisher'
import { type SrtWatch, watchSrt } from './srtWatch'

const longestSeconds = 7 * 24 * 3600
/** From the first packet on; the library itself gives up after three seconds. */
const connectMilliseconds = 10_000
const closeMilliseconds = 3000

/** AAC goes on as it comes. */
const soundArguments = ({ codec, bitrateKbps, channels }: SentSound): string[] =>
  codec === 'aac'
    ? []
    : ['-c:a', audioEncoders[codec], '-b:a', `${bitrateKbps}k`, '-ac', `${channels}`]

/** Read as what it is, from nowhere but where it is handed over. */
const readAs = (form: PacketStream['form']): string[] => [
  ...['-f', form, '-protocol_whitelist', 'pipe', '-format_whitelist', form, '-i', 'pipe:0'],
]

const argumentsFor = (
  address: string,
  { form, sound }: { form: PacketStream['form']; sound: SentSound },
  optionsPath: string | null,
): string[] => [
  ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-nostats'],
  ...['-stats_period', '0.2', '-progress', 'pipe:3'],
  ...['-analyzeduration', '500000', ...readAs(form)],
  // Its picture and sound; what else FLV tells of itself would be waited for in vain.
  ...['-map', '0:v', '-map', '0:a?', '-c', 'copy', ...soundArguments(sound)],
  ...['-f', 'mpegts', '-flush_packets', '1'],
  ...(optionsPath === null ? [] : ['-fpre', optionsPath]),
  address,
]

/**
 * Sends over SRT by the program that speaks it, which puts what comes into a transport stream and
 * encodes no picture. Stream ID and passphrase reach it through a pipe. Rejects, in words, where the
 * address or the key can't be one.
 */
export async function publishOverSrt(
  { address, key }: Ingest,
  { picture, sound }: { picture: SentPicture; sound: SentSound },
  signal: AbortSignal,
): Promise<Publisher> {
  const target = srtAddressForProgram(address)
  const options = srtSecretOptions(key)
  const folder = await makeWorkFolder('sender')
  try {
    const secret = options === '' ? null : await secretOptions(folder, options)
    if (signal.aborted) throw new Error('it was stopped')
    const watch = await watchOf(target)
    if (signal.aborted) watch?.close()
    signal.throwIfAborted()
    return begin(target, secret, { folder, picture, sound, signal, watch })
  } catch (error) {
    await rm(folder, { recursive: true, force: true })
    throw error
  }
}

/** Where the program calls, on the way to an ingest: seen, where it calls at all. */
function watchOf(target: string): Promise<SrtWatch | null> {
  const { hostname, port, searchParams } = new URL(target)
  if (!['', 'caller'].includes(searchParams.get('mode') ?? '')) return Promise.resolve(null)
  // A name that is not known is the program's to say.
  return watchSrt(hostname, Number(port)).catch(() => null)
}

interface Beginning {
  folder: string
  picture: SentPicture
  sound: SentSound
  signal: AbortSignal
  watch: SrtWatch | null
}

function begin(
  target: string,
  secret: Awaited<ReturnType<typeof secretOptions>> | null,
  { folder, picture, sound, signal, watch }: Beginning,
): Publisher {
  const { host, search } = new URL(target)
  const called = watch ? `srt://127.0.0.1:${watch.port}${search}` : target
  const stream = packetStream(picture.codec, picture)
  let isAccepted = false
  let accept: (isTaken: boolean) => void = () => {}
  const accepted = new Promise<boolean>((resolve) => (accept = resolve))
  const program = runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    argumentsFor(called, { form: stream.form, sound }, secret?.path ?? null),
    {
      timeLimitSeconds: longestSeconds,
      hasInput: true,
      // It tells how far it is only once the other side has taken it.
      onProgress: () => {
        isAccepted = true
        clearTimeout(deadline)
        accept(true)
      },
    },
  )
  let deadline: ReturnType<typeof setTimeout> | undefined
  const kill = (): void => void program.kill()
  signal.addEventListener('abort', kill, { once: true })
  const ended = program.ended.then(async ({ errors }) => {
    accept(false)
    clearTimeout(deadline)
    watch?.close()
    signal.removeEventListener('abort', kill)
    await rm(folder, { recursive: true, force: true })
    if (isAccepted) return 'the connection broke off'
    // Newer versions may have given the option up; the key is not put where others could read it.
    if (/Unrecognized option|splitting the argument list/i.test(errors))
      return 'the encoder program here takes no options from a file, so that no key can be given to it safely'
    return /REJECT|rejected/i.test(errors)
      ? `${host} refused it: its stream ID or passphrase is not taken, or another program sends there`
      : `nothing answers at ${host} over SRT`
  })
  secret?.handOver(ended).catch(kill)
  const input = program.input as NonNullable<typeof program.input>
  let takenBytes = 0
  const write = (bytes: Buffer): void => {
    if (!input.writable) return
    takenBytes += bytes.length
    input.write(bytes)
  }
  return {
    take(packet) {
      if (!isAccepted) deadline ??= setTimeout(kill, connectMilliseconds)
      write(stream.bytesOf(packet))
    },
    get waitingBytes() {
      return input.writableLength
    },
    get sentBytes() {
      return isAccepted ? takenBytes - input.writableLength : 0
    },
    ...(watch ? { onLine: () => watch.seen() } : {}),
    accepted,
    close() {
      if (!isAccepted) return kill()
      input.end()
      setTimeout(() => void program.stop(), closeMilliseconds).unref()
    },
    ended,
  }
}
