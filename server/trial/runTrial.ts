import { rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { performance } from 'node:perf_hooks'
import type { ListenedSend } from '@green-mantle/core/arrival'
import {
  canvasArguments,
  type CanvasEncodes,
  canvasEncodesOf,
  type EncodedOutput,
  escapedForList,
  plannedShareOf,
} from '@green-mantle/core/encoding'
import { type EncodingProgress, progressReader } from '@green-mantle/core/measured'
import { recordingMegabytes } from '@green-mantle/core/media'
import { type PracticeLineName, practiceLines } from '@green-mantle/core/network'
import { rehearsalKey } from '@green-mantle/core/rehearsal'
import type { CanvasName, Show } from '@green-mantle/core/show'
import {
  judgedSend,
  type Likeness,
  type TrialProcess,
  type TrialResult,
} from '@green-mantle/core/trial'
import { renditionInWords } from '@green-mantle/core/words'
import { makeWorkFolder } from '../files/workFolders'
import { pacedDatagrams, type PacedDatagrams } from '../line/pacedDatagrams'
import { ownHostRelay, type OwnHostRelay } from '../line/ownHostRelay'
import { pacedProxy, type PacedProxy } from '../line/pacedProxy'
import { type Pacer, practicePacer } from '../line/pacer'
import {
  arrivalOf,
  beginListening,
  listeningState,
  packetsOf,
  stretchOf,
} from '../listeners/listening'
import { measurePictureShares } from '../measuring/pictureShare'
import { processorShareOf } from '../measuring/processorTime'
import { makeMediaClip } from '../pictures/mediaClip'
import { makeTestClip } from '../pictures/testClip'
import { runProgram, type RunningProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { likenessOf } from './arrivedPicture'
import { asEncoded, beginRelayedSends, type RelayedSends } from './relayedSends'
import { ownInput } from '../programs/fileInput'

export interface TrialOptions {
  showId: string
  show: Show
  installation: string
  seconds: number
  /** null sends to the listeners as fast as they take it. */
  line: PracticeLineName | null
  /** The address of a host of the user's own that sends over RTMP go to instead; null for listeners here. */
  ownHost: string | null
  /** The file that a canvas shows; null for the moving test picture. */
  clips: Record<CanvasName, string | null>
  /** A stored file, piece by piece. */
  pieces: (fileId: string) => AsyncIterable<Buffer>
  signal: AbortSignal
  report: (stage: string) => void
}

const prepareGraceSeconds = 20
/** Holding a picture against its original takes a few seconds; nobody waits for that of fifty sends. */
const maxComparedEncodes = 8

/** Where an output of a trial goes: a listener, through the practice line where there is one, or a file. */
function addressIn(
  output: EncodedOutput,
  {
    listeners,
    through,
    relayed,
    folder,
  }: {
    listeners: ReadonlyMap<string, ListenedSend>
    /** What sends over RTMP go through instead of straight to their listeners; null where nothing is. */
    through: string | null
    relayed: RelayedSends
    folder: string
  },
): string {
  const { key, feed } = output
  if (feed.isRecording) return join(folder, `${feed.ownerId}.mkv`)
  const handedTo = relayed.addressOf(output)
  if (handedTo !== undefined) return handedTo
  const listener = listeners.get(key)
  // What nothing listens to goes nowhere, so that it is encoded all the same.
  if (!listener?.address) return join(folder, 'nowhere')
  // What comes in as datagrams the listener itself holds back.
  if (listener.address.startsWith('srt:'))
    return `${listener.address}?streamid=${listener.streamKey}`
  return `${through ?? listener.address}/${listener.streamKey}`
}

interface RunningCanvas {
  canvas: CanvasEncodes
  program: RunningProgram
  reports: (EncodingProgress & { atSeconds: number })[]
  share: () => number | null
}

function runCanvas(
  canvas: CanvasEncodes,
  clip: string,
  where: Parameters<typeof addressIn>[1],
  seconds: number,
): RunningCanvas {
  const looped = ownInput(clip, '-re', '-stream_loop', '-1')
  const args = canvasArguments(asEncoded(canvas), {
    input: looped,
    archiveMix: looped,
    addressOf: (output) => escapedForList(addressIn(output, where)),
  })
  const read = progressReader()
  const reports: RunningCanvas['reports'] = []
  const program = runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    [
      ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-nostats'],
      ...['-stats_period', '0.5', '-progress', 'pipe:3'],
      ...args,
    ],
    {
      timeLimitSeconds: seconds + prepareGraceSeconds,
      onProgress: (piece) => {
        const atSeconds = performance.now() / 1000
        for (const report of read(piece)) reports.push({ ...report, atSeconds })
      },
    },
  )
  return { canvas, program, reports, share: processorShareOf(program.pid) }
}

/** How fast a process went through its picture against real time, once it had got going; null where it never did. */
function speedOf(reports: RunningCanvas['reports']): number | null {
  const going = reports.filter(({ outSeconds }) => outSeconds > 0)
  const first = going[0]
  const last = going.at(-1)
  if (!first || !last || last.atSeconds <= first.atSeconds) return null
  const speed = (last.outSeconds - first.outSeconds) / (last.atSeconds - first.atSeconds)
  // It plays at real time, so that more than that is rounding.
  return Math.min(1, Math.round(speed * 100) / 100)
}

async function processResult(
  show: Show,
  { canvas, program, reports, share }: RunningCanvas,
  { stoppedByUs, pictureShare }: { stoppedByUs: boolean; pictureShare: number | null },
): Promise<TrialProcess> {
  const processorShare = share()
  // The last report comes with its end, when nothing has been encoded for a while.
  const speed = speedOf(reports)
  const end = await program.stop()
  return {
    canvas: canvas.canvas,
    encodes: canvas.encodes.map(({ encode }) => renditionInWords(encode.rendition)),
    speed,
    droppedFrames: reports.at(-1)?.droppedFrames ?? 0,
    ...{ processorShare, pictureShare },
    plannedShare: plannedShareOf(show, canvas),
    problem: stoppedByUs ? '' : end.errors.slice(-2000) || 'The encoder ended early.',
  }
}

/** Resolves when so much time is over, when it is stopped, or when a process ends by itself. */
async function untilOver(
  running: readonly RunningCanvas[],
  seconds: number,
  signal: AbortSignal,
): Promise<Set<RunningCanvas>> {
  const early = new Set<RunningCanvas>()
  await new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, seconds * 1000)
    const over = (): void => {
      clearTimeout(timer)
      resolve()
    }
    signal.addEventListener('abort', over, { once: true })
    for (const each of running)
      void each.program.ended.then(() => {
        early.add(each)
        if (early.size === running.length) over()
      })
  })
  return new Set(early)
}

const inputInWords = (files: readonly (string | null)[]): string => {
  if (files.every((file) => file === null)) return 'test picture'
  return files.includes(null)
    ? 'clip that was chosen, and the test picture beside it'
    : 'clip that was chosen'
}

/** An output whose picture is held against its canvas, and all that get it likewise. */
interface ComparedOutput {
  key: string
  canvas: CanvasName
  rendition: EncodedOutput['rendition']
  all: readonly EncodedOutput[]
}
/**
 * Over RTMP everything arrives or nothing, so that one output stands for all others of its encode; as
 * datagrams each loses what it loses.
 */
const comparedOutputs = (canvases: readonly CanvasEncodes[]): ComparedOutput[] =>
  canvases
    .flatMap(({ canvas, encodes }) =>
      encodes.flatMap(({ encode: { rendition }, outputs }) => {
        const sent = outputs.filter(({ feed }) => !feed.isRecording)
        const overRtmp = sent.filter(({ muxer }) => muxer === 'flv')
        const overDatagrams = sent.filter(({ muxer }) => muxer !== 'flv').map((output) => [output])
        return [overRtmp, ...overDatagrams].flatMap((all) =>
          all[0] ? [{ key: all[0].key, canvas, rendition, all }] : [],
        )
      }),
    )
    .slice(0, maxComparedEncodes)

/** What arrived of each encode held against its canvas, by the key of every output of it. */
async function likenessesOf({
  showId,
  show,
  compared,
  clips,
  folder,
  signal,
}: Pick<TrialOptions, 'showId' | 'show' | 'signal'> & {
  compared: readonly ComparedOutput[]
  clips: ReadonlyMap<CanvasName, string>
  folder: string
}): Promise<Map<string, Likeness>> {
  const found = new Map<string, Likeness>()
  for (const { key: comparedKey, canvas, rendition, all } of compared) {
    const arrived = await stretchOf(showId, comparedKey)
    if (arrived.length === 0 || signal.aborted) continue
    const shown = {
      ...show.canvasPair[canvas],
      clip: clips.get(canvas) as string,
      framesPerSecond: show.canvasPair.framesPerSecond,
    }
    // A trial is worth keeping also where this one look at it fails.
    const likeness = await likenessOf(arrived, rendition.framesPerSecond, shown, {
      folder,
      signal,
    }).catch(() => null)
    if (likeness) for (const { key } of all) found.set(key, likeness)
  }
  return found
}

/**
 * Runs the whole plan for a while: every encode at once on this computer, from a moving picture a
 * canvas, to listeners of ours that nobody watches. Leaves nothing running and no files.
 */
export async function runTrial(options: TrialOptions): Promise<TrialResult> {
  const { showId, show, seconds, line, ownHost, clips: files } = options
  const { signal, report, installation } = options
  const folder = await makeWorkFolder('trial')
  let pacer: Pacer | undefined
  let proxy: PacedProxy | undefined
  let relay: OwnHostRelay | undefined
  let datagrams: PacedDatagrams | undefined
  let relayed: RelayedSends | undefined
  /** What sends over RTMP go through on their way to where listeners hear them; null for straight there. */
  async function wayTo(listener: string): Promise<string | null> {
    const address = new URL(listener)
    if (ownHost !== null) {
      relay = await ownHostRelay(ownHost, Number(address.port))
      return relay.address
    }
    if (!pacer) return null
    proxy = await pacedProxy(Number(address.port), pacer)
    address.port = `${proxy.port}`
    return address.href
  }
  const running: RunningCanvas[] = []
  try {
    report('Making ready what the canvases show')
    const canvases = canvasEncodesOf(show)
    const compared = comparedOutputs(canvases)
    const clips = new Map<CanvasName, string>()
    for (const { canvas } of canvases) {
      const fileId = files[canvas]
      clips.set(
        canvas,
        fileId === null
          ? await makeTestClip(folder, show, canvas)
          : await makeMediaClip(folder, show, canvas, options.pieces(fileId)),
      )
    }
    if (line !== null) {
      pacer = practicePacer(practiceLines[line], {
        seed: 1,
        startHour: Number(show.startsAt.slice(11, 13)),
        durationSeconds: seconds + prepareGraceSeconds,
      })
      datagrams = pacedDatagrams(pacer)
    }
    await beginListening(showId, show, {
      watches: false,
      keeps: new Set(compared.map(({ key }) => key)),
      forgets: true,
      paced: datagrams ?? null,
    })
    const listeners = new Map((listeningState(showId)?.sends ?? []).map((send) => [send.key, send]))
    const rtmp = [...listeners.values()].find(({ address }) => address?.startsWith('rtmp:'))
    const through = rtmp?.address ? await wayTo(rtmp.address) : null
    report('Measuring what decoding and scaling take')
    const pictureShares = await measurePictureShares(
      canvases.map((canvas) => ({ canvas, clip: clips.get(canvas.canvas) as string })),
      signal,
    )
    if (!signal.aborted) {
      report('Sending')
      relayed = await beginRelayedSends(show, canvases, listeners, through)
      const where = { listeners, through, relayed, folder }
      for (const canvas of canvases)
        running.push(runCanvas(canvas, clips.get(canvas.canvas) as string, where, seconds))
      const began = performance.now()
      const early = await untilOver(running, seconds, signal)
      const triedSeconds = Math.max(1, Math.round((performance.now() - began) / 1000))
      report('Looking at what arrived')
      const outputs = canvases.flatMap(({ encodes }) => encodes.flatMap(({ outputs: own }) => own))
      // Judged before the senders are ended, so that what they still had in hand does not count.
      const heard = new Map((listeningState(showId)?.sends ?? []).map((send) => [send.key, send]))
      const arrivals = new Map(
        outputs.map(({ key }) => {
          const arrival = arrivalOf(showId, key)
          return [key, arrival && { ...arrival, frames: [...arrival.frames] }]
        }),
      )
      const processes = await Promise.all(
        running.map((each, index) =>
          processResult(show, each, {
            stoppedByUs: !early.has(each),
            pictureShare: pictureShares[index] ?? null,
          }),
        ),
      )
      const recordings = await Promise.all(
        outputs
          .filter(({ feed }) => feed.isRecording)
          .map(async (output) => ({
            name: output.feed.name,
            megabytes:
              (await stat(addressIn(output, where)).then(
                ({ size }) => size,
                () => 0,
              )) / 1e6,
            plannedMegabytes: recordingMegabytes(output.rendition, triedSeconds / 60),
          })),
      )
      report('Holding pictures against what was sent')
      const likenesses = await likenessesOf({ showId, show, compared, clips, folder, signal })
      const sends = outputs
        .filter(({ feed }) => !feed.isRecording)
        .map((output) =>
          judgedSend(show, output, {
            arrival: arrivals.get(output.key),
            report: heard.get(output.key)?.report ?? null,
            wireBytes: heard.get(output.key)?.wireBytes ?? null,
            packets: packetsOf(showId, output.key),
            likeness: likenesses.get(output.key) ?? null,
          }),
        )
      return {
        at: new Date().toISOString(),
        installation,
        seconds: triedSeconds,
        planKey: rehearsalKey(show),
        input: inputInWords(canvases.map(({ canvas }) => files[canvas])),
        line: line === null ? null : practiceLines[line].name,
        ownHost: relay && ownHost !== null ? new URL(ownHost).host : null,
        processes,
        sends,
        recordings,
      }
    }
    throw new Error('It was stopped before anything was sent.')
  } finally {
    await Promise.all(running.map(({ program }) => program.kill()))
    await relayed?.close()
    if (listeningState(showId)) await beginListening(showId, show)
    await proxy?.close()
    await relay?.close()
    datagrams?.close()
    pacer?.stop()
    await rm(folder, { recursive: true, force: true })
  }
}
